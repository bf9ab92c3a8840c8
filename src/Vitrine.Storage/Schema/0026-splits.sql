-- A wide tag that is being split, and what was decided so far. It is nobody's finding until it is done, and has no trail, like pens.
CREATE TABLE tag_split (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  study_id INTEGER NOT NULL REFERENCES study (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id) ON DELETE CASCADE,
  -- Whether an observation may go to several trays.
  several INTEGER NOT NULL DEFAULT 0 CHECK (several IN (0, 1)),
  UNIQUE (study_id, tag_id)
) STRICT;
CREATE INDEX tag_split_by_tag ON tag_split (tag_id);

-- A narrower tag on a key: one that is there, or the name of one that is made at the end.
CREATE TABLE split_tray (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  tag_split_id INTEGER NOT NULL REFERENCES tag_split (id) ON DELETE CASCADE,
  number INTEGER NOT NULL CHECK (number BETWEEN 1 AND 9),
  tag_id INTEGER REFERENCES tag (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  UNIQUE (tag_split_id, number)
) STRICT;
CREATE INDEX split_tray_by_tag ON split_tray (tag_id);

CREATE TABLE split_decision (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  tag_split_id INTEGER NOT NULL REFERENCES tag_split (id) ON DELETE CASCADE,
  observation_id INTEGER NOT NULL REFERENCES observation (id) ON DELETE CASCADE,
  -- What was decided at once is taken back at once.
  batch INTEGER NOT NULL,
  outcome TEXT NOT NULL CHECK (outcome IN ('trays', 'unsure', 'wide')),
  -- JSON: numbers of trays.
  trays TEXT NOT NULL,
  UNIQUE (tag_split_id, observation_id)
) STRICT;
CREATE INDEX split_decision_by_observation ON split_decision (observation_id);
CREATE INDEX split_decision_by_batch ON split_decision (tag_split_id, batch);
