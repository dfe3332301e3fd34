-- Sequences being designed, and clients to whom nothing goes for the present.

ALTER TABLE clients ADD COLUMN is_held_back INTEGER NOT NULL DEFAULT 0 CHECK (is_held_back IN (0, 1));
CREATE INDEX clients_held_back ON clients (id) WHERE is_held_back = 1;

-- What is being written about a sequence and is not in effect yet.
CREATE TABLE sequence_designs (
  sequence_id TEXT PRIMARY KEY REFERENCES sequences (id) ON DELETE CASCADE,
  design_json TEXT NOT NULL CHECK (json_valid(design_json)),
  revision INTEGER NOT NULL,
  changed_at INTEGER NOT NULL,
  person_id TEXT REFERENCES people (id)
) STRICT;

CREATE INDEX runs_by_sequence ON runs (sequence_id, state);
CREATE INDEX sends_by_sequence ON sends (sequence_id, state);
CREATE INDEX sends_waiting ON sends (state) WHERE state = 'waiting';
