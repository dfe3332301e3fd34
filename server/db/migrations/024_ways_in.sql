-- The team signs in: links by which somebody chooses a password, second factors, and people who only look. Roles are
-- checked where people are written and read. Taking a CHECK away touches no row; SQLite describes this way at
-- https://www.sqlite.org/lang_altertable.html#otheralter.
PRAGMA writable_schema = ON;
UPDATE sqlite_schema SET sql = replace(sql, ' CHECK (role IN (''owner'', ''helper''))', '')
WHERE type = 'table' AND name = 'people';
PRAGMA writable_schema = RESET;

-- All moments of these tables are real time, not business time.
CREATE TABLE ways_in (
  -- SHA-256 of the link's token: the table alone opens no door
  token_hash TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES people (id) ON DELETE CASCADE,
  purpose TEXT NOT NULL,
  -- where it was sent: with another address it leads nowhere
  email TEXT NOT NULL,
  good_until INTEGER NOT NULL,
  used_at INTEGER
) STRICT;
CREATE INDEX ways_in_of_person ON ways_in (person_id, purpose);

CREATE TABLE second_factors (
  person_id TEXT PRIMARY KEY REFERENCES people (id) ON DELETE CASCADE,
  -- sealed with a key that lies beside the database and not in it
  sealed_secret TEXT NOT NULL,
  -- null: no code has confirmed it yet, and none is asked for
  confirmed_at INTEGER,
  -- the last period a code was taken for: none is taken twice (RFC 6238 5.2)
  last_period INTEGER NOT NULL
) STRICT;

CREATE TABLE recovery_words (
  -- SHA-256 of a random word
  word_hash TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES people (id) ON DELETE CASCADE
) STRICT;
CREATE INDEX recovery_words_of_person ON recovery_words (person_id);
