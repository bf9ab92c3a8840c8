-- Who works on which study; a steward sees every study without being in its team.
CREATE TABLE membership (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  study_id INTEGER NOT NULL REFERENCES study (id),
  account_id INTEGER NOT NULL REFERENCES account (id),
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  UNIQUE (study_id, account_id)
) STRICT;
CREATE INDEX membership_by_account ON membership (account_id);

-- Whoever could see a study before there were teams is in its team.
INSERT INTO membership (study_id, account_id, created_by, created_at)
  SELECT s.id, a.id, s.created_by, s.created_at FROM study s CROSS JOIN account a WHERE a.role IN ('steward', 'researcher', 'noteTaker');

-- The stamp is in every sign-in cookie; a new one ends all of them. A closed account keeps its name in the trail and cannot sign in.
ALTER TABLE account ADD COLUMN stamp TEXT NOT NULL DEFAULT '';
ALTER TABLE account ADD COLUMN closed_at TEXT;

CREATE TABLE invitation (
  id INTEGER PRIMARY KEY AUTOINCREMENT,
  token_hash TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  email TEXT NOT NULL,
  role TEXT NOT NULL CHECK (role IN ('steward', 'researcher', 'noteTaker', 'reader')),
  studies TEXT NOT NULL,
  created_by INTEGER NOT NULL REFERENCES account (id),
  created_at TEXT NOT NULL,
  expires_at TEXT NOT NULL,
  revoked_at TEXT,
  account_id INTEGER REFERENCES account (id)
) STRICT;

-- What a step made, so that a request that is sent twice gets the same answer twice.
ALTER TABLE action ADD COLUMN result_id INTEGER;

-- Words to search. The text of a source stays where it is (external content); of everything else a copy is indexed. Both are kept by Search/SearchIndex.cs.
-- A row's id in searchable tells its kind, thing and study: see SearchIndex.RowOf.
CREATE VIRTUAL TABLE source_search USING fts5 (text, content = 'source_text', content_rowid = 'id', prefix = '2 3', tokenize = 'porter unicode61 remove_diacritics 2');
CREATE VIRTUAL TABLE searchable USING fts5 (name, words, prefix = '2 3', tokenize = 'porter unicode61 remove_diacritics 2');
