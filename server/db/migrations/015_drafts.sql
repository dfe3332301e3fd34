-- What is being written about a letter and is not published yet: nobody gets it.
CREATE TABLE letter_drafts (
  letter_id TEXT PRIMARY KEY REFERENCES letters (id) ON DELETE CASCADE,
  content_json TEXT NOT NULL CHECK (json_valid(content_json)),
  revision INTEGER NOT NULL CHECK (revision > 0),
  changed_at INTEGER NOT NULL,
  person_id TEXT REFERENCES people (id)
) STRICT;
