-- Steps of all kinds, branches, variations, tasks, told times, the account's allowance.

ALTER TABLE business ADD COLUMN shared_mailbox_json TEXT CHECK (json_valid(shared_mailbox_json));
ALTER TABLE business ADD COLUMN reply_to TEXT;
ALTER TABLE business ADD COLUMN allowance_json TEXT NOT NULL DEFAULT '{"perHour":null,"perDay":null,"perMonth":null}'
  CHECK (json_valid(allowance_json));

ALTER TABLE bookings ADD COLUMN told_json TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(told_json));
UPDATE bookings SET told_json = json_object('startAt', start_at, 'endAt', end_at);
UPDATE bookings SET settling_json = json_set(settling_json, '$.from.timesSetAt', times_set_at,
    '$.from.statusAt', json(status_at_json))
  WHERE json_extract(settling_json, '$.from') IS NOT NULL;

ALTER TABLE enquiries ADD COLUMN person_in_charge_id TEXT REFERENCES people (id);
ALTER TABLE enquiries ADD COLUMN evening_json TEXT CHECK (json_valid(evening_json));
ALTER TABLE enquiries ADD COLUMN ticks_json TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(ticks_json));

ALTER TABLE invoices ADD COLUMN is_fee INTEGER NOT NULL DEFAULT 0 CHECK (is_fee IN (0, 1));

ALTER TABLE runs ADD COLUMN started_on TEXT NOT NULL DEFAULT 'booking confirmed';
ALTER TABLE runs ADD COLUMN stopped_on TEXT;
ALTER TABLE runs ADD COLUMN branches_json TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(branches_json));
ALTER TABLE runs ADD COLUMN timing_set_at_json TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(timing_set_at_json));
ALTER TABLE runs ADD COLUMN passed_over_json TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(passed_over_json));
UPDATE runs SET started_on = (SELECT json_extract(start_json, '$.on') FROM sequence_versions v
  WHERE v.sequence_id = runs.sequence_id AND v.version = runs.version);
UPDATE runs SET stopped_on = 'booking cancelled' WHERE stopped_reason = 'The booking was cancelled.';
UPDATE runs SET stopped_on = 'booking missed' WHERE stopped_reason = 'The booking was missed.';

-- A kind of recipient is an object now, with a letter of its own where it has one.
UPDATE sequence_versions SET steps_json = (
  SELECT json_group_array(json_set(step.value, '$.recipients',
    json_array(json_object('to', coalesce(json_extract(step.value, '$.recipients'), 'primary contact'), 'letterId', NULL))))
  FROM json_each(sequence_versions.steps_json) step);

CREATE TABLE variations (
  id TEXT PRIMARY KEY,
  sequence_id TEXT NOT NULL REFERENCES sequences (id),
  step_id TEXT NOT NULL,
  -- whose it is: one of the two
  service_id TEXT REFERENCES services (id),
  client_id TEXT REFERENCES clients (id),
  variation_json TEXT NOT NULL CHECK (json_valid(variation_json)),
  CHECK ((service_id IS NULL) <> (client_id IS NULL))
) STRICT;
CREATE INDEX variations_of_client ON variations (client_id) WHERE client_id IS NOT NULL;
CREATE UNIQUE INDEX one_variation_for_a_client ON variations (sequence_id, step_id, client_id)
  WHERE client_id IS NOT NULL;
CREATE UNIQUE INDEX one_variation_for_a_service ON variations (sequence_id, step_id, service_id)
  WHERE service_id IS NOT NULL;

CREATE TABLE tasks (
  id TEXT PRIMARY KEY,
  client_id TEXT NOT NULL REFERENCES clients (id),
  subject_kind TEXT,
  subject_id TEXT,
  title TEXT NOT NULL,
  due_on TEXT NOT NULL,
  person_id TEXT REFERENCES people (id),
  made_at INTEGER NOT NULL,
  done_at INTEGER
) STRICT;
CREATE INDEX tasks_of_client ON tasks (client_id);
CREATE INDEX tasks_to_do ON tasks (due_on) WHERE done_at IS NULL;

ALTER TABLE due_moments ADD COLUMN client_id TEXT NOT NULL DEFAULT '';
UPDATE due_moments SET client_id = coalesce(
  (SELECT client_id FROM bookings b WHERE b.id = due_moments.key),
  (SELECT client_id FROM sends s WHERE s.id = due_moments.key), '');
