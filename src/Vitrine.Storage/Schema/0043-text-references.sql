-- What a text with form speaks of or shows: a row for each thing that it refers to, so that whatever asks what uses a thing finds the text.
CREATE TABLE text_reference (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER REFERENCES study (id),
  -- The row whose text it is.
  holder_kind TEXT NOT NULL,
  holder_id INTEGER NOT NULL,
  -- What the text refers to.
  thing_kind TEXT NOT NULL,
  thing_id INTEGER NOT NULL,
  UNIQUE (holder_kind, holder_id, thing_kind, thing_id)
) STRICT;
CREATE INDEX text_reference_by_thing ON text_reference (thing_kind, thing_id);
CREATE INDEX text_reference_by_study ON text_reference (study_id);
