-- How services are offered to clients, what clients answered when booking, and who cancelled a booking and why.
ALTER TABLE services ADD COLUMN offer_json TEXT NOT NULL CHECK (json_valid(offer_json)) DEFAULT '{"isPublic":false,"forClients":"","directions":"","isShared":true,"bufferBeforeMinutes":120,"bufferAfterMinutes":120,"starts":{"kind":"hours","hours":{"weekly":[[{"from":"08:00","to":"17:00"}],[{"from":"08:00","to":"17:00"}],[{"from":"08:00","to":"17:00"}],[{"from":"08:00","to":"17:00"}],[{"from":"08:00","to":"17:00"}],[],[]],"holidays":"closed","closedDates":[]},"everyMinutes":60},"noticeHours":24,"horizonDays":90,"personIds":[],"confirms":"on request","price":null,"cancelling":{"freeUntilHours":24,"feePercent":0},"changeUntilHours":24,"questions":[]}';
ALTER TABLE services ADD COLUMN revision INTEGER NOT NULL CHECK (revision > 0) DEFAULT 1;
ALTER TABLE business ADD COLUMN revision INTEGER NOT NULL CHECK (revision > 0) DEFAULT 1;
ALTER TABLE bookings ADD COLUMN answers_json TEXT NOT NULL CHECK (json_valid(answers_json)) DEFAULT '[]';
ALTER TABLE bookings ADD COLUMN cancellation_json TEXT CHECK (json_valid(cancellation_json));

-- What goes over clients in steps may be a changed setting of the business or a service: it belongs to no sequence then.
CREATE TABLE rollouts_next (
  id TEXT PRIMARY KEY,
  sequence_id TEXT REFERENCES sequences (id) ON DELETE CASCADE,
  rollout_json TEXT NOT NULL CHECK (json_valid(rollout_json)),
  person_id TEXT,
  -- business time; what was announced counts from when that was worked out
  announced_at INTEGER,
  started_at INTEGER NOT NULL,
  ended_at INTEGER,
  is_stopped INTEGER NOT NULL DEFAULT 0 CHECK (is_stopped IN (0, 1))
) STRICT;
INSERT INTO rollouts_next (id, sequence_id, rollout_json, person_id, announced_at, started_at, ended_at, is_stopped)
SELECT id, sequence_id, rollout_json, person_id, announced_at, started_at, ended_at, is_stopped FROM rollouts;
CREATE TABLE rollout_clients_next (
  rollout_id TEXT NOT NULL REFERENCES rollouts_next (id) ON DELETE CASCADE,
  client_id TEXT NOT NULL REFERENCES clients (id),
  -- what was announced for the client; null: nothing was asked about
  announced_json TEXT CHECK (json_valid(announced_json)),
  -- other: something else would have happened than was announced, so nothing did
  state TEXT NOT NULL DEFAULT 'ahead' CHECK (state IN ('ahead', 'done', 'other')),
  PRIMARY KEY (rollout_id, client_id)
) STRICT, WITHOUT ROWID;
INSERT INTO rollout_clients_next SELECT rollout_id, client_id, announced_json, state FROM rollout_clients;
DROP TABLE rollout_clients;
DROP TABLE rollouts;
ALTER TABLE rollouts_next RENAME TO rollouts;
ALTER TABLE rollout_clients_next RENAME TO rollout_clients;
CREATE INDEX rollouts_under_way ON rollouts (started_at, id) WHERE ended_at IS NULL;
CREATE INDEX rollouts_of_sequence ON rollouts (sequence_id, started_at);
CREATE INDEX rollout_clients_by_state ON rollout_clients (rollout_id, state, client_id);

CREATE INDEX variations_of_service ON variations (service_id) WHERE service_id IS NOT NULL;
CREATE INDEX enquiries_of_service ON enquiries (service_id);
-- Who a booking on the public page is for is found by the address.
CREATE INDEX contacts_by_address ON contacts (email COLLATE NOCASE) WHERE email IS NOT NULL;
