-- A run that waits for a person: each of its messages asks first until somebody lets it go on.
ALTER TABLE runs ADD COLUMN held_json TEXT CHECK (held_json IS NULL OR json_valid(held_json));
