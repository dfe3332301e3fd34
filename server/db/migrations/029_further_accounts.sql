-- Mail accounts beside the main one, each with what it carries; passwords are sealed as that of the main one. Which of
-- them a message is to go through, and went through, stands at the message: null, that was not looked at, or there was
-- but one.
CREATE TABLE further_accounts (
  id TEXT PRIMARY KEY,
  account_json TEXT NOT NULL CHECK (json_valid(account_json)),
  sealed_password TEXT
) STRICT;
ALTER TABLE sends ADD COLUMN through TEXT;
CREATE INDEX sends_through ON sends (through, sent_at) WHERE through IS NOT NULL;
CREATE INDEX sends_to_go_through ON sends (state, through) WHERE through IS NOT NULL;
