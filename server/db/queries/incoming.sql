-- name: storeIncoming
-- Once: the same mail delivered again changes nothing.
INSERT INTO incoming (id, key, came_at, way_json, source) VALUES (@id, @key, @cameAt, @wayJson, @source)
ON CONFLICT (key) DO NOTHING;

-- name: incomingToTakeUp
-- whole: only mail that nothing has followed from yet
SELECT id, came_at AS cameAt, way_json AS wayJson, source FROM incoming INDEXED BY incoming_to_take_up
WHERE is_taken_up = 0 ORDER BY came_at, id LIMIT 1;

-- name: hasIncomingToTakeUp
-- whole: only mail that nothing has followed from yet
SELECT id FROM incoming INDEXED BY incoming_to_take_up WHERE is_taken_up = 0 LIMIT 1;

-- name: putIncoming
UPDATE incoming SET incoming_json = @incomingJson, is_taken_up = 1 WHERE id = @id;

-- name: readIncoming
SELECT id, incoming_json AS incomingJson FROM incoming WHERE id = @id AND incoming_json IS NOT NULL;

-- name: incomingSource
SELECT source FROM incoming WHERE id = @id;

-- name: incomingAtDesk
-- From the one after `afterId` on, the earliest first.
SELECT id, incoming_json AS incomingJson FROM incoming INDEXED BY incoming_at_desk
WHERE place = @place AND place IS NOT NULL AND (came_at, id) > (SELECT a.came_at, a.id FROM incoming a WHERE a.id = @afterId
  UNION ALL SELECT -9e15, '' WHERE @afterId IS NULL)
ORDER BY came_at, id LIMIT @limit;

-- name: incomingOfClient
-- With those of who was merged with them; the newest first.
-- whole: the few ids of one client
WITH RECURSIVE own (id) AS (
  SELECT @clientId UNION SELECT m.gone_id FROM own JOIN client_merges m ON m.kept_id = own.id
    AND m.taken_back_at IS NULL
)
SELECT i.id, i.incoming_json AS incomingJson FROM own JOIN incoming i INDEXED BY incoming_of_client ON i.client_id = own.id
  AND i.client_id IS NOT NULL
ORDER BY i.came_at DESC, i.id DESC LIMIT @limit;

-- name: undeliveredOfClient
SELECT u.address AS id, u.undelivered_json AS undeliveredJson FROM contacts k JOIN undelivered u ON u.address = k.email
WHERE k.client_id = @clientId AND k.email IS NOT NULL ORDER BY u.address;

-- name: readUndelivered
SELECT undelivered_json AS undeliveredJson FROM undelivered WHERE address = @address;

-- name: putUndelivered
INSERT INTO undelivered (address, undelivered_json) VALUES (@address, @undeliveredJson)
ON CONFLICT (address) DO UPDATE SET undelivered_json = excluded.undelivered_json;

-- name: forgetUndelivered
DELETE FROM undelivered WHERE address = @address;

-- name: clientsAtAddress
SELECT DISTINCT client_id AS clientId FROM contacts INDEXED BY contacts_by_address
WHERE email = @email COLLATE NOCASE AND email IS NOT NULL ORDER BY client_id LIMIT 50;

-- name: openRunsOfClient
SELECT count(*) AS count FROM runs WHERE client_id = @clientId AND state = 'running' AND is_at_rest = 0;

-- name: lastSendTo
-- The message that went last to somebody with this address.
SELECT s.id, s.client_id AS clientId, s.address FROM contacts k INDEXED BY contacts_by_address
JOIN sends s ON s.client_id = k.client_id AND s.sent_at IS NOT NULL AND s.address = @email COLLATE NOCASE
WHERE k.email = @email COLLATE NOCASE AND k.email IS NOT NULL ORDER BY s.sent_at DESC LIMIT 1;

-- name: putWrittenAnswer
INSERT INTO written_answers (id, incoming_id, answer_json, source) VALUES (@id, @incomingId, @answerJson, @source)
ON CONFLICT (id) DO UPDATE SET answer_json = excluded.answer_json, source = coalesce(excluded.source, source);

-- name: writtenAnswersOf
SELECT id, answer_json AS answerJson FROM written_answers WHERE incoming_id = @incomingId ORDER BY id LIMIT 200;

-- name: writtenAnswersOfClient
SELECT id, answer_json AS answerJson FROM written_answers INDEXED BY written_answers_of_client
WHERE client_id = @clientId AND client_id IS NOT NULL ORDER BY id DESC LIMIT 200;

-- name: writtenAnswersToSend
SELECT id, answer_json AS answerJson FROM written_answers INDEXED BY written_answers_open
WHERE state IN ('ready', 'sending') AND state = @state ORDER BY id LIMIT 20;

-- name: readWrittenAnswer
SELECT id, answer_json AS answerJson FROM written_answers WHERE id = @id;

-- name: isIncomingKnown
SELECT id FROM incoming WHERE key = @key;

-- name: incomingMailboxes
-- whole: the mailboxes of one business
SELECT id, mailbox_json AS mailboxJson, sealed_password AS sealedPassword FROM incoming_mailboxes ORDER BY id;

-- name: putIncomingMailbox
INSERT INTO incoming_mailboxes (id, mailbox_json, sealed_password) VALUES (@id, @mailboxJson, @sealedPassword)
ON CONFLICT (id) DO UPDATE SET mailbox_json = excluded.mailbox_json, sealed_password = excluded.sealed_password;

-- name: removeIncomingMailbox
DELETE FROM incoming_mailboxes WHERE id = @id;

-- name: mailboxPosition
SELECT uid_validity AS uidValidity, last_uid AS lastUid, first_at AS firstAt, old_until AS oldUntil, old_noted AS oldNoted,
  noted_count AS notedCount, old_count AS oldCount
FROM mailbox_positions WHERE mailbox_id = @mailboxId;

-- name: putMailboxPosition
INSERT INTO mailbox_positions
  (mailbox_id, uid_validity, last_uid, first_at, old_until, old_noted, noted_count, old_count)
VALUES (@mailboxId, @uidValidity, @lastUid, @firstAt, @oldUntil, @oldNoted, @notedCount, @oldCount)
ON CONFLICT (mailbox_id) DO UPDATE SET uid_validity = excluded.uid_validity, last_uid = excluded.last_uid,
  old_until = excluded.old_until, old_noted = excluded.old_noted, noted_count = excluded.noted_count,
  old_count = excluded.old_count;

-- name: forgetMailboxPosition
DELETE FROM mailbox_positions WHERE mailbox_id = @mailboxId;

-- name: noteOldMail
INSERT INTO mailbox_old (mailbox_id, key) VALUES (@mailboxId, @key) ON CONFLICT (mailbox_id, key) DO NOTHING;

-- name: isOldMail
SELECT key FROM mailbox_old WHERE mailbox_id = @mailboxId AND key = @key;

-- name: forgetOldMail
DELETE FROM mailbox_old WHERE mailbox_id = @mailboxId;
