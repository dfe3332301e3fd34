-- What is asked of all messages and bookings finds its way by an index, however many years there are.
CREATE INDEX sends_by_letter ON sends (letter_id);
CREATE INDEX runs_running ON runs (client_id, sequence_id) WHERE state = 'running';
CREATE INDEX invoices_of_booking ON invoices (booking_id);
CREATE INDEX invoices_by_issue ON invoices (issued_at DESC, id);
CREATE INDEX enquiries_by_receipt ON enquiries (received_at DESC, id);
