-- name: readMeta
SELECT value FROM meta WHERE key = @key;

-- name: forgetMeta
DELETE FROM meta WHERE key = @key;

-- name: writeMeta
INSERT INTO meta (key, value) VALUES (@key, @value)
ON CONFLICT (key) DO UPDATE SET value = excluded.value;

-- name: readBusiness
SELECT name, zone, postal_address AS postalAddress, phone, sender_name AS senderName,
  sender_address AS senderAddress, sending_hours_json AS sendingHoursJson, office_hours_json AS officeHoursJson,
  holiday_country AS holidayCountry, holiday_subdivision AS holidaySubdivision,
  completes_after_hours AS completesAfterHours, settle_minutes AS settleMinutes, leap_day AS leapDay,
  promotional_per_day AS promotionalPerDay, promotional_gap_hours AS promotionalGapHours,
  move_threshold_minutes AS moveThresholdMinutes, shared_mailbox_json AS sharedMailboxJson, reply_to AS replyTo,
  allowance_json AS allowanceJson, revision,
  is_sending_on AS isSendingOn
FROM business WHERE only = 1;

-- name: writeBusiness
INSERT INTO business (only, name, zone, postal_address, phone, sender_name, sender_address, sending_hours_json,
  office_hours_json, holiday_country, holiday_subdivision, completes_after_hours, settle_minutes, leap_day,
  promotional_per_day, promotional_gap_hours, move_threshold_minutes, shared_mailbox_json, reply_to, allowance_json, revision, is_sending_on)
VALUES (1, @name, @zone, @postalAddress, @phone, @senderName, @senderAddress, @sendingHoursJson,
  @officeHoursJson, @holidayCountry, @holidaySubdivision, @completesAfterHours, @settleMinutes, @leapDay,
  @promotionalPerDay, @promotionalGapHours, @moveThresholdMinutes, @sharedMailboxJson, @replyTo, @allowanceJson, @revision, 1)
ON CONFLICT (only) DO UPDATE SET name = excluded.name, zone = excluded.zone,
  postal_address = excluded.postal_address, phone = excluded.phone, sender_name = excluded.sender_name,
  sender_address = excluded.sender_address, sending_hours_json = excluded.sending_hours_json,
  office_hours_json = excluded.office_hours_json, holiday_country = excluded.holiday_country,
  holiday_subdivision = excluded.holiday_subdivision, completes_after_hours = excluded.completes_after_hours,
  settle_minutes = excluded.settle_minutes, leap_day = excluded.leap_day, promotional_per_day = excluded.promotional_per_day,
  promotional_gap_hours = excluded.promotional_gap_hours, move_threshold_minutes = excluded.move_threshold_minutes,
  shared_mailbox_json = excluded.shared_mailbox_json, reply_to = excluded.reply_to, allowance_json = excluded.allowance_json,
  revision = excluded.revision;

-- name: setSendingOn
UPDATE business SET is_sending_on = @isSendingOn WHERE only = 1;

-- name: setAllowance
UPDATE business SET allowance_json = @allowanceJson WHERE only = 1;

-- name: allPeople
SELECT id, name, email, role, is_active AS isActive, hours_json AS hoursJson, reply_to AS replyTo,
  signature_json AS signatureJson, away_json AS awayJson, handed_to_id AS handedToId, revision FROM people ORDER BY role DESC, name;

-- name: insertPerson
INSERT INTO people (id, name, email, role, is_active, password_hash, hours_json, reply_to, signature_json, away_json,
  handed_to_id, revision)
VALUES (@id, @name, @email, @role, @isActive, @passwordHash, @hoursJson, @replyTo, @signatureJson, @awayJson, @handedToId, @revision);

-- name: putPerson
-- The password stays; somebody new has none.
INSERT INTO people (id, name, email, role, is_active, hours_json, reply_to, signature_json, away_json, handed_to_id, revision)
VALUES (@id, @name, @email, @role, @isActive, @hoursJson, @replyTo, @signatureJson, @awayJson, @handedToId, @revision)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, email = excluded.email, role = excluded.role,
  is_active = excluded.is_active, hours_json = excluded.hours_json, reply_to = excluded.reply_to,
  signature_json = excluded.signature_json, away_json = excluded.away_json, handed_to_id = excluded.handed_to_id, revision = excluded.revision;

