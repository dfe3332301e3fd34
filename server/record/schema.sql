-- Who did what. A file of its own beside the database: it is looked at where the other is in doubt.
CREATE TABLE IF NOT EXISTS acts (
  id INTEGER PRIMARY KEY,
  -- real time, not business time
  at INTEGER NOT NULL,
  person_id TEXT,
  -- as it was then
  person_name TEXT NOT NULL,
  from_address TEXT NOT NULL,
  sentence TEXT NOT NULL,
  path TEXT NOT NULL,
  things_json TEXT NOT NULL CHECK (json_valid(things_json)),
  -- everything it can be found by, in lower case
  words TEXT NOT NULL
) STRICT;
CREATE INDEX IF NOT EXISTS acts_of_person ON acts (person_id, id);
CREATE TRIGGER IF NOT EXISTS acts_stay BEFORE UPDATE ON acts
BEGIN SELECT raise(ABORT, 'what was done is never changed'); END;
CREATE TRIGGER IF NOT EXISTS acts_are_kept BEFORE DELETE ON acts
BEGIN SELECT raise(ABORT, 'what was done is never deleted'); END;
