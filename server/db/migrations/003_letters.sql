-- Of what is claimed only what has begun can have gone: the rest is given back after a crash.
ALTER TABLE sends ADD COLUMN claim_begun INTEGER NOT NULL DEFAULT 0 CHECK (claim_begun IN (0, 1));

-- Letters with all they can carry, their versions, passages and the files they carry.

CREATE TABLE new_letters (
  id TEXT PRIMARY KEY,
  -- the present version's words
  content_json TEXT NOT NULL CHECK (json_valid(content_json)),
  is_starter INTEGER NOT NULL CHECK (is_starter IN (0, 1)),
  is_archived INTEGER NOT NULL CHECK (is_archived IN (0, 1)),
  version INTEGER NOT NULL,
  changed_at INTEGER NOT NULL
) STRICT;
INSERT INTO new_letters (id, content_json, is_starter, is_archived, version, changed_at)
SELECT id, json_object('name', name, 'moment', moment, 'class', 'service', 'language', 'en', 'letterhead', 'business',
    'subject', json(subject_json), 'preheader', json('[]'),
    'sections', (SELECT json_group_array(json_set(one.value, '$.id', 's' || one.key)) FROM json_each(sections_json) one),
    'variants', json('[]')), 0, 0, version, 0
FROM letters;
DROP TABLE letters;
ALTER TABLE new_letters RENAME TO letters;

-- Every version, with who wrote it and when. Saves of one person in quick succession are one.
CREATE TABLE letter_versions (
  letter_id TEXT NOT NULL REFERENCES letters (id) ON DELETE CASCADE,
  version INTEGER NOT NULL,
  content_json TEXT NOT NULL CHECK (json_valid(content_json)),
  changed_at INTEGER NOT NULL,
  person_id TEXT REFERENCES people (id),
  PRIMARY KEY (letter_id, version)
) STRICT, WITHOUT ROWID;
INSERT INTO letter_versions (letter_id, version, content_json, changed_at, person_id)
SELECT id, version, content_json, changed_at, NULL FROM letters;

CREATE TABLE passages (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  paragraphs_json TEXT NOT NULL CHECK (json_valid(paragraphs_json)),
  version INTEGER NOT NULL
) STRICT;

CREATE TABLE files (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  type TEXT NOT NULL CHECK (type IN ('image/png', 'image/jpeg', 'image/gif', 'application/pdf')),
  bytes BLOB NOT NULL
) STRICT;
-- words that are right though no dictionary has them
CREATE TABLE own_words (word TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
