-- Two tags that look alike and are not the same: they are not listed as near-twins again.
CREATE TABLE tag_apart (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  other_tag_id INTEGER NOT NULL REFERENCES tag (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  CHECK (tag_id < other_tag_id),
  UNIQUE (tag_id, other_tag_id)
) STRICT;
CREATE INDEX tag_apart_by_other ON tag_apart (other_tag_id);