-- name: passwordOf
SELECT id, password_hash AS passwordHash FROM people WHERE email = @email AND is_active = 1;

-- name: allServices
SELECT id, name, place, place_zone AS placeZone, duration_minutes AS durationMinutes, seats, is_active AS isActive,
  offer_json AS offerJson, revision
FROM services ORDER BY name, id;

-- name: putService
INSERT INTO services (id, name, place, place_zone, duration_minutes, seats, is_active, offer_json, revision)
VALUES (@id, @name, @place, @placeZone, @durationMinutes, @seats, @isActive, @offerJson, @revision)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, place = excluded.place, place_zone = excluded.place_zone,
  duration_minutes = excluded.duration_minutes, seats = excluded.seats, is_active = excluded.is_active,
  offer_json = excluded.offer_json, revision = excluded.revision;

-- name: removeService
DELETE FROM services WHERE id = @id;

-- name: usesOfService
SELECT (SELECT count(*) FROM bookings WHERE service_id = @id) AS bookings,
  (SELECT count(*) FROM bookings WHERE service_id = @id AND start_at > @now AND status IN ('requested', 'confirmed'))
    AS bookingsAhead,
  (SELECT count(*) FROM enquiries WHERE service_id = @id) AS enquiries;

-- name: calendarFeeds
-- whole: one for each of the team
SELECT id, generation FROM calendar_feeds;

-- name: renewCalendarFeed
INSERT INTO calendar_feeds (id, generation) VALUES (@id, 2)
ON CONFLICT (id) DO UPDATE SET generation = generation + 1;

-- name: allOwnStatuses
-- whole: a few, and the settings are kept
SELECT id, own_status_json AS ownStatusJson FROM own_statuses ORDER BY json_extract(own_status_json, '$.name'), id;

-- name: putOwnStatus
INSERT INTO own_statuses (id, own_status_json) VALUES (@id, @ownStatusJson)
ON CONFLICT (id) DO UPDATE SET own_status_json = excluded.own_status_json;

-- name: removeOwnStatus
DELETE FROM own_statuses WHERE id = @id;

-- name: allPipelines
-- whole: a few, and the settings are kept
SELECT id, pipeline_json AS pipelineJson FROM pipelines ORDER BY json_extract(pipeline_json, '$.name'), id;

-- name: putPipeline
INSERT INTO pipelines (id, pipeline_json) VALUES (@id, @pipelineJson)
ON CONFLICT (id) DO UPDATE SET pipeline_json = excluded.pipeline_json;

-- name: removePipeline
DELETE FROM pipelines WHERE id = @id;

-- name: allDocuments
-- whole: a few, and the settings are kept
SELECT id, document_json AS documentJson FROM documents ORDER BY json_extract(document_json, '$.name'), id;

-- name: putDocument
INSERT INTO documents (id, document_json) VALUES (@id, @documentJson)
ON CONFLICT (id) DO UPDATE SET document_json = excluded.document_json;

-- name: removeDocument
DELETE FROM documents WHERE id = @id;

-- name: sentOfDocument
SELECT count(*) AS count FROM signings WHERE document_id = @documentId;

-- name: allForms
-- whole: a few, and the settings are kept
SELECT id, form_json AS formJson FROM forms ORDER BY json_extract(form_json, '$.name'), id;

-- name: readFormVersion
SELECT form_id AS id, form_json AS formJson FROM form_versions WHERE form_id = @formId AND revision = @revision;

-- name: putForm
INSERT INTO forms (id, form_json) VALUES (@id, @formJson)
ON CONFLICT (id) DO UPDATE SET form_json = excluded.form_json;

-- name: addFormVersion
INSERT INTO form_versions (form_id, revision, form_json) VALUES (@formId, @revision, @formJson);

-- name: removeForm
DELETE FROM forms WHERE id = @id;

-- name: removeFormVersions
DELETE FROM form_versions WHERE form_id = @id;

