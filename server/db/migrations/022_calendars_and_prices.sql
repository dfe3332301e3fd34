-- Calendars of the team that are read by a secret address: how often each address has been made anew.
CREATE TABLE calendar_feeds (
  id TEXT PRIMARY KEY,
  generation INTEGER NOT NULL CHECK (generation >= 1)
) STRICT;
-- What a booking was called in the calendar it was brought in from.
ALTER TABLE bookings ADD COLUMN brought_in_as TEXT;
CREATE INDEX bookings_brought_in ON bookings (brought_in_as) WHERE brought_in_as IS NOT NULL;
-- When somebody of the team can be booked; null: whenever what they do is offered.
ALTER TABLE people ADD COLUMN hours_json TEXT CHECK (hours_json IS NULL OR json_valid(hours_json));
ALTER TABLE people ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
-- What was agreed for a booking alone, in cents; null: what its service costs.
ALTER TABLE bookings ADD COLUMN price_cents INTEGER CHECK (price_cents IS NULL OR price_cents >= 0);
