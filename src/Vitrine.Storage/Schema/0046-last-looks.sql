-- When each person has last looked at what lies on the sorting table of a study, and the newest rows that were there then: what has a higher
-- id has come since.
CREATE TABLE sorting_look (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  account_id INTEGER NOT NULL REFERENCES account (id),
  study_id INTEGER NOT NULL REFERENCES study (id) ON DELETE CASCADE,
  looked_at TEXT NOT NULL,
  newest_observation INTEGER NOT NULL,
  newest_tagging INTEGER NOT NULL,
  newest_laying INTEGER NOT NULL,
  UNIQUE (account_id, study_id)
) STRICT;
