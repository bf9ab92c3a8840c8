-- Notes that are taken while a session runs: a clock that began at one moment, and lines of several people on it. When they end, they become a source.
CREATE TABLE live_notes (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  session_id INTEGER NOT NULL REFERENCES session (id),
  begun_at TEXT NOT NULL,
  ended_at TEXT,
  source_id INTEGER REFERENCES source (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX live_notes_running ON live_notes (session_id) WHERE ended_at IS NULL;
CREATE INDEX live_notes_by_study ON live_notes (study_id);
CREATE INDEX live_notes_by_source ON live_notes (source_id);

CREATE TABLE live_line (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  live_notes_id INTEGER NOT NULL REFERENCES live_notes (id),
  begin_ms INTEGER NOT NULL CHECK (begin_ms >= 0),
  end_ms INTEGER NOT NULL CHECK (end_ms >= begin_ms),
  words TEXT NOT NULL,
  starred INTEGER NOT NULL DEFAULT 0,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX live_line_by_notes ON live_line (live_notes_id, begin_ms, id);

CREATE TABLE live_line_tag (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  live_line_id INTEGER NOT NULL REFERENCES live_line (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  UNIQUE (live_line_id, tag_id)
) STRICT;
CREATE INDEX live_line_tag_by_tag ON live_line_tag (tag_id);

-- What is added to a source's own times, in milliseconds, to have those of the recording of its session.
ALTER TABLE source ADD COLUMN offset_ms INTEGER NOT NULL DEFAULT 0;
