-- Whether a search made an observation that nobody has looked at yet: found, not reviewed.
ALTER TABLE observation ADD COLUMN found INTEGER NOT NULL DEFAULT 0 CHECK (found IN (0, 1));
CREATE INDEX observation_by_found ON observation (study_id) WHERE found = 1;

-- A search that was tagged with, kept with its tag to be run again on what has come in since.
CREATE TABLE tag_search (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  typed TEXT NOT NULL,
  unit TEXT NOT NULL CHECK (unit IN ('sentence', 'paragraph', 'turn', 'turnWithQuestion')),
  -- Whether words of the team are looked through too.
  team INTEGER NOT NULL DEFAULT 0 CHECK (team IN (0, 1)),
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX tag_search_by_tag ON tag_search (tag_id);
CREATE INDEX tag_search_by_study ON tag_search (study_id);

-- A passage that is not meant by a tag: it is not offered for it again. It is known by the hash of its words.
CREATE TABLE refused_passage (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  source_id INTEGER NOT NULL REFERENCES source (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  words_hash TEXT NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (tag_id, source_id, words_hash)
) STRICT;
CREATE INDEX refused_passage_by_source ON refused_passage (source_id);
CREATE INDEX refused_passage_by_study ON refused_passage (study_id);
