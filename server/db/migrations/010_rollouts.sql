-- A design goes into effect client by client, and goes on after a stop: who is still ahead stands here.

CREATE TABLE rollouts (
  id TEXT PRIMARY KEY,
  sequence_id TEXT NOT NULL REFERENCES sequences (id) ON DELETE CASCADE,
  rollout_json TEXT NOT NULL CHECK (json_valid(rollout_json)),
  person_id TEXT,
  -- business time; what was announced counts from when that was worked out
  announced_at INTEGER,
  started_at INTEGER NOT NULL,
  ended_at INTEGER,
  is_stopped INTEGER NOT NULL DEFAULT 0 CHECK (is_stopped IN (0, 1))
) STRICT;
CREATE INDEX rollouts_under_way ON rollouts (started_at, id) WHERE ended_at IS NULL;
CREATE INDEX rollouts_of_sequence ON rollouts (sequence_id, started_at);

CREATE TABLE rollout_clients (
  rollout_id TEXT NOT NULL REFERENCES rollouts (id) ON DELETE CASCADE,
  client_id TEXT NOT NULL REFERENCES clients (id),
  -- what was announced for the client; null: nothing was asked about
  announced_json TEXT CHECK (json_valid(announced_json)),
  -- other: something else would have happened than was announced, so nothing did
  state TEXT NOT NULL DEFAULT 'ahead' CHECK (state IN ('ahead', 'done', 'other')),
  PRIMARY KEY (rollout_id, client_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX rollout_clients_by_state ON rollout_clients (rollout_id, state, client_id);
