-- Where feedback from outside arrives.
CREATE TABLE channel (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE,
  kind TEXT NOT NULL CHECK (kind IN ('simulated', 'feed', 'mail', 'endpoint')),
  token_hash TEXT UNIQUE,
  created_at TEXT NOT NULL
) STRICT;

-- What arrived, as it is: post that came in, not yet anybody's work, so it is outside the trail. What is done with it is in the trail.
CREATE TABLE feedback (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  outer_id TEXT NOT NULL,
  sender TEXT NOT NULL,
  title TEXT NOT NULL,
  text TEXT NOT NULL,
  rating REAL,
  written_at TEXT NOT NULL,
  created_at TEXT NOT NULL,
  UNIQUE (channel_id, outer_id)
) STRICT;

CREATE TABLE watch (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  name TEXT NOT NULL,
  rule TEXT NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX watch_by_study ON watch (study_id);

-- A piece of feedback in a study: which watch put it there and by what (a person: no watch), and what became of it.
CREATE TABLE routing (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  feedback_id INTEGER NOT NULL REFERENCES feedback (id),
  watch_name TEXT NOT NULL,
  met TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('waiting', 'kept', 'dismissed')),
  source_id INTEGER REFERENCES source (id),
  created_at TEXT NOT NULL,
  UNIQUE (study_id, feedback_id)
) STRICT;
CREATE INDEX routing_by_feedback ON routing (feedback_id);
CREATE INDEX routing_by_source ON routing (source_id);
