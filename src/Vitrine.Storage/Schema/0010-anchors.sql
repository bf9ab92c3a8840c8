-- Where an observation stands: a range of text (code units), a range of time (milliseconds), or a region of a picture (ten-thousandths of its width and height, and the moment in begin_ms when it is a frame).
-- The table is made anew, as its range may now be absent; links to it are by its name, and stay.
CREATE TABLE observation_anew (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  source_id INTEGER NOT NULL REFERENCES source (id),
  anchor TEXT NOT NULL DEFAULT 'text' CHECK (anchor IN ('text', 'time', 'region')),
  start INTEGER,
  "end" INTEGER,
  begin_ms INTEGER,
  end_ms INTEGER,
  x INTEGER,
  y INTEGER,
  width INTEGER,
  height INTEGER,
  note TEXT NOT NULL DEFAULT '',
  sentiment TEXT CHECK (sentiment IN ('negative', 'neutral', 'positive', 'mixed')),
  starred INTEGER NOT NULL DEFAULT 0,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL,
  CHECK ((anchor = 'text') = (start IS NOT NULL) AND (anchor = 'text') = ("end" IS NOT NULL) AND (anchor = 'time') = (end_ms IS NOT NULL) AND (anchor = 'region') = (x IS NOT NULL)),
  CHECK (CASE anchor
    WHEN 'text' THEN start >= 0 AND "end" > start AND begin_ms IS NULL
    WHEN 'time' THEN coalesce(begin_ms, -1) >= 0 AND end_ms > begin_ms
    ELSE coalesce(begin_ms, 0) >= 0 AND coalesce(x >= 0 AND y >= 0 AND width > 0 AND height > 0 AND x + width <= 10000 AND y + height <= 10000, 0) END)
) STRICT;
INSERT INTO observation_anew (id, key, study_id, source_id, start, "end", note, sentiment, starred, version, created_by, created_at, updated_at)
  SELECT id, key, study_id, source_id, start, "end", note, sentiment, starred, version, created_by, created_at, updated_at FROM observation;
-- Ids are never used twice, those of observations that are gone neither.
DELETE FROM sqlite_sequence WHERE name = 'observation_anew';
INSERT INTO sqlite_sequence (name, seq) SELECT 'observation_anew', seq FROM sqlite_sequence WHERE name = 'observation';
DROP TABLE observation;
ALTER TABLE observation_anew RENAME TO observation;
CREATE INDEX observation_by_source ON observation (source_id, start);
CREATE INDEX observation_by_study ON observation (study_id, id);
