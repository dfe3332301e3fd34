-- Words of a passage in other languages, and which languages clients read.
ALTER TABLE passages ADD COLUMN translations_json TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(translations_json));
CREATE INDEX clients_by_language ON clients (language) WHERE is_active = 1;
