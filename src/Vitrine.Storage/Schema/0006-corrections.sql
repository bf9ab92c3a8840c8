-- A source's text as it came in, kept from its first correction on.
CREATE TABLE source_original (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  source_id INTEGER NOT NULL UNIQUE REFERENCES source (id),
  text TEXT NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;

-- An observation whose words were changed or taken out by a correction and that nobody has looked at since.
CREATE TABLE correction_look (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  source_id INTEGER NOT NULL REFERENCES source (id),
  observation_id INTEGER NOT NULL UNIQUE REFERENCES observation (id),
  fate TEXT NOT NULL CHECK (fate IN ('changed', 'gone')),
  old_words TEXT NOT NULL,
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX correction_look_by_source ON correction_look (source_id);
