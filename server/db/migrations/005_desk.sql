-- What persons decide at the desk, and what the team is told of it by mail.

CREATE INDEX events_of_send ON events (send_id, at) WHERE send_id IS NOT NULL;

-- which notes a person wants by mail: at what time in the morning, and whether at once before a last chance
ALTER TABLE people ADD COLUMN notes_json TEXT NOT NULL DEFAULT '{"morningAt":"07:30","isAtOnceOn":true}'
  CHECK (json_valid(notes_json));

-- Notes to the team. A row stands here before its mail is handed over, so that none goes twice.
CREATE TABLE notes (
  person_id TEXT NOT NULL REFERENCES people (id),
  -- 'morning' with a date, or 'last chance' with a message
  kind TEXT NOT NULL CHECK (kind IN ('morning', 'last chance')),
  key TEXT NOT NULL,
  at INTEGER NOT NULL,
  -- what the mail server answered; null: it is not known
  answer TEXT,
  PRIMARY KEY (person_id, kind, key)
) STRICT, WITHOUT ROWID;
CREATE INDEX notes_by_key ON notes (kind, key);
