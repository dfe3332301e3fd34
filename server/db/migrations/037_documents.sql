-- Documents to sign, and what was sent to be signed, fixed as it was sent.
CREATE TABLE documents (
  id TEXT PRIMARY KEY,
  document_json TEXT NOT NULL CHECK (json_valid(document_json))
) STRICT;

CREATE TABLE signings (
  id TEXT PRIMARY KEY,
  document_id TEXT NOT NULL,
  client_id TEXT NOT NULL REFERENCES clients (id),
  subject_id TEXT NOT NULL,
  fixed_at INTEGER NOT NULL,
  signing_json TEXT NOT NULL CHECK (json_valid(signing_json)),
  -- The copy for both, made as it was signed; null: it is not signed.
  pdf BLOB
) STRICT;
CREATE INDEX signings_of_subject ON signings (subject_id, document_id, fixed_at DESC, id DESC);
CREATE INDEX signings_of_document ON signings (document_id);
CREATE INDEX signings_of_client ON signings (client_id);
