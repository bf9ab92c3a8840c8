-- Suggestions that somebody has asked for: which tags or observations may belong together, or in which theme. Nothing of them is applied
-- before it is accepted. What was refused stays here, so that it is not suggested again.
CREATE TABLE suggestion (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  study_id INTEGER NOT NULL REFERENCES study (id),
  kind TEXT NOT NULL CHECK (kind IN ('themes', 'placing', 'parts')),
  -- The theme that is broken up.
  theme_id INTEGER REFERENCES theme (id),
  put_away INTEGER NOT NULL DEFAULT 0 CHECK (put_away IN (0, 1)),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX suggestion_by_study ON suggestion (study_id);
CREATE INDEX suggestion_by_theme ON suggestion (theme_id);

-- What may become a theme, or is one.
CREATE TABLE suggested_group (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  suggestion_id INTEGER NOT NULL REFERENCES suggestion (id),
  position INTEGER NOT NULL,
  -- The claim, as far as somebody has written one.
  title TEXT NOT NULL DEFAULT '',
  theme_id INTEGER REFERENCES theme (id),
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX suggested_group_by_suggestion ON suggested_group (suggestion_id);
CREATE INDEX suggested_group_by_theme ON suggested_group (theme_id);

CREATE TABLE suggested_item (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  suggestion_id INTEGER NOT NULL REFERENCES suggestion (id),
  -- Where it may belong, or was put; null for nowhere, and for what is looked up each time anew.
  suggested_group_id INTEGER REFERENCES suggested_group (id),
  pile TEXT NOT NULL CHECK (pile IN ('fits', 'unsure', 'alone', 'mixed', 'refused')),
  tag_id INTEGER REFERENCES tag (id),
  observation_id INTEGER REFERENCES observation (id),
  answer TEXT NOT NULL DEFAULT 'open' CHECK (answer IN ('open', 'later', 'accepted', 'refused')),
  CHECK ((tag_id IS NULL) <> (observation_id IS NULL))
) STRICT;
CREATE INDEX suggested_item_by_suggestion ON suggested_item (suggestion_id);
CREATE INDEX suggested_item_by_group ON suggested_item (suggested_group_id);
CREATE INDEX suggested_item_by_tag ON suggested_item (tag_id);
CREATE INDEX suggested_item_by_observation ON suggested_item (observation_id);
