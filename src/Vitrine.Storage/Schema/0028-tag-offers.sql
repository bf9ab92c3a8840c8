-- A study's own tag that is offered to the shared set, and what the steward answered.
CREATE TABLE tag_offer (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  -- After a merge, the tag that it went into.
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  -- What it was called when it was offered.
  name TEXT NOT NULL,
  words TEXT NOT NULL,
  outcome TEXT CHECK (outcome IN ('accepted', 'merged', 'declined')),
  answer TEXT NOT NULL DEFAULT '',
  answered_by INTEGER REFERENCES account (id),
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX tag_offer_by_tag ON tag_offer (tag_id);
CREATE INDEX tag_offer_by_study ON tag_offer (study_id);
