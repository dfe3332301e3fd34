-- E-mails as they went are kept packed, and for so long as the business wants; what they said stays.
ALTER TABLE messages ADD COLUMN is_packed INTEGER NOT NULL DEFAULT 0 CHECK (is_packed IN (0, 1));
-- Its text, once the source has been let go of and is empty.
ALTER TABLE messages ADD COLUMN text TEXT;
CREATE INDEX messages_unpacked ON messages (send_id) WHERE is_packed = 0;
-- For how many months sources are kept; null: for ever. A new business begins with two years.
ALTER TABLE business ADD COLUMN sources_kept_months INTEGER DEFAULT 24 CHECK (sources_kept_months > 0);
-- Nobody has said yet that anything of a business that is there already may go.
UPDATE business SET sources_kept_months = NULL;
