-- What looks like a name or a masked word and is none: it stands in what leaves, wherever the same words stand before and after it.
CREATE TABLE let_stand (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  -- The words by their letters, with those before and after.
  words TEXT NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (study_id, words)
) STRICT;
