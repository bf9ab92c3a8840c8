-- Which research questions a theme answers.
CREATE TABLE theme_question (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  theme_id INTEGER NOT NULL REFERENCES theme (id),
  research_question_id INTEGER NOT NULL REFERENCES research_question (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (theme_id, research_question_id)
) STRICT;
CREATE INDEX theme_question_by_question ON theme_question (research_question_id);

-- Observations that somebody has looked at and left out of all themes on purpose.
CREATE TABLE left_out (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  observation_id INTEGER NOT NULL UNIQUE REFERENCES observation (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;

-- Which steps took back or redid another one.
CREATE INDEX action_by_reversed ON action (reverses) WHERE reverses IS NOT NULL;
