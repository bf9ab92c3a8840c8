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
-- So does a page of a document as a picture.
ALTER TABLE source ADD COLUMN still_page INTEGER;
CREATE INDEX source_by_still ON source (still_of_id) WHERE still_of_id IS NOT NULL;

-- A transcript that was attached to its recording, or made from it; others run with the recording of their session. Who wrote it down
-- says how far it can be trusted; null for people.
ALTER TABLE source ADD COLUMN in_step_with_id INTEGER REFERENCES source (id);
ALTER TABLE source ADD COLUMN written_by TEXT CHECK (written_by IN ('simulated', 'pocketsphinx'));
CREATE INDEX source_by_in_step ON source (in_step_with_id) WHERE in_step_with_id IS NOT NULL;

-- Two more kinds of job. Nothing points to jobs.
CREATE TABLE job_anew (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  account_id INTEGER NOT NULL REFERENCES account (id),
  kind TEXT NOT NULL CHECK (kind IN ('file', 'survey', 'recording', 'transcription')),
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

-- With which recording a transcript runs: the one it is attached to, or the first of its session that is ready.
CREATE VIEW in_step AS
SELECT s.id AS transcript_id, coalesce(s.in_step_with_id, (
  SELECT r.id FROM source r JOIN media m ON m.id = r.media_id JOIN recording q ON q.hash = m.hash
  WHERE r.session_id = s.session_id AND r.id <> s.id ORDER BY r.position, r.id LIMIT 1
)) AS recording_id FROM source s WHERE s.length > 0;

-- How people are protected in what leaves of a recording or picture; what came in stays as it is.
CREATE TABLE protection (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  source_id INTEGER NOT NULL UNIQUE REFERENCES source (id),
  voice_changed INTEGER NOT NULL CHECK (voice_changed IN (0, 1)),
  -- Parts of the picture that are covered, as JSON.
  covers TEXT NOT NULL
) STRICT;

-- A free outline around a part of a picture, as SVG writes points; the rectangle is the least box around it.
ALTER TABLE observation ADD COLUMN outline TEXT;
ALTER TABLE margin_note ADD COLUMN outline TEXT;
