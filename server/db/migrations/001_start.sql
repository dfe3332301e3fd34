-- The first tables. Times are epoch milliseconds (…_at), calendar dates ISO strings, JSON columns end in _json.

CREATE TABLE meta (
  key TEXT PRIMARY KEY,
  value TEXT NOT NULL
) STRICT;

CREATE TABLE business (
  only INTEGER PRIMARY KEY CHECK (only = 1),
  name TEXT NOT NULL,
  zone TEXT NOT NULL,
  postal_address TEXT NOT NULL,
  phone TEXT NOT NULL,
  sender_name TEXT NOT NULL,
  sender_address TEXT NOT NULL,
  sending_hours_json TEXT NOT NULL CHECK (json_valid(sending_hours_json)),
  office_hours_json TEXT NOT NULL CHECK (json_valid(office_hours_json)),
  holiday_country TEXT NOT NULL,
  holiday_subdivision TEXT,
  completes_after_hours INTEGER NOT NULL,
  settle_minutes INTEGER NOT NULL,
  leap_day TEXT NOT NULL CHECK (leap_day IN ('28 February', '1 March')),
  promotional_per_day INTEGER NOT NULL,
  promotional_gap_hours INTEGER NOT NULL,
  move_threshold_minutes INTEGER NOT NULL,
  is_sending_on INTEGER NOT NULL CHECK (is_sending_on IN (0, 1))
) STRICT;

CREATE TABLE people (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  email TEXT NOT NULL UNIQUE COLLATE NOCASE,
  role TEXT NOT NULL CHECK (role IN ('owner', 'helper')),
  is_active INTEGER NOT NULL CHECK (is_active IN (0, 1)),
  -- scrypt: parameters, salt and hash; null: cannot sign in with a password
  password_hash TEXT
) STRICT;

CREATE TABLE sessions (
  -- SHA-256 of the cookie's token: the table alone opens no door
  token_hash TEXT PRIMARY KEY,
  person_id TEXT NOT NULL REFERENCES people (id) ON DELETE CASCADE,
  csrf_token TEXT NOT NULL,
  -- real time, not business time
  expires_at INTEGER NOT NULL
) STRICT;

CREATE TABLE services (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  place TEXT NOT NULL,
  place_zone TEXT,
  duration_minutes INTEGER NOT NULL CHECK (duration_minutes > 0),
  seats INTEGER NOT NULL CHECK (seats > 0),
  is_active INTEGER NOT NULL CHECK (is_active IN (0, 1))
) STRICT;

CREATE TABLE clients (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  zone TEXT,
  language TEXT NOT NULL CHECK (language IN ('en', 'de')),
  takes_promotional INTEGER NOT NULL CHECK (takes_promotional IN (0, 1)),
  is_active INTEGER NOT NULL CHECK (is_active IN (0, 1)),
  added_at INTEGER NOT NULL,
  revision INTEGER NOT NULL CHECK (revision > 0)
) STRICT;
CREATE INDEX clients_by_name ON clients (name COLLATE NOCASE, id);

CREATE TABLE contacts (
  id TEXT PRIMARY KEY,
  client_id TEXT NOT NULL REFERENCES clients (id),
  position INTEGER NOT NULL,
  first_name TEXT NOT NULL,
  last_name TEXT NOT NULL,
  email TEXT,
  phone TEXT NOT NULL,
  is_primary INTEGER NOT NULL CHECK (is_primary IN (0, 1))
) STRICT;
CREATE INDEX contacts_of_client ON contacts (client_id, position);
CREATE UNIQUE INDEX one_primary_contact ON contacts (client_id) WHERE is_primary = 1;

CREATE TABLE named_dates (
  client_id TEXT NOT NULL REFERENCES clients (id),
  position INTEGER NOT NULL,
  label TEXT NOT NULL,
  month_day TEXT NOT NULL,
  year INTEGER,
  PRIMARY KEY (client_id, position)
) STRICT, WITHOUT ROWID;