-- name: putFormReceipt
INSERT INTO form_receipts (id, form_id, enquiry_id, at, receipt_json) VALUES (@id, @formId, @enquiryId, @at, @receiptJson)
ON CONFLICT (id) DO UPDATE SET receipt_json = excluded.receipt_json;

-- name: receiptOfEnquiry
SELECT id, receipt_json AS receiptJson FROM form_receipts WHERE enquiry_id = @enquiryId;

-- name: readFormReceipt
SELECT id, receipt_json AS receiptJson FROM form_receipts WHERE id = @id;

-- name: receiptsOfForm
-- How many people have filled a form in, and when the last one did.
SELECT count(*) AS count, max(at) AS lastAt FROM form_receipts WHERE form_id = @formId;

-- name: allOnePressMoves
-- whole: a few, and the settings are kept
SELECT id, move_json AS moveJson FROM one_press_moves ORDER BY json_extract(move_json, '$.name'), id;

-- name: putOnePressMove
INSERT INTO one_press_moves (id, move_json) VALUES (@id, @moveJson)
ON CONFLICT (id) DO UPDATE SET move_json = excluded.move_json;

-- name: removeOnePressMove
DELETE FROM one_press_moves WHERE id = @id;

-- name: enquiriesByStage
-- How many enquiries stand in each stage of a pipeline, and what they are worth.
SELECT stage, count(*) AS count, sum(budget_cents) AS cents FROM enquiries WHERE pipeline_id = @pipelineId GROUP BY stage;

-- name: usesOfOwnStatus
-- whole: asked when a status is to be let go
SELECT count(*) AS bookings, count(CASE WHEN json_extract(own_json, '$.status') = @name AND start_at > @now THEN 1 END)
  AS bookingsAhead
FROM bookings WHERE EXISTS (SELECT 1 FROM json_each(bookings.own_json, '$.at') WHERE key = @name);

-- name: clientsWithBookingsEndingAfter
-- whole: all that may get a status by a date that passes
SELECT DISTINCT client_id AS id FROM bookings WHERE end_at > @endAfter ORDER BY client_id;

-- name: allSequences
SELECT id, name, state, live_since AS liveSince, current_version AS currentVersion FROM sequences ORDER BY name, id;

-- name: putSequence
INSERT INTO sequences (id, name, state, live_since, current_version)
VALUES (@id, @name, @state, @liveSince, @currentVersion)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, state = excluded.state, live_since = excluded.live_since,
  current_version = excluded.current_version;

-- name: allSequenceVersions
SELECT sequence_id AS sequenceId, version, start_json AS startJson, steps_json AS stepsJson, stops_json AS stopsJson
FROM sequence_versions ORDER BY sequence_id, version;

-- name: insertSequenceVersion
INSERT INTO sequence_versions (sequence_id, version, start_json, steps_json, stops_json)
VALUES (@sequenceId, @version, @startJson, @stepsJson, @stopsJson)
-- only a draft that never ran is written over
ON CONFLICT (sequence_id, version) DO UPDATE SET start_json = excluded.start_json, steps_json = excluded.steps_json,
  stops_json = excluded.stops_json;

-- name: insertSession
INSERT INTO sessions (id, token_hash, person_id, csrf_token, started_at, seen_at, expires_at, agent)
VALUES (@id, @tokenHash, @personId, @csrfToken, @now, @now, @expiresAt, @agent);

-- name: readSession
SELECT s.id, s.person_id AS personId, s.csrf_token AS csrfToken, s.expires_at AS expiresAt, s.seen_at AS seenAt, p.role
FROM sessions s JOIN people p ON p.id = s.person_id AND p.is_active = 1
WHERE s.token_hash = @tokenHash;

-- name: sessionSeen
UPDATE sessions SET seen_at = @now WHERE id = @id;

-- name: sessionsOfPerson
SELECT id, started_at AS startedAt, seen_at AS seenAt, agent FROM sessions
WHERE person_id = @personId AND expires_at > @now ORDER BY seen_at DESC, id;

-- name: endSession
DELETE FROM sessions WHERE id = @id AND person_id = @personId;

-- name: endOtherSessions
DELETE FROM sessions WHERE person_id = @personId AND id <> @id;

