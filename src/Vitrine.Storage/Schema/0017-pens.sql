-- Which tags a person has on the keys 1 to 9 in a study. It is nobody's finding and has no trail, like how far somebody has read.
CREATE TABLE pen (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  account_id INTEGER NOT NULL REFERENCES account (id),
  study_id INTEGER NOT NULL REFERENCES study (id),
  number INTEGER NOT NULL CHECK (number BETWEEN 1 AND 9),
  tag_id INTEGER NOT NULL REFERENCES tag (id) ON DELETE CASCADE,
  UNIQUE (account_id, study_id, number)
) STRICT;
CREATE INDEX pen_by_study ON pen (study_id);
CREATE INDEX pen_by_tag ON pen (tag_id);