CREATE TABLE client_tags (
  client_id TEXT NOT NULL REFERENCES clients (id),
  tag TEXT NOT NULL,
  PRIMARY KEY (client_id, tag)
) STRICT, WITHOUT ROWID;

CREATE TABLE bookings (
  id TEXT PRIMARY KEY,
  client_id TEXT NOT NULL REFERENCES clients (id),
  service_id TEXT NOT NULL REFERENCES services (id),
  person_in_charge_id TEXT REFERENCES people (id),
  status TEXT NOT NULL CHECK (status IN ('requested', 'confirmed', 'cancelled', 'completed', 'missed')),
  start_at INTEGER NOT NULL,
  end_at INTEGER NOT NULL CHECK (end_at > start_at),
  party_size INTEGER NOT NULL CHECK (party_size > 0),
  made_at INTEGER NOT NULL,
  sessions_json TEXT NOT NULL CHECK (json_valid(sessions_json)),
  status_at_json TEXT NOT NULL CHECK (json_valid(status_at_json)),
  times_set_at INTEGER NOT NULL,
  settling_json TEXT CHECK (json_valid(settling_json)),
  revision INTEGER NOT NULL CHECK (revision > 0)
) STRICT;
CREATE INDEX bookings_of_client ON bookings (client_id, start_at);
CREATE INDEX bookings_by_start ON bookings (start_at);
CREATE INDEX bookings_of_service ON bookings (service_id, start_at);

CREATE TABLE enquiries (
  id TEXT PRIMARY KEY,
  client_id TEXT NOT NULL REFERENCES clients (id),
  service_id TEXT REFERENCES services (id),
  stage TEXT NOT NULL,
  received_at INTEGER NOT NULL,
  stage_at_json TEXT NOT NULL CHECK (json_valid(stage_at_json)),
  wished_on TEXT,
  wished_set_at INTEGER,
  deadline_on TEXT,
  deadline_set_at INTEGER
) STRICT;
CREATE INDEX enquiries_of_client ON enquiries (client_id);

CREATE TABLE invoices (
  id TEXT PRIMARY KEY,
  client_id TEXT NOT NULL REFERENCES clients (id),
  booking_id TEXT REFERENCES bookings (id),
  issued_at INTEGER NOT NULL,
  due_on TEXT,
  due_set_at INTEGER,
  paid_at INTEGER,
  amount_cents INTEGER NOT NULL CHECK (amount_cents >= 0)
) STRICT;
CREATE INDEX invoices_of_client ON invoices (client_id);

-- What clients did: answered, opened, filled in, got a tag, joined a list.
CREATE TABLE happenings (
  client_id TEXT NOT NULL REFERENCES clients (id),
  kind TEXT NOT NULL,
  name TEXT NOT NULL,
  at INTEGER NOT NULL
) STRICT;
CREATE INDEX happenings_of_client ON happenings (client_id, at);

CREATE TABLE letters (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  moment TEXT NOT NULL,
  subject_json TEXT NOT NULL CHECK (json_valid(subject_json)),
  sections_json TEXT NOT NULL CHECK (json_valid(sections_json)),
  version INTEGER NOT NULL
) STRICT;

CREATE TABLE sequences (
  id TEXT PRIMARY KEY,
  name TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('draft', 'live', 'paused')),
  live_since INTEGER,
  current_version INTEGER NOT NULL
) STRICT;

CREATE TABLE sequence_versions (
  sequence_id TEXT NOT NULL REFERENCES sequences (id),
  version INTEGER NOT NULL,
  start_json TEXT NOT NULL CHECK (json_valid(start_json)),
  steps_json TEXT NOT NULL CHECK (json_valid(steps_json)),
  stops_json TEXT NOT NULL CHECK (json_valid(stops_json)),
  PRIMARY KEY (sequence_id, version)
) STRICT, WITHOUT ROWID;

