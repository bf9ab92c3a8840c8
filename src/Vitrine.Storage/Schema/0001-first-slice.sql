-- Every table below "research data" is written only through Trail/Writing.cs.
-- Ids are never used twice (AUTOINCREMENT), so that a row put back by undo finds its old place free.

CREATE TABLE account (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  email TEXT NOT NULL UNIQUE COLLATE NOCASE,
  role TEXT NOT NULL CHECK (role IN ('steward', 'researcher', 'noteTaker', 'reader')),
  password_hash TEXT NOT NULL,
  created_at TEXT NOT NULL
) STRICT;

-- The trail: one action is one step of one person; a change holds a row as it was and as it became.
CREATE TABLE action (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  account_id INTEGER NOT NULL REFERENCES account (id),
  study_id INTEGER,
  label TEXT NOT NULL,
  at TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('do', 'undo', 'redo')),
  reverses INTEGER REFERENCES action (id),
  undone INTEGER NOT NULL DEFAULT 0
) STRICT;
CREATE INDEX action_by_person ON action (account_id, study_id, id);

CREATE TABLE change (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  action_id INTEGER NOT NULL REFERENCES action (id),
  table_name TEXT NOT NULL,
  row_id INTEGER NOT NULL,
  before TEXT,
  after TEXT
) STRICT;
CREATE INDEX change_by_action ON change (action_id);
CREATE INDEX change_by_row ON change (table_name, row_id);

-- research data

CREATE TABLE study (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  title TEXT NOT NULL,
  purpose TEXT NOT NULL,
  method TEXT NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL
) STRICT;

CREATE TABLE research_question (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  position INTEGER NOT NULL,
  text TEXT NOT NULL
) STRICT;

CREATE TABLE participant (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  code TEXT NOT NULL,
  pseudonym TEXT NOT NULL,
  real_name TEXT,
  position INTEGER NOT NULL,
  version INTEGER NOT NULL,
  UNIQUE (study_id, code)
) STRICT;

CREATE TABLE attribute (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  study_id INTEGER NOT NULL REFERENCES study (id),
  name TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('choice', 'number', 'date', 'yesNo', 'text')),
  position INTEGER NOT NULL
) STRICT;

CREATE TABLE attribute_value (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  participant_id INTEGER NOT NULL REFERENCES participant (id),
  attribute_id INTEGER NOT NULL REFERENCES attribute (id),
  value TEXT NOT NULL,
  UNIQUE (participant_id, attribute_id)
) STRICT;

