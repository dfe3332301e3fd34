-- What the links of messages lead to: a link in a message names the message and the key of its target, nothing else.
CREATE TABLE message_links (
  send_id TEXT NOT NULL,
  key TEXT NOT NULL,
  url TEXT NOT NULL,
  PRIMARY KEY (send_id, key)
) STRICT, WITHOUT ROWID;

-- Each time a link was asked for, or the picture that tells a message was opened.
CREATE TABLE visits (
  id INTEGER PRIMARY KEY,
  send_id TEXT NOT NULL,
  -- The link that was asked for; null: the picture
  link_key TEXT,
  -- Business time
  at INTEGER NOT NULL,
  -- Real time in milliseconds, to tell how close together they came
  seen_at INTEGER NOT NULL,
  is_head INTEGER NOT NULL CHECK (is_head IN (0, 1)),
  -- Null: not told yet
  is_person INTEGER CHECK (is_person IN (0, 1))
) STRICT;
CREATE INDEX visits_of_send ON visits (send_id, seen_at);
CREATE INDEX visits_to_tell ON visits (seen_at) WHERE is_person IS NULL;

-- Clients of whom it is not noticed what they open and follow.
CREATE TABLE unnoticed_clients (
  client_id TEXT PRIMARY KEY REFERENCES clients (id) ON DELETE CASCADE
) STRICT;
