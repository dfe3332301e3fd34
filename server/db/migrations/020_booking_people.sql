-- Who of a client's contacts a booking is for: who pays, who takes part.
ALTER TABLE bookings ADD COLUMN people_json TEXT NOT NULL CHECK (json_valid(people_json)) DEFAULT '{"payerId":null,"participantIds":[]}';
