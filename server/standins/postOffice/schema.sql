CREATE TABLE IF NOT EXISTS mail (
  id INTEGER PRIMARY KEY,
  address TEXT NOT NULL COLLATE NOCASE,
  -- business time, from the Date header
  received_at INTEGER NOT NULL,
  message_id TEXT NOT NULL,
  source BLOB NOT NULL
) STRICT;
CREATE INDEX IF NOT EXISTS mail_by_address ON mail (address, received_at);
CREATE INDEX IF NOT EXISTS mail_by_message_id ON mail (message_id);

-- Mailboxes that do not simply take what comes.
CREATE TABLE IF NOT EXISTS behaviours (
  address TEXT PRIMARY KEY COLLATE NOCASE,
  kind TEXT NOT NULL CHECK (kind IN ('refuse', 'later', 'drop before data', 'drop after data', 'never answer'))
) STRICT;

-- How often the mails of a mailbox were numbered anew, from 1 on.
CREATE TABLE IF NOT EXISTS numberings (
  address TEXT PRIMARY KEY COLLATE NOCASE,
  numbering INTEGER NOT NULL
) STRICT;
