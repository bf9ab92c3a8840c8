-- A remark on a place of a source which is not (yet) evidence. It stands where an observation can stand, by the same columns.
CREATE TABLE margin_note (
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
  words TEXT NOT NULL,
  unsure INTEGER NOT NULL DEFAULT 0 CHECK (unsure IN (0, 1)),
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
CREATE INDEX margin_note_by_source ON margin_note (source_id, start);
CREATE INDEX margin_note_by_study ON margin_note (study_id, id);