INSERT INTO due_moments (kind, key, at, client_id) SELECT 'event over', id, end_at, client_id FROM bookings
  WHERE status IN ('requested', 'confirmed');

-- Sends again: a step need not have a letter, a recipient need not be a contact.
DROP INDEX sends_due;
DROP INDEX sends_of_client;
DROP INDEX sends_of_subject;
DROP INDEX sends_by_time;
DROP INDEX sends_in_trouble;
DROP INDEX sends_claimed;
CREATE TABLE new_sends (
  id TEXT PRIMARY KEY,
  run_id TEXT NOT NULL REFERENCES runs (id),
  sequence_id TEXT NOT NULL,
  sequence_version INTEGER NOT NULL,
  step_id TEXT NOT NULL,
  step_kind TEXT NOT NULL,
  occurrence INTEGER NOT NULL,
  anchor_value TEXT NOT NULL,
  -- a contact, a person, 'copy', 'business', 'address:…'; empty for a step that writes to nobody
  recipient_id TEXT NOT NULL,
  client_id TEXT NOT NULL REFERENCES clients (id),
  subject_kind TEXT NOT NULL,
  subject_id TEXT NOT NULL,
  letter_id TEXT REFERENCES letters (id),
  purpose TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('expected', 'waiting', 'approved', 'ready', 'sending', 'sent', 'skipped',
    'dropped', 'cancelled', 'stale', 'missed', 'blocked', 'failed', 'bounced', 'in doubt')),
  wanted_at INTEGER,
  not_before INTEGER,
  not_after INTEGER,
  due_at INTEGER,
  trace_json TEXT NOT NULL CHECK (json_valid(trace_json)),
  reason_json TEXT CHECK (json_valid(reason_json)),
  address TEXT,
  message_id TEXT NOT NULL,
  decision_json TEXT NOT NULL CHECK (json_valid(decision_json)),
  approved_facts_json TEXT CHECK (json_valid(approved_facts_json)),
  attempts INTEGER NOT NULL,
  sent_at INTEGER,
  state_since INTEGER NOT NULL,
  -- set by a claim, checked by everything that follows it; the lease is real time
  claim_token TEXT,
  claimed_from TEXT CHECK (claimed_from IN ('ready', 'approved')),
  lease_until INTEGER,
  -- where it stands on a line of time: when it went, will go or would have gone
  shown_at INTEGER GENERATED ALWAYS AS (coalesce(sent_at, due_at, wanted_at)) VIRTUAL,
  -- one send, once: over all states, for ever
  UNIQUE (run_id, step_id, occurrence, anchor_value, recipient_id)
) STRICT;
INSERT INTO new_sends (id, run_id, sequence_id, sequence_version, step_id, step_kind, occurrence, anchor_value,
  recipient_id, client_id, subject_kind, subject_id, letter_id, purpose, state, wanted_at, not_before, not_after, due_at,
  trace_json, reason_json, address, message_id, decision_json, approved_facts_json, attempts, sent_at, state_since,
  claim_token, claimed_from, lease_until)
SELECT id, run_id, sequence_id, sequence_version, step_id, 'mail', occurrence, anchor_value, contact_id, client_id,
  subject_kind, subject_id, letter_id, purpose, state, wanted_at, not_before, not_after, due_at, trace_json,
  reason_json, address, message_id, '{"postponedTo":null,"isHeldBack":false,"personalLine":null}', NULL, attempts,
  sent_at, state_since, claim_token, claimed_from, lease_until
FROM sends;
DROP TABLE sends;
ALTER TABLE new_sends RENAME TO sends;
CREATE INDEX sends_due ON sends (due_at) WHERE state IN ('ready', 'approved');
CREATE INDEX sends_of_client ON sends (client_id);
CREATE INDEX sends_of_subject ON sends (subject_id);
CREATE INDEX sends_by_time ON sends (shown_at, state);
CREATE INDEX sends_in_trouble ON sends (state_since)
  WHERE state IN ('failed', 'bounced', 'blocked', 'stale', 'missed', 'in doubt');
CREATE INDEX sends_claimed ON sends (claim_token) WHERE state = 'sending';
CREATE INDEX sequences_by_state ON sequences (state);
-- What counts against the mail account's allowance.
CREATE INDEX sends_gone ON sends (sent_at) WHERE sent_at IS NOT NULL AND step_kind IN ('mail', 'note to staff', 'text message');
