-- Runs of which nothing comes any more are told apart, so that what is planned for a client does not go through them.

ALTER TABLE runs ADD COLUMN is_at_rest INTEGER NOT NULL DEFAULT 0 CHECK (is_at_rest IN (0, 1));
CREATE INDEX runs_alive ON runs (client_id) WHERE is_at_rest = 0;
CREATE INDEX runs_latest ON runs (client_id, sequence_id, subject_kind, started_at);
CREATE INDEX bookings_of_client_by_end ON bookings (client_id, end_at);
CREATE INDEX sends_of_client_gone ON sends (client_id, sent_at);