CREATE TABLE runs (
  id TEXT PRIMARY KEY,
  sequence_id TEXT NOT NULL,
  version INTEGER NOT NULL,
  client_id TEXT NOT NULL REFERENCES clients (id),
  -- what it works for: a booking, an enquiry, an invoice or the client
  subject_kind TEXT NOT NULL CHECK (subject_kind IN ('booking', 'enquiry', 'invoice', 'client')),
  subject_id TEXT NOT NULL,
  state TEXT NOT NULL CHECK (state IN ('running', 'stopped')),
  started_at INTEGER NOT NULL,
  stopped_at INTEGER,
  stopped_reason TEXT,
  FOREIGN KEY (sequence_id, version) REFERENCES sequence_versions (sequence_id, version)
) STRICT;
CREATE INDEX runs_of_client ON runs (client_id);
CREATE INDEX runs_of_subject ON runs (subject_id);

CREATE TABLE sends (
  id TEXT PRIMARY KEY,
  run_id TEXT NOT NULL REFERENCES runs (id),
  sequence_id TEXT NOT NULL,
  sequence_version INTEGER NOT NULL,
  step_id TEXT NOT NULL,
  occurrence INTEGER NOT NULL,
  anchor_value TEXT NOT NULL,
  contact_id TEXT NOT NULL,
  client_id TEXT NOT NULL REFERENCES clients (id),
  subject_kind TEXT NOT NULL,
  subject_id TEXT NOT NULL,
  letter_id TEXT NOT NULL REFERENCES letters (id),
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
  UNIQUE (run_id, step_id, occurrence, anchor_value, contact_id)
) STRICT;
CREATE INDEX sends_due ON sends (due_at) WHERE state IN ('ready', 'approved');
CREATE INDEX sends_of_client ON sends (client_id);
CREATE INDEX sends_of_subject ON sends (subject_id);
CREATE INDEX sends_by_time ON sends (shown_at, state);
CREATE INDEX sends_in_trouble ON sends (state_since)
  WHERE state IN ('failed', 'bounced', 'blocked', 'stale', 'missed', 'in doubt');
CREATE INDEX sends_claimed ON sends (claim_token) WHERE state = 'sending';

CREATE TABLE messages (
  send_id TEXT PRIMARY KEY REFERENCES sends (id),
  subject TEXT NOT NULL,
  -- the RFC 5322 message as it was put on the wire
  source BLOB NOT NULL,
  -- what the mail server answered last
  answer TEXT
) STRICT;

CREATE TABLE events (
  id TEXT PRIMARY KEY,
  at INTEGER NOT NULL,
  kind TEXT NOT NULL,
  client_id TEXT,
  subject_kind TEXT,
  subject_id TEXT,
  name TEXT NOT NULL,
  send_id TEXT,
  person_id TEXT,
  sentence TEXT NOT NULL
) STRICT;
CREATE INDEX events_of_client ON events (client_id, at);
CREATE INDEX events_of_subject ON events (subject_id, at);
CREATE TRIGGER events_stay BEFORE UPDATE ON events BEGIN
  SELECT RAISE(ABORT, 'events are never changed');
END;
CREATE TRIGGER events_are_kept BEFORE DELETE ON events BEGIN
  SELECT RAISE(ABORT, 'events are never deleted');
END;

CREATE TABLE commands (
  -- given by the caller: repeated, the same answer and no second effect
  id TEXT PRIMARY KEY,
  person_id TEXT,
  name TEXT NOT NULL,
  answer_json TEXT NOT NULL,
  at INTEGER NOT NULL
) STRICT;

CREATE TABLE due_moments (
  kind TEXT NOT NULL,
  key TEXT NOT NULL,
  at INTEGER NOT NULL,
  PRIMARY KEY (kind, key)
) STRICT, WITHOUT ROWID;
CREATE INDEX due_moments_by_time ON due_moments (at);
