-- What was held on one day with some people, and the sources that came of it.
CREATE TABLE session (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  title TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('interview', 'usabilityTest', 'groupDiscussion', 'visit')),
  held_on TEXT,
  minutes INTEGER CHECK (minutes > 0),
  moderator TEXT NOT NULL DEFAULT '',
  position INTEGER NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX session_by_study ON session (study_id, position);

CREATE TABLE session_participant (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  session_id INTEGER NOT NULL REFERENCES session (id),
  participant_id INTEGER NOT NULL REFERENCES participant (id),
  UNIQUE (session_id, participant_id)
) STRICT;
CREATE INDEX session_participant_by_participant ON session_participant (participant_id);

ALTER TABLE source ADD COLUMN session_id INTEGER REFERENCES session (id);
CREATE INDEX source_by_session ON source (session_id);

-- Everyone who takes part in a source: those set on it, or where none are set those of its session; and everyone matched to a speaker.
CREATE VIEW source_person AS
  SELECT s.study_id, s.id AS source_id, p.participant_id FROM source s JOIN source_participant p ON p.source_id = s.id
  UNION SELECT s.study_id, s.id, p.participant_id FROM source s JOIN speaker p ON p.source_id = s.id WHERE p.participant_id IS NOT NULL
  UNION SELECT s.study_id, s.id, p.participant_id FROM source s JOIN session_participant p ON p.session_id = s.session_id
    WHERE NOT EXISTS (SELECT 1 FROM source_participant x WHERE x.source_id = s.id);

ALTER TABLE participant ADD COLUMN consent TEXT NOT NULL DEFAULT 'asked' CHECK (consent IN ('asked', 'given', 'limited', 'withdrawn'));

-- A file of any type that is kept as it is; it holds no evidence, but may be the context of an insight.
CREATE TABLE attachment (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  media_id INTEGER NOT NULL REFERENCES media (id),
  title TEXT NOT NULL,
  note TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX attachment_by_study ON attachment (study_id, id);
CREATE INDEX attachment_by_media ON attachment (media_id);

CREATE TABLE attachment_tag (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  attachment_id INTEGER NOT NULL REFERENCES attachment (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (attachment_id, tag_id)
) STRICT;
CREATE INDEX attachment_tag_by_tag ON attachment_tag (tag_id);

CREATE TABLE insight_attachment (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  insight_id INTEGER NOT NULL REFERENCES insight (id),
  attachment_id INTEGER NOT NULL REFERENCES attachment (id),
  position INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (insight_id, attachment_id)
) STRICT;
CREATE INDEX insight_attachment_by_attachment ON insight_attachment (attachment_id);
