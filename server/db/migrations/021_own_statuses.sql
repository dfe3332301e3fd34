-- Statuses that the business has added, and which one a booking has beside what that means.
CREATE TABLE own_statuses (
  id TEXT PRIMARY KEY,
  own_status_json TEXT NOT NULL CHECK (json_valid(own_status_json))
) STRICT;
ALTER TABLE bookings ADD COLUMN own_json TEXT NOT NULL CHECK (json_valid(own_json)) DEFAULT '{"status":null,"at":{},"settling":null}';
