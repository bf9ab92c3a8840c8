-- What is known of a file of sound or film by looking at it, by the file's hash; it can be found out again, and has no trail.
CREATE TABLE recording (
  id INTEGER PRIMARY KEY,
  hash TEXT NOT NULL UNIQUE,
  length_ms INTEGER NOT NULL CHECK (length_ms >= 0),
  sounds INTEGER NOT NULL CHECK (sounds IN (0, 1)),
  width INTEGER,
  height INTEGER,
  -- The type of the copy that browsers can play, where they cannot play the file itself.
  copy_type TEXT
) STRICT;

-- A frame of a film as a picture knows its film and its moment.
ALTER TABLE source ADD COLUMN still_of_id INTEGER REFERENCES source (id);
ALTER TABLE source ADD COLUMN still_at_ms INTEGER;
CREATE INDEX source_by_still ON source (still_of_id) WHERE still_of_id IS NOT NULL;

-- One more kind of job. Nothing points to jobs.
CREATE TABLE job_anew (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  account_id INTEGER NOT NULL REFERENCES account (id),
  kind TEXT NOT NULL CHECK (kind IN ('file', 'survey', 'recording')),
  state TEXT NOT NULL CHECK (state IN ('sending', 'waiting', 'working', 'same', 'table', 'done', 'refused', 'cancelled')),
  name TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  modified TEXT NOT NULL DEFAULT '',
  given TEXT NOT NULL DEFAULT '{}',
  hash TEXT,
  said TEXT NOT NULL DEFAULT '',
  source_id INTEGER,
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL
) STRICT;
INSERT INTO job_anew SELECT id, key, study_id, account_id, kind, state, name, bytes, modified, given, hash, said, source_id, created_at, updated_at FROM job;
DELETE FROM sqlite_sequence WHERE name = 'job_anew';
INSERT INTO sqlite_sequence (name, seq) SELECT 'job_anew', seq FROM sqlite_sequence WHERE name = 'job';
DROP TABLE job;
ALTER TABLE job_anew RENAME TO job;
CREATE INDEX job_by_study ON job (study_id, account_id, id);
CREATE INDEX job_by_state ON job (state, id);
