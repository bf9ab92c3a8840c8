-- Conditions kept by name, offered wherever things are listed or counted.
CREATE TABLE saved_filter (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  name TEXT NOT NULL,
  -- JSON: what Conditions of the core writes.
  conditions TEXT NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX saved_filter_by_study ON saved_filter (study_id);

-- A source that several people tag without seeing each other's marks, until it is opened: by the last who says done, or by hand.
CREATE TABLE blind_tagging (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  source_id INTEGER NOT NULL UNIQUE REFERENCES source (id),
  opened_at TEXT,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX blind_tagging_by_study ON blind_tagging (study_id);

CREATE TABLE blind_tagger (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  blind_tagging_id INTEGER NOT NULL REFERENCES blind_tagging (id),
  account_id INTEGER NOT NULL REFERENCES account (id),
  done_at TEXT,
  UNIQUE (blind_tagging_id, account_id)
) STRICT;

-- What two people who had marked a passage differently have come to.
CREATE TABLE settlement (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  source_id INTEGER NOT NULL REFERENCES source (id),
  first_account_id INTEGER NOT NULL REFERENCES account (id),
  second_account_id INTEGER NOT NULL REFERENCES account (id),
  outcome TEXT NOT NULL CHECK (outcome IN ('first', 'second', 'both', 'neither', 'talk')),
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX settlement_by_source ON settlement (source_id);
CREATE INDEX settlement_by_study ON settlement (study_id);

-- A tag on an observation that was settled; one that was taken away is still known as what its author had marked.
CREATE TABLE settled_mark (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  settlement_id INTEGER NOT NULL REFERENCES settlement (id),
  observation_id INTEGER NOT NULL REFERENCES observation (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  taken INTEGER NOT NULL CHECK (taken IN (0, 1)),
  -- How it stood when it was taken away: what it had on the tag's scale, whether it was an example, who had given it when.
  value REAL,
  example INTEGER NOT NULL CHECK (example IN (0, 1)),
  given_by INTEGER NOT NULL REFERENCES account (id),
  given_at TEXT NOT NULL,
  UNIQUE (settlement_id, observation_id, tag_id)
) STRICT;
CREATE INDEX settled_mark_by_observation ON settled_mark (observation_id);
CREATE INDEX settled_mark_by_tag ON settled_mark (tag_id);
