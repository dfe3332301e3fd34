-- Clients that came in from a file together, so that it can be taken back.
CREATE TABLE client_imports (
  id TEXT PRIMARY KEY,
  at INTEGER NOT NULL,
  person_id TEXT REFERENCES people (id),
  file_name TEXT NOT NULL,
  -- null: it stands
  taken_back_at INTEGER
) STRICT;
CREATE INDEX client_imports_by_time ON client_imports (at);

CREATE TABLE imported_clients (
  import_id TEXT NOT NULL REFERENCES client_imports (id),
  -- no reference: who was taken back is not there any more
  client_id TEXT NOT NULL,
  -- as they were before; null: they were added
  was_json TEXT CHECK (json_valid(was_json)),
  revision INTEGER NOT NULL,
  PRIMARY KEY (import_id, client_id)
) STRICT, WITHOUT ROWID;

-- Who is removed must not be looked for in all that ever went into effect.
CREATE INDEX rollout_clients_of_client ON rollout_clients (client_id);
