-- Acts are told apart by what they ask for, and refused where what they are about has changed; sessions can be listed.

-- SHA-256 of what was asked for, in hexadecimal; empty: asked before this was kept.
ALTER TABLE commands ADD COLUMN body_hash TEXT NOT NULL DEFAULT '';

-- Counts what a person decides by: state, moment, address, letter, decisions. Not the reasons.
ALTER TABLE sends ADD COLUMN revision INTEGER NOT NULL DEFAULT 1 CHECK (revision > 0);
ALTER TABLE tasks ADD COLUMN revision INTEGER NOT NULL DEFAULT 1 CHECK (revision > 0);

-- Sessions begun before have no name that could be shown: they end.
DROP TABLE sessions;
CREATE TABLE sessions (
  -- names it in a list; opens no door
  id TEXT PRIMARY KEY,
  -- SHA-256 of the cookie's token: the table alone opens no door
  token_hash TEXT NOT NULL UNIQUE,
  person_id TEXT NOT NULL REFERENCES people (id) ON DELETE CASCADE,
  csrf_token TEXT NOT NULL,
  -- real time, not business time
  started_at INTEGER NOT NULL,
  seen_at INTEGER NOT NULL,
  expires_at INTEGER NOT NULL,
  -- what the browser calls itself
  agent TEXT NOT NULL
) STRICT;
CREATE INDEX sessions_of_person ON sessions (person_id, started_at);
