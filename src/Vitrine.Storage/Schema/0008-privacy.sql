-- A stretch of a source's text that leaves the team only as its replacement. It stands over the text, never in it, so that the team can take it off again.
CREATE TABLE mask (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  source_id INTEGER NOT NULL REFERENCES source (id),
  start INTEGER NOT NULL,
  "end" INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('name', 'emailAddress', 'phoneNumber', 'word')),
  replacement TEXT NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  CHECK (start >= 0 AND "end" > start)
) STRICT;
CREATE INDEX mask_by_source ON mask (source_id, start);

-- A step of which something was erased for good: it cannot be undone any more.
ALTER TABLE action ADD COLUMN erased INTEGER NOT NULL DEFAULT 0;

-- What was erased, without a word of it: so that a backup from before can be told from one after.
CREATE TABLE erasure (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  study_id INTEGER NOT NULL REFERENCES study (id),
  account_id INTEGER NOT NULL REFERENCES account (id),
  at TEXT NOT NULL,
  sources INTEGER NOT NULL,
  observations INTEGER NOT NULL,
  -- Whether the file was made anew since, so that no page of it holds what stood there.
  cleaned INTEGER NOT NULL DEFAULT 0
) STRICT;