CREATE TABLE source (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  title TEXT NOT NULL,
  kind TEXT NOT NULL,
  held_on TEXT,
  file_name TEXT,
  content_hash TEXT NOT NULL,
  length INTEGER NOT NULL,
  position INTEGER NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX source_by_study ON source (study_id, position);

-- The canonical text stands apart, so that renaming a source does not copy it into the trail.
CREATE TABLE source_text (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  source_id INTEGER NOT NULL UNIQUE REFERENCES source (id),
  text TEXT NOT NULL
) STRICT;

CREATE TABLE source_participant (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  source_id INTEGER NOT NULL REFERENCES source (id),
  participant_id INTEGER NOT NULL REFERENCES participant (id),
  UNIQUE (source_id, participant_id)
) STRICT;

CREATE TABLE speaker (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  source_id INTEGER NOT NULL REFERENCES source (id),
  label TEXT NOT NULL,
  participant_id INTEGER REFERENCES participant (id),
  is_team INTEGER NOT NULL DEFAULT 0,
  position INTEGER NOT NULL,
  UNIQUE (source_id, label)
) STRICT;

CREATE TABLE turn (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  source_id INTEGER NOT NULL REFERENCES source (id),
  position INTEGER NOT NULL,
  start INTEGER NOT NULL,
  "end" INTEGER NOT NULL,
  speaker_id INTEGER REFERENCES speaker (id),
  begin_ms INTEGER,
  end_ms INTEGER,
  CHECK (start >= 0 AND "end" > start)
) STRICT;
CREATE INDEX turn_by_source ON turn (source_id, start);
CREATE INDEX turn_by_speaker ON turn (speaker_id);

CREATE TABLE tag (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER REFERENCES study (id),
  name TEXT NOT NULL,
  name_key TEXT NOT NULL,
  parent_id INTEGER REFERENCES tag (id),
  colour INTEGER,
  definition TEXT NOT NULL DEFAULT '',
  settled INTEGER NOT NULL DEFAULT 0,
  position INTEGER NOT NULL DEFAULT 0,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX tag_by_name ON tag (coalesce(study_id, 0), name_key);
CREATE INDEX tag_by_parent ON tag (parent_id);

CREATE TABLE observation (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  source_id INTEGER NOT NULL REFERENCES source (id),
  start INTEGER NOT NULL,
  "end" INTEGER NOT NULL,
  note TEXT NOT NULL DEFAULT '',
  sentiment TEXT CHECK (sentiment IN ('negative', 'neutral', 'positive', 'mixed')),
  starred INTEGER NOT NULL DEFAULT 0,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL,
  CHECK (start >= 0 AND "end" > start)
) STRICT;
CREATE INDEX observation_by_source ON observation (source_id, start);
CREATE INDEX observation_by_study ON observation (study_id, id);

CREATE TABLE observation_tag (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  observation_id INTEGER NOT NULL REFERENCES observation (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (observation_id, tag_id)
) STRICT;
CREATE INDEX observation_tag_by_tag ON observation_tag (tag_id);

CREATE TABLE theme (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  parent_id INTEGER REFERENCES theme (id),
  title TEXT NOT NULL,
  description TEXT NOT NULL DEFAULT '',
  colour INTEGER,
  position INTEGER NOT NULL,
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL
) STRICT;
CREATE INDEX theme_by_study ON theme (study_id, position);

CREATE TABLE theme_tag (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  theme_id INTEGER NOT NULL REFERENCES theme (id),
  tag_id INTEGER NOT NULL REFERENCES tag (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (theme_id, tag_id)
) STRICT;

CREATE TABLE theme_observation (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  theme_id INTEGER NOT NULL REFERENCES theme (id),
  observation_id INTEGER NOT NULL REFERENCES observation (id),
  stance TEXT NOT NULL DEFAULT 'supports' CHECK (stance IN ('supports', 'contradicts', 'context')),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (theme_id, observation_id)
) STRICT;
CREATE INDEX theme_observation_by_observation ON theme_observation (observation_id);

CREATE TABLE insight (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  study_id INTEGER NOT NULL REFERENCES study (id),
  headline TEXT NOT NULL,
  story TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL
) STRICT;

CREATE TABLE evidence (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  insight_id INTEGER NOT NULL REFERENCES insight (id),
  observation_id INTEGER NOT NULL REFERENCES observation (id),
  stance TEXT NOT NULL CHECK (stance IN ('supports', 'contradicts', 'context')),
  position INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (insight_id, observation_id)
) STRICT;
CREATE INDEX evidence_by_observation ON evidence (observation_id);

-- Who was not asked about a tag, a theme or an insight: out of its denominator, dotted in its strip.
CREATE TABLE not_asked (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  participant_id INTEGER NOT NULL REFERENCES participant (id),
  tag_id INTEGER REFERENCES tag (id),
  theme_id INTEGER REFERENCES theme (id),
  insight_id INTEGER REFERENCES insight (id),
  CHECK ((tag_id IS NOT NULL) + (theme_id IS NOT NULL) + (insight_id IS NOT NULL) = 1),
  UNIQUE (participant_id, tag_id, theme_id, insight_id)
) STRICT;

CREATE TABLE exhibit (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  key TEXT NOT NULL UNIQUE,
  question TEXT NOT NULL,
  summary TEXT NOT NULL DEFAULT '',
  version INTEGER NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  updated_at TEXT NOT NULL
) STRICT;

CREATE TABLE exhibit_insight (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  exhibit_id INTEGER NOT NULL REFERENCES exhibit (id),
  insight_id INTEGER NOT NULL REFERENCES insight (id),
  position INTEGER NOT NULL,
  UNIQUE (exhibit_id, insight_id)
) STRICT;

CREATE TABLE exhibit_link (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  exhibit_id INTEGER NOT NULL REFERENCES exhibit (id),
  token_hash TEXT NOT NULL UNIQUE,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  revoked_at TEXT
) STRICT;

-- How far each person has read: a private bookmark, not research data, so it is not in the trail.
CREATE TABLE reading (
  account_id INTEGER NOT NULL REFERENCES account (id),
  source_id INTEGER NOT NULL REFERENCES source (id) ON DELETE CASCADE,
  furthest INTEGER NOT NULL,
  read_at TEXT NOT NULL,
  PRIMARY KEY (account_id, source_id)
) STRICT;