-- name: deleteExpiredSessions
DELETE FROM sessions WHERE expires_at <= @now;

-- name: setPassword
UPDATE people SET password_hash = @passwordHash WHERE id = @personId;

-- name: readCommand
SELECT person_id AS personId, name, body_hash AS bodyHash, answer_json AS answerJson FROM commands WHERE id = @id;

-- name: insertCommand
INSERT INTO commands (id, person_id, name, body_hash, answer_json, at)
VALUES (@id, @personId, @name, @bodyHash, @answerJson, @at);

-- name: setDueMoment
INSERT INTO due_moments (kind, key, at, client_id) VALUES (@kind, @key, @at, @clientId)
ON CONFLICT (kind, key) DO UPDATE SET at = excluded.at;

-- name: clearDueMoment
DELETE FROM due_moments WHERE kind = @kind AND key = @key;

-- name: earliestDueMoment
-- At one instant in the order of their kinds, given as `|one|other|`.
SELECT kind, key, at, client_id AS clientId FROM due_moments WHERE at <= @until
ORDER BY at, instr(@kinds, '|' || kind || '|'), key LIMIT 1;

-- name: momentsDue
SELECT client_id AS clientId FROM due_moments WHERE kind = @kind AND at <= @until ORDER BY at, key LIMIT 10000;

-- name: noteWishes
SELECT id, name, email, role, is_active AS isActive, hours_json AS hoursJson, reply_to AS replyTo,
  signature_json AS signatureJson, away_json AS awayJson, handed_to_id AS handedToId, revision, notes_json AS notesJson FROM people ORDER BY role DESC, name;

-- name: setNoteWishes
UPDATE people SET notes_json = @notesJson WHERE id = @personId;

-- name: readNote
SELECT at, answer FROM notes WHERE person_id = @personId AND kind = @kind AND key = @key;

-- name: insertNote
INSERT INTO notes (person_id, kind, key, at, answer) VALUES (@personId, @kind, @key, @at, NULL)
ON CONFLICT (person_id, kind, key) DO NOTHING;

-- name: answerNote
UPDATE notes SET answer = @answer WHERE person_id = @personId AND kind = @kind AND key = @key;

-- name: forgetNote
DELETE FROM notes WHERE person_id = @personId AND kind = @kind AND key = @key;

-- name: nextLastChance
-- The earliest last chance of a message that waits and that nobody has been told of; it goes stale right after it.
SELECT d.key, d.at FROM due_moments d JOIN sends s ON s.id = d.key
WHERE d.kind = 'goes stale' AND s.state = 'waiting'
  AND NOT EXISTS (SELECT 1 FROM notes n WHERE n.kind = 'last chance' AND n.key = d.key)
ORDER BY d.at LIMIT 1;

-- name: readSourcesKept
SELECT sources_kept_months AS months FROM business;

-- name: setSourcesKept
UPDATE business SET sources_kept_months = @months;

-- name: readMailAccount
SELECT account_json AS accountJson, sealed_password AS sealedPassword FROM mail_account WHERE only_one = 1;

-- name: putMailAccount
INSERT INTO mail_account (only_one, account_json, sealed_password) VALUES (1, @accountJson, @sealedPassword)
ON CONFLICT (only_one) DO UPDATE SET account_json = excluded.account_json, sealed_password = excluded.sealed_password;

-- name: furtherAccounts
-- whole: the mail accounts of one business
SELECT id, account_json AS accountJson, sealed_password AS sealedPassword FROM further_accounts ORDER BY id;

-- name: putFurtherAccount
INSERT INTO further_accounts (id, account_json, sealed_password) VALUES (@id, @accountJson, @sealedPassword)
ON CONFLICT (id) DO UPDATE SET account_json = excluded.account_json, sealed_password = excluded.sealed_password;

-- name: removeFurtherAccount
DELETE FROM further_accounts WHERE id = @id;

-- name: removeMailAccount
DELETE FROM mail_account WHERE only_one = 1;

-- name: handTasksOn
UPDATE tasks SET person_id = @toId WHERE person_id = @fromId AND done_at IS NULL;
