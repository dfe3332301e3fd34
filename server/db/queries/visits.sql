-- name: putMessageLink
INSERT INTO message_links (send_id, key, url) VALUES (@sendId, @key, @url) ON CONFLICT (send_id, key) DO NOTHING;

-- name: messageLink
SELECT url FROM message_links WHERE send_id = @sendId AND key = @key;

-- name: addVisit
INSERT INTO visits (send_id, link_key, at, seen_at, is_head) VALUES (@sendId, @linkKey, @at, @seenAt, @isHead);

-- name: visitsOfSend
-- The last first.
SELECT v.id, v.link_key AS linkKey, v.at, v.seen_at AS seenAt, v.is_head AS isHead, v.is_person AS isPerson, l.url
FROM visits v LEFT JOIN message_links l ON l.send_id = v.send_id AND l.key = v.link_key
WHERE v.send_id = @sendId ORDER BY v.seen_at DESC, v.id DESC LIMIT @limit;

-- name: sendsWithVisitsToTell
SELECT DISTINCT send_id AS sendId FROM visits INDEXED BY visits_to_tell WHERE is_person IS NULL AND seen_at <= @until LIMIT 200;

-- name: tellVisit
UPDATE visits SET is_person = @isPerson WHERE id = @id;

-- name: isUnnoticed
-- Also where who was merged with them is.
-- whole: the few ids of one client
WITH RECURSIVE own (id) AS (
  SELECT @clientId UNION SELECT m.gone_id FROM own JOIN client_merges m ON m.kept_id = own.id
    AND m.taken_back_at IS NULL
)
SELECT u.client_id AS clientId FROM own JOIN unnoticed_clients u ON u.client_id = own.id LIMIT 1;

-- name: putUnnoticed
INSERT INTO unnoticed_clients (client_id) VALUES (@clientId) ON CONFLICT (client_id) DO NOTHING;

-- name: forgetUnnoticed
DELETE FROM unnoticed_clients WHERE client_id = @clientId;
