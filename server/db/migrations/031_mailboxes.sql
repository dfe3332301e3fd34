-- Mailboxes that are read by IMAP; passwords are sealed as those of mail accounts.
CREATE TABLE incoming_mailboxes (
  id TEXT PRIMARY KEY,
  mailbox_json TEXT NOT NULL CHECK (json_valid(mailbox_json)),
  sealed_password TEXT
) STRICT;

-- How far each was read. What lay there at the first time is old: nothing follows from it.
CREATE TABLE mailbox_positions (
  mailbox_id TEXT PRIMARY KEY,
  -- The numbers of mails hold as long as this stays the same (RFC 3501 2.3.1.1)
  uid_validity TEXT NOT NULL,
  -- Read up to this number
  last_uid INTEGER NOT NULL,
  -- Real time of the first connection
  first_at INTEGER NOT NULL,
  -- Up to this number it is old, and noted as such up to that one; how many were noted, and are to be
  old_until INTEGER NOT NULL,
  old_noted INTEGER NOT NULL,
  noted_count INTEGER NOT NULL,
  old_count INTEGER NOT NULL
) STRICT;

-- The old mails by their keys: they stay old if the mailbox is numbered anew. Nothing else is kept of them.
CREATE TABLE mailbox_old (
  mailbox_id TEXT NOT NULL,
  key TEXT NOT NULL,
  PRIMARY KEY (mailbox_id, key)
) STRICT, WITHOUT ROWID;

-- Whether a mail has an HTML part was worked out with each look, and is kept now. What came before may have one.
UPDATE incoming SET incoming_json = json_set(incoming_json, '$.hasHtml', json('true')) WHERE incoming_json IS NOT NULL;
UPDATE incoming SET way_json = json_set(way_json, '$.cut', NULL);
