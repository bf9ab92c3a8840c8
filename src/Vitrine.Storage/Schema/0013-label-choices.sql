-- What a person said of a label in a transcript: whether it is a speaker's name. Turns are read by it from then on.
CREATE TABLE label_choice (
  id INTEGER PRIMARY KEY,
  source_id INTEGER NOT NULL REFERENCES source (id),
  label TEXT NOT NULL,
  speaks INTEGER NOT NULL,
  UNIQUE (source_id, label)
);
