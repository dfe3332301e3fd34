-- How somebody of the team signs, where answers to them go, who stands in while they are away, and who has taken over.
ALTER TABLE people ADD COLUMN reply_to TEXT;
ALTER TABLE people ADD COLUMN signature_json TEXT NOT NULL DEFAULT '{"text":"","pictureId":null}' CHECK (json_valid(signature_json));
ALTER TABLE people ADD COLUMN away_json TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(away_json));
ALTER TABLE people ADD COLUMN handed_to_id TEXT;
