-- A file that is kept as it is: it stands in the data folder under media/, named by its SHA-256; here is only what it is called. Two rows may share one file.
CREATE TABLE media (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  hash TEXT NOT NULL,
  name TEXT NOT NULL,
  type TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX media_by_hash ON media (hash);
CREATE INDEX media_by_study ON media (study_id);

CREATE TABLE folder (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  name TEXT NOT NULL,
  position INTEGER NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX folder_by_study ON folder (study_id, position);

ALTER TABLE source ADD COLUMN media_id INTEGER REFERENCES media (id);
ALTER TABLE source ADD COLUMN folder_id INTEGER REFERENCES folder (id);
CREATE INDEX source_by_media ON source (media_id);
CREATE INDEX source_by_folder ON source (folder_id);

-- Headings, lists, tables, bold, italics and pages of a document as JSON, all by positions in its text.
CREATE TABLE source_shape (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  source_id INTEGER NOT NULL UNIQUE REFERENCES source (id),
  shape TEXT NOT NULL
) STRICT;

-- Which row of a survey became whom, so that a grown table adds only its new rows.
CREATE TABLE survey (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  name TEXT NOT NULL,
  columns TEXT NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX survey_by_study ON survey (study_id);

CREATE TABLE survey_row (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  survey_id INTEGER NOT NULL REFERENCES survey (id),
  row_key TEXT NOT NULL,
  content_hash TEXT NOT NULL,
  participant_id INTEGER REFERENCES participant (id),
  source_id INTEGER REFERENCES source (id),
  UNIQUE (survey_id, row_key)
) STRICT;
CREATE INDEX survey_row_by_participant ON survey_row (participant_id);
CREATE INDEX survey_row_by_source ON survey_row (source_id);

-- Long work, outside the trail: what it makes is in the trail under the job's own key, so that a job that is run again after a crash makes nothing twice.
CREATE TABLE job (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  account_id INTEGER NOT NULL REFERENCES account (id),
  kind TEXT NOT NULL CHECK (kind IN ('file', 'survey')),
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
CREATE INDEX job_by_study ON job (study_id, account_id, id);
CREATE INDEX job_by_state ON job (state, id);
