-- Keys by which other programs ask for somebody of the team. All moments are real time, not business time.
CREATE TABLE api_keys (
  id TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES people (id) ON DELETE CASCADE,
  name TEXT NOT NULL,
  scope TEXT NOT NULL,
  -- SHA-256 of the key: the table alone opens no door
  token_hash TEXT NOT NULL UNIQUE,
  -- how it begins, to recognise it by
  hint TEXT NOT NULL,
  made_at INTEGER NOT NULL,
  -- null: good until it is taken back
  ends_at INTEGER,
  used_at INTEGER,
  used_from TEXT
) STRICT;
CREATE INDEX api_keys_of_person ON api_keys (person_id, made_at);

-- Each call to a web address, as it went.
CREATE TABLE web_calls (
  id INTEGER PRIMARY KEY,
  -- business time
  at INTEGER NOT NULL,
  send_id TEXT NOT NULL REFERENCES sends (id),
  url TEXT NOT NULL,
  body TEXT NOT NULL,
  outcome TEXT NOT NULL,
  answer TEXT NOT NULL,
  -- how long the answer took, in milliseconds of real time
  took_ms INTEGER NOT NULL,
  -- who made it go once more; null: it went by its sequence
  person_id TEXT REFERENCES people (id)
) STRICT;
CREATE INDEX web_calls_of_send ON web_calls (send_id, id);
-- They are kept for some time only.
CREATE INDEX web_calls_by_time ON web_calls (at);
