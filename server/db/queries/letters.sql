-- name: allLetters
SELECT id, content_json AS contentJson, is_starter AS isStarter, is_archived AS isArchived, version,
  changed_at AS changedAt
FROM letters ORDER BY id;

-- name: putLetter
INSERT INTO letters (id, content_json, is_starter, is_archived, version, changed_at)
VALUES (@id, @contentJson, @isStarter, @isArchived, @version, @changedAt)
ON CONFLICT (id) DO UPDATE SET content_json = excluded.content_json, is_starter = excluded.is_starter,
  is_archived = excluded.is_archived, version = excluded.version, changed_at = excluded.changed_at;

-- name: removeLetter
DELETE FROM letters WHERE id = @id;

-- name: sendsWithLetter
SELECT count(*) AS count FROM sends WHERE letter_id = @id;

-- name: putLetterVersion
INSERT INTO letter_versions (letter_id, version, content_json, changed_at, person_id)
VALUES (@letterId, @version, @contentJson, @changedAt, @personId)
ON CONFLICT (letter_id, version) DO NOTHING;

-- name: joinLetterVersions
-- What the same person saved shortly before is the same piece of work.
DELETE FROM letter_versions WHERE letter_id = @letterId AND version = @before AND person_id IS @personId
  AND changed_at > @since AND version > 1;

-- name: versionsOfLetter
SELECT v.version, v.changed_at AS changedAt, p.name AS personName, v.content_json AS contentJson
FROM letter_versions v LEFT JOIN people p ON p.id = v.person_id
WHERE v.letter_id = @letterId ORDER BY v.version DESC;

-- name: allPassages
SELECT id, name, paragraphs_json AS paragraphsJson, translations_json AS translationsJson, version
FROM passages ORDER BY name, id;

-- name: putPassage
INSERT INTO passages (id, name, paragraphs_json, translations_json, version)
VALUES (@id, @name, @paragraphsJson, @translationsJson, @version)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, paragraphs_json = excluded.paragraphs_json,
  translations_json = excluded.translations_json, version = excluded.version;

-- name: removePassage
DELETE FROM passages WHERE id = @id;

-- name: putFile
INSERT INTO files (id, name, type, bytes) VALUES (@id, @name, @type, @bytes);

-- name: readFile
SELECT id, name, type, bytes FROM files WHERE id = @id;

-- name: ownWords
SELECT word FROM own_words ORDER BY word;

-- name: addOwnWord
INSERT INTO own_words (word) VALUES (@word) ON CONFLICT (word) DO NOTHING;

-- name: audienceAfter
SELECT c.id AS clientId, c.name AS clientName, c.language, c.takes_promotional AS takesPromotional,
  k.first_name AS firstName, k.last_name AS lastName, k.email, b.id AS bookingId, b.service_id AS serviceId,
  b.start_at AS startAt, b.end_at AS endAt, b.party_size AS partySize, b.person_in_charge_id AS personInChargeId
FROM clients c JOIN contacts k ON k.client_id = c.id AND k.is_primary = 1
LEFT JOIN bookings b ON b.id = (SELECT n.id FROM bookings n WHERE n.client_id = c.id
  AND n.status IN ('requested', 'confirmed') AND n.start_at > @now ORDER BY n.start_at LIMIT 1)
WHERE c.id > @after ORDER BY c.id LIMIT @limit;

-- name: countClients
-- whole: asked only where a letter is tried on all of them
SELECT count(*) AS count FROM clients;

-- name: clientNames
-- whole: walked by name up to a limit
SELECT name FROM clients INDEXED BY clients_by_name WHERE is_active = 1 ORDER BY name COLLATE NOCASE LIMIT 5000;

-- name: anyClientOfLanguage
SELECT 1 AS found FROM clients INDEXED BY clients_by_language WHERE is_active = 1 AND language = @language LIMIT 1;

-- name: readDraft
SELECT d.content_json AS contentJson, d.revision, d.changed_at AS changedAt, p.name AS personName
FROM letter_drafts d LEFT JOIN people p ON p.id = d.person_id WHERE d.letter_id = @letterId;

-- name: allDrafts
-- whole: at most as many as there are letters being written
SELECT letter_id AS letterId, content_json AS contentJson FROM letter_drafts;

-- name: putDraft
INSERT INTO letter_drafts (letter_id, content_json, revision, changed_at, person_id)
VALUES (@letterId, @contentJson, @revision, @changedAt, @personId)
ON CONFLICT (letter_id) DO UPDATE SET content_json = excluded.content_json, revision = excluded.revision,
  changed_at = excluded.changed_at, person_id = excluded.person_id;

-- name: removeDraft
DELETE FROM letter_drafts WHERE letter_id = @letterId;

-- name: plannedWithLetters
-- Messages that a change of letters still reaches, the next first.
SELECT id FROM sends INDEXED BY sends_open_by_letter
WHERE letter_id IN (SELECT value FROM json_each(@letterIdsJson)) AND state IN ({plannable})
ORDER BY shown_at, id LIMIT @limit;

-- name: countPlannedWithLetters
SELECT state, count(*) AS count FROM sends INDEXED BY sends_open_by_letter
WHERE letter_id IN (SELECT value FROM json_each(@letterIdsJson)) AND state IN ({plannable}) GROUP BY state;
