-- name: readClient
SELECT id, name, zone, language, takes_promotional AS takesPromotional, is_active AS isActive, is_held_back AS isHeldBack,
  added_at AS addedAt, revision
FROM clients WHERE id = @id;

-- name: contactsOfClient
SELECT id, first_name AS firstName, last_name AS lastName, email, phone, is_primary AS isPrimary
FROM contacts WHERE client_id = @clientId ORDER BY position;

-- name: namedDatesOfClient
SELECT label, month_day AS monthDay, year FROM named_dates WHERE client_id = @clientId ORDER BY position;

-- name: tagsOfClient
SELECT tag FROM client_tags WHERE client_id = @clientId ORDER BY tag;

-- name: putClient
INSERT INTO clients (id, name, zone, language, takes_promotional, is_active, is_held_back, added_at, revision, found_by)
VALUES (@id, @name, @zone, @language, @takesPromotional, @isActive, @isHeldBack, @addedAt, @revision, @foundBy)
ON CONFLICT (id) DO UPDATE SET name = excluded.name, zone = excluded.zone, language = excluded.language,
  takes_promotional = excluded.takes_promotional, is_active = excluded.is_active, is_held_back = excluded.is_held_back, revision = excluded.revision,
  found_by = excluded.found_by;

-- name: deleteContacts
DELETE FROM contacts WHERE client_id = @clientId;

-- name: insertContact
INSERT INTO contacts (id, client_id, position, first_name, last_name, email, phone, is_primary)
VALUES (@id, @clientId, @position, @firstName, @lastName, @email, @phone, @isPrimary);

-- name: deleteNamedDates
DELETE FROM named_dates WHERE client_id = @clientId;

-- name: insertNamedDate
INSERT INTO named_dates (client_id, position, label, month_day, year)
VALUES (@clientId, @position, @label, @monthDay, @year);

-- name: deleteTags
DELETE FROM client_tags WHERE client_id = @clientId;

-- name: insertTag
INSERT OR IGNORE INTO client_tags (client_id, tag) VALUES (@clientId, @tag);

-- name: listClients
-- whole: walked by name up to a limit; words may stand anywhere in it
-- By name, from the one after `afterId` on; `words` are folded and stand anywhere in name, addresses and tags.
SELECT c.id, c.name, c.is_active AS isActive, k.email,
  (SELECT group_concat(tag, ', ') FROM client_tags t WHERE t.client_id = c.id) AS tags,
  (SELECT min(b.start_at) FROM bookings b
    WHERE b.client_id = c.id AND b.start_at > @now AND b.status IN ('requested', 'confirmed')) AS nextStartAt,
  (SELECT max(s.sent_at) FROM sends s WHERE s.client_id = c.id) AS lastSentAt
FROM clients c INDEXED BY clients_by_name CROSS JOIN contacts k ON k.client_id = c.id AND k.is_primary = 1
WHERE (c.name COLLATE NOCASE, c.id) > (SELECT a.name, a.id FROM clients a WHERE a.id = @afterId
    UNION ALL SELECT '', '' WHERE @afterId IS NULL)
  AND (@words = '' OR instr(c.found_by, @words) > 0)
  AND (@which <> 'booked' OR EXISTS (SELECT 1 FROM bookings b
    WHERE b.client_id = c.id AND b.start_at > @now AND b.status IN ('requested', 'confirmed')))
  AND (@which <> 'no-address' OR k.email IS NULL)
ORDER BY c.name COLLATE NOCASE, c.id LIMIT @limit;

-- name: anyClient
-- whole: one row is enough
SELECT id FROM clients LIMIT 1;

-- name: nameOfClient
SELECT id, name FROM clients WHERE id = @id;

-- part: booking
id, client_id AS clientId, service_id AS serviceId, person_in_charge_id AS personInChargeId, status,
  start_at AS startAt, end_at AS endAt, party_size AS partySize, answers_json AS answersJson,
  cancellation_json AS cancellationJson, people_json AS peopleJson, own_json AS ownJson, brought_in_as AS broughtInAs, price_cents AS priceCents, made_at AS madeAt,
  sessions_json AS sessionsJson, status_at_json AS statusAtJson, times_set_at AS timesSetAt, history_json AS historyJson, settling_json AS settlingJson,
  told_json AS toldJson, revision

-- name: readBooking
SELECT {booking}
FROM bookings WHERE id = @id;

-- name: bookingsOfClient
SELECT {booking}
FROM bookings WHERE client_id = @clientId ORDER BY start_at, id;

-- name: bookingsAlive
-- Those not over for long, and those asked for.
SELECT {booking}
FROM bookings WHERE client_id = @clientId AND end_at >= @endedSince
UNION
SELECT {booking}
FROM bookings WHERE client_id = @clientId AND (id IN (SELECT value FROM json_each(@subjectIdsJson))
  OR id IN (SELECT booking_id FROM invoices WHERE id IN (SELECT value FROM json_each(@subjectIdsJson))))
ORDER BY startAt, id;

-- name: bookingsMadeSince
SELECT {booking}
FROM bookings WHERE client_id = @clientId AND made_at >= @since AND end_at < @endedSince ORDER BY startAt, id;

-- name: putBooking
INSERT INTO bookings (id, client_id, service_id, person_in_charge_id, status, start_at, end_at, party_size, answers_json,
  cancellation_json, people_json, own_json, brought_in_as, price_cents, made_at, sessions_json, status_at_json, times_set_at, history_json, settling_json, told_json, revision)
VALUES (@id, @clientId, @serviceId, @personInChargeId, @status, @startAt, @endAt, @partySize, @answersJson,
  @cancellationJson, @peopleJson, @ownJson, @broughtInAs, @priceCents, @madeAt, @sessionsJson, @statusAtJson, @timesSetAt, @historyJson, @settlingJson, @toldJson, @revision)
ON CONFLICT (id) DO UPDATE SET person_in_charge_id = excluded.person_in_charge_id, status = excluded.status,
  start_at = excluded.start_at, end_at = excluded.end_at, party_size = excluded.party_size,
  answers_json = excluded.answers_json, cancellation_json = excluded.cancellation_json,
  price_cents = excluded.price_cents, people_json = excluded.people_json, own_json = excluded.own_json,
  sessions_json = excluded.sessions_json, status_at_json = excluded.status_at_json, times_set_at = excluded.times_set_at, history_json = excluded.history_json, settling_json = excluded.settling_json, told_json = excluded.told_json, made_at = excluded.made_at, revision = excluded.revision;

-- name: noteTold
UPDATE bookings SET told_json = @toldJson WHERE id = @id AND told_json <> @toldJson;

-- name: seatsTaken
SELECT coalesce(sum(party_size), 0) AS seats FROM bookings
WHERE service_id = @serviceId AND start_at < @endAt AND end_at > @startAt
  AND status IN ('requested', 'confirmed', 'completed') AND id IS NOT @exceptBookingId;

-- name: takenBetween
-- What begins within some time and takes room; of any service, because people are busy with any.
SELECT service_id AS serviceId, start_at AS startAt, end_at AS endAt, party_size AS partySize,
  person_in_charge_id AS personInChargeId
FROM bookings WHERE start_at >= @from AND start_at < @to AND status IN ('requested', 'confirmed', 'completed')
  AND id IS NOT @exceptBookingId;

-- name: clientsByAddress
SELECT DISTINCT c.id, c.name FROM contacts k JOIN clients c ON c.id = k.client_id
WHERE k.email = @email COLLATE NOCASE AND k.email IS NOT NULL AND c.is_active = 1 ORDER BY c.id LIMIT 10;

-- name: clientsByName
SELECT id, name FROM clients WHERE name = @name COLLATE NOCASE AND is_active = 1 ORDER BY id LIMIT 2;

-- name: bookingBroughtInAs
SELECT id FROM bookings WHERE brought_in_as = @key;

-- name: bookingsStanding
-- Those that take room and end ahead, to look at a calendar beside them.
SELECT b.brought_in_as AS broughtInAs, c.name AS clientName, b.service_id AS serviceId, b.start_at AS startAt,
  b.end_at AS endAt, b.party_size AS partySize
FROM bookings b JOIN clients c ON c.id = b.client_id
WHERE b.start_at > @since AND b.end_at > @now AND b.status IN ('requested', 'confirmed', 'completed')
ORDER BY b.start_at, b.id;

-- name: listBookings
SELECT b.id, b.client_id AS clientId, c.name AS clientName, b.service_id AS serviceId, b.status,
  json_extract(b.own_json, '$.status') AS ownStatus, b.start_at AS startAt, b.end_at AS endAt, b.party_size AS partySize, b.revision
FROM bookings b JOIN clients c ON c.id = b.client_id
WHERE b.start_at >= @from AND b.start_at < @to
ORDER BY b.start_at, b.id;

-- name: bookingsOfTeam
-- Those that take room, with how to reach who comes; of one person, or of all.
SELECT b.id, b.service_id AS serviceId, b.status, json_extract(b.own_json, '$.status') AS ownStatus, b.start_at AS startAt,
  b.end_at AS endAt, b.party_size AS partySize, b.revision, c.name AS clientName, k.email, k.phone
FROM bookings b JOIN clients c ON c.id = b.client_id
  LEFT JOIN contacts k ON k.client_id = b.client_id AND k.is_primary = 1
WHERE b.start_at >= @from AND b.status IN ('requested', 'confirmed', 'completed')
  AND (@personId IS NULL OR b.person_in_charge_id = @personId)
ORDER BY b.start_at, b.id LIMIT 5000;

-- name: bookingLinesOfClient
-- The newest first, from the one after `afterId` on.
SELECT b.id, b.client_id AS clientId, c.name AS clientName, b.service_id AS serviceId, b.status,
  json_extract(b.own_json, '$.status') AS ownStatus, b.start_at AS startAt, b.end_at AS endAt, b.party_size AS partySize, b.revision
FROM bookings b JOIN clients c ON c.id = b.client_id
WHERE b.client_id = @clientId AND (b.start_at, b.id) <
  (SELECT a.start_at, a.id FROM bookings a WHERE a.id = @afterId
    UNION ALL SELECT 9007199254740991, '' WHERE @afterId IS NULL)
ORDER BY b.start_at DESC, b.id DESC LIMIT @limit;

-- part: enquiry
id, client_id AS clientId, pipeline_id AS pipelineId, service_id AS serviceId, stage, received_at AS receivedAt,
  stage_at_json AS stageAtJson, wished_on AS wishedOn, wished_set_at AS wishedSetAt, deadline_on AS deadlineOn,
  deadline_set_at AS deadlineSetAt, person_in_charge_id AS personInChargeId, evening_json AS eveningJson,
  ticks_json AS ticksJson, what, party_size AS partySize, budget_cents AS budgetCents, source,
  answers_json AS answersJson, contact_ids_json AS contactIdsJson, lost_reason AS lostReason, booking_id AS bookingId, revision

-- name: enquiriesOfClient
SELECT {enquiry}
FROM enquiries WHERE client_id = @clientId ORDER BY received_at, id;

-- name: readEnquiry
SELECT {enquiry}
FROM enquiries WHERE id = @id;

-- name: enquiryOfBooking
SELECT id, stage FROM enquiries WHERE booking_id = @bookingId;

-- name: clientsWithEnquiriesIn
SELECT DISTINCT client_id AS clientId FROM enquiries
WHERE pipeline_id = @pipelineId AND stage IN (SELECT value FROM json_each(@stagesJson)) ORDER BY client_id;

-- name: putEnquiry
INSERT INTO enquiries (id, client_id, pipeline_id, service_id, stage, received_at, stage_at_json, wished_on, wished_set_at,
  deadline_on, deadline_set_at, person_in_charge_id, evening_json, ticks_json, what, party_size, budget_cents, source,
  answers_json, contact_ids_json, lost_reason, booking_id, revision)
VALUES (@id, @clientId, @pipelineId, @serviceId, @stage, @receivedAt, @stageAtJson, @wishedOn, @wishedSetAt,
  @deadlineOn, @deadlineSetAt, @personInChargeId, @eveningJson, @ticksJson, @what, @partySize, @budgetCents, @source,
  @answersJson, @contactIdsJson, @lostReason, @bookingId, @revision)
ON CONFLICT (id) DO UPDATE SET service_id = excluded.service_id, stage = excluded.stage,
  stage_at_json = excluded.stage_at_json, wished_on = excluded.wished_on, wished_set_at = excluded.wished_set_at,
  deadline_on = excluded.deadline_on, deadline_set_at = excluded.deadline_set_at,
  person_in_charge_id = excluded.person_in_charge_id, evening_json = excluded.evening_json, ticks_json = excluded.ticks_json,
  what = excluded.what, party_size = excluded.party_size, budget_cents = excluded.budget_cents, source = excluded.source,
  answers_json = excluded.answers_json, contact_ids_json = excluded.contact_ids_json, lost_reason = excluded.lost_reason, booking_id = excluded.booking_id,
  revision = excluded.revision;

-- name: openEnquiryLines
-- Those in stages that are open, with the next message to each.
SELECT {enquiryLine}
FROM enquiries e JOIN clients c ON c.id = e.client_id
WHERE e.pipeline_id = @pipelineId AND e.stage IN (SELECT value FROM json_each(@stagesJson))
ORDER BY e.received_at DESC, e.id;

-- name: endedEnquiryLines
-- The latest of those in a stage that ended them, from the one after `afterId` on.
SELECT {enquiryLine}
FROM enquiries e JOIN clients c ON c.id = e.client_id
WHERE e.pipeline_id = @pipelineId AND e.stage = @stage AND (e.received_at, e.id) <
  (SELECT a.received_at, a.id FROM enquiries a WHERE a.id = @afterId
    UNION ALL SELECT 9007199254740991, '' WHERE @afterId IS NULL)
ORDER BY e.received_at DESC, e.id DESC LIMIT @limit;

-- name: enquiriesDue
-- Those whose deadline is a day or before it, the longest due first.
SELECT {enquiryLine}
FROM enquiries e INDEXED BY enquiries_by_deadline JOIN clients c ON c.id = e.client_id
WHERE e.deadline_on <= @dueBy ORDER BY e.deadline_on, e.id LIMIT @limit;

-- name: enquiryLinesOfClient
SELECT {enquiryLine}
FROM enquiries e JOIN clients c ON c.id = e.client_id
WHERE e.client_id = @clientId ORDER BY e.received_at DESC, e.id DESC;

-- part: enquiryLine
e.id, e.client_id AS clientId, c.name AS clientName, e.service_id AS serviceId, e.stage, e.what, e.party_size AS partySize,
  e.budget_cents AS budgetCents, e.source, e.wished_on AS wishedOn, e.deadline_on AS deadlineOn,
  e.person_in_charge_id AS personInChargeId, e.received_at AS receivedAt, e.booking_id AS bookingId, e.revision,
  (SELECT value FROM json_each(e.stage_at_json) WHERE key = e.stage) AS stageSince,
  (SELECT json_group_array(json_array(s.shown_at, s.state)) FROM sends s
    WHERE s.subject_id = e.id AND s.state IN ({ahead}) AND s.shown_at IS NOT NULL) AS comingJson

-- part: invoice
id, client_id AS clientId, booking_id AS bookingId, issued_at AS issuedAt, due_on AS dueOn,
  due_set_at AS dueSetAt, paid_at AS paidAt, is_fee AS isFee, amount_cents AS amountCents, number, reason,
  payments_json AS paymentsJson, voided_at AS voidedAt

-- name: invoicesOfClient
SELECT {invoice}
FROM invoices WHERE client_id = @clientId ORDER BY issued_at, id;

-- name: invoicesAlive
SELECT {invoice}
FROM invoices WHERE client_id = @clientId
  AND (booking_id IS NULL OR booking_id IN (SELECT value FROM json_each(@bookingIdsJson))
    OR id IN (SELECT value FROM json_each(@subjectIdsJson)))
ORDER BY issued_at, id;

-- name: invoicesOfBooking
SELECT {invoice}
FROM invoices WHERE booking_id = @bookingId ORDER BY issued_at, number, id;

-- name: readInvoice
SELECT {invoice}
FROM invoices WHERE id = @id;

-- name: putInvoice
-- A new one gets the next number of all.
INSERT INTO invoices (id, client_id, booking_id, issued_at, due_on, due_set_at, paid_at, is_fee, amount_cents, number, reason,
  payments_json, voided_at)
VALUES (@id, @clientId, @bookingId, @issuedAt, @dueOn, @dueSetAt, @paidAt, @isFee, @amountCents,
  coalesce(@number, (SELECT coalesce(max(number), 0) + 1 FROM invoices)), @reason, @paymentsJson, @voidedAt)
ON CONFLICT (id) DO UPDATE SET due_on = excluded.due_on, due_set_at = excluded.due_set_at,
  paid_at = excluded.paid_at, amount_cents = excluded.amount_cents, payments_json = excluded.payments_json,
  voided_at = excluded.voided_at;

-- name: happeningsOfClient
SELECT kind, name, at FROM happenings WHERE client_id = @clientId ORDER BY at, rowid;

-- name: addHappening
INSERT INTO happenings (client_id, kind, name, at) VALUES (@clientId, @kind, @name, @at);

-- name: removeHappening
DELETE FROM happenings WHERE client_id = @clientId AND kind = @kind AND name = @name AND at = @at;

-- name: variationsOfClient
SELECT variation_json AS variationJson FROM variations WHERE client_id = @clientId ORDER BY id;

-- name: variationsOfServices
SELECT variation_json AS variationJson FROM variations WHERE service_id IS NOT NULL ORDER BY id;

-- name: variationsOfClientsBySequence
SELECT v.variation_json AS variationJson, c.name AS clientName FROM variations v JOIN clients c ON c.id = v.client_id
WHERE v.sequence_id = @sequenceId ORDER BY c.name, v.id LIMIT 500;

-- name: readVariation
SELECT variation_json AS variationJson FROM variations WHERE id = @id;

-- name: putVariation
INSERT INTO variations (id, sequence_id, step_id, service_id, client_id, variation_json)
VALUES (@id, @sequenceId, @stepId, @serviceId, @clientId, @variationJson)
ON CONFLICT (id) DO UPDATE SET variation_json = excluded.variation_json;

-- name: removeVariation
DELETE FROM variations WHERE id = @id;

-- name: removeTask
DELETE FROM tasks WHERE id = @id;

-- name: lastSigning
SELECT id, client_id AS clientId, signing_json AS signingJson FROM signings
WHERE subject_id = @subjectId AND document_id = @documentId ORDER BY fixed_at DESC, id DESC LIMIT 1;

-- name: signingsOf
SELECT id, client_id AS clientId, signing_json AS signingJson FROM signings
WHERE subject_id = @subjectId ORDER BY fixed_at DESC, id DESC;

-- name: putSigning
INSERT INTO signings (id, document_id, client_id, subject_id, fixed_at, signing_json, pdf)
VALUES (@id, @documentId, @clientId, @subjectId, @fixedAt, @signingJson, @pdf)
ON CONFLICT (id) DO UPDATE SET signing_json = excluded.signing_json, pdf = excluded.pdf;

-- name: signedCopy
SELECT pdf FROM signings WHERE id = @id;

-- name: moveSignings
-- Everything of the one, or what is about the other and what is given.
UPDATE signings SET client_id = @toId WHERE client_id = @fromId AND (
  @isWhole = 1 OR subject_id = @toId OR subject_id IN (SELECT value FROM json_each(@idsJson)));

-- name: pressedOn
-- What was pressed on a booking or an enquiry, the latest first.
SELECT id, pressed_json AS pressedJson FROM pressed_moves
WHERE subject_id = @subjectId AND taken_back_at IS NULL ORDER BY at DESC, id LIMIT 5;

-- name: readPressedMove
SELECT id, pressed_json AS pressedJson FROM pressed_moves WHERE id = @id AND taken_back_at IS NULL;

-- name: putPressedMove
INSERT INTO pressed_moves (id, subject_id, at, pressed_json) VALUES (@id, @subjectId, @at, @pressedJson);

-- name: endPressedMove
UPDATE pressed_moves SET taken_back_at = @at WHERE id = @id;

-- name: putTask
INSERT INTO tasks (id, client_id, subject_kind, subject_id, title, due_on, person_id, made_at, done_at)
VALUES (@id, @clientId, @subjectKind, @subjectId, @title, @dueOn, @personId, @madeAt, @doneAt)
ON CONFLICT (id) DO UPDATE SET title = excluded.title, due_on = excluded.due_on, person_id = excluded.person_id,
  done_at = excluded.done_at, revision = revision + 1;

-- name: taskRevision
SELECT revision FROM tasks WHERE id = @id;

-- name: tasksOfClient
SELECT id, client_id AS clientId, subject_kind AS subjectKind, subject_id AS subjectId, title, due_on AS dueOn,
  person_id AS personId, made_at AS madeAt, done_at AS doneAt
FROM tasks WHERE client_id = @clientId ORDER BY due_on, id;

-- name: readTask
SELECT id, client_id AS clientId, subject_kind AS subjectKind, subject_id AS subjectId, title, due_on AS dueOn,
  person_id AS personId, made_at AS madeAt, done_at AS doneAt
FROM tasks WHERE id = @id;

-- name: openTasks
SELECT t.id, t.client_id AS clientId, t.subject_kind AS subjectKind, t.subject_id AS subjectId, t.title,
  t.due_on AS dueOn, t.person_id AS personId, t.made_at AS madeAt, t.done_at AS doneAt, t.revision,
  c.name AS clientName, p.name AS personName
FROM tasks t JOIN clients c ON c.id = t.client_id LEFT JOIN people p ON p.id = t.person_id
WHERE t.done_at IS NULL
  AND (t.due_on, t.id) > (SELECT a.due_on, a.id FROM tasks a WHERE a.id = @afterId
    UNION ALL SELECT '', '' WHERE @afterId IS NULL)
ORDER BY t.due_on, t.id LIMIT @limit;

-- name: taskLinesOfClient
SELECT t.id, t.client_id AS clientId, t.subject_kind AS subjectKind, t.subject_id AS subjectId, t.title,
  t.due_on AS dueOn, t.person_id AS personId, t.made_at AS madeAt, t.done_at AS doneAt, t.revision,
  c.name AS clientName, p.name AS personName
FROM tasks t JOIN clients c ON c.id = t.client_id LEFT JOIN people p ON p.id = t.person_id
WHERE t.client_id = @clientId ORDER BY t.done_at IS NOT NULL, t.due_on, t.id;

-- name: allClientIds
-- whole: a design that takes in everybody looks at everybody
SELECT id FROM clients ORDER BY id;

-- name: clientsWithRunningRuns
-- whole: of what runs only
-- Of one sequence, or of all where none is named.
SELECT DISTINCT client_id AS id FROM runs INDEXED BY runs_running
WHERE state = 'running' AND (@sequenceId IS NULL OR sequence_id = @sequenceId) ORDER BY client_id;

-- name: findClients
-- whole: names and addresses are looked through for words anywhere in them
SELECT c.id, c.name, k.email FROM clients c INDEXED BY clients_by_name
  CROSS JOIN contacts k ON k.client_id = c.id AND k.is_primary = 1
WHERE instr(c.found_by, @words) > 0
ORDER BY c.name COLLATE NOCASE, c.id LIMIT @most;

-- name: findBookings
-- By date, or by whose they are; what is nearest to now first.
-- whole: names of clients are looked through for words anywhere in them
SELECT b.id, b.service_id AS serviceId, b.start_at AS startAt, c.name AS clientName
FROM (
  SELECT id FROM bookings WHERE start_at >= @from AND start_at < @to
  UNION
  SELECT b.id FROM clients c JOIN bookings b ON b.client_id = c.id WHERE instr(c.found_by, @words) > 0
) found JOIN bookings b ON b.id = found.id JOIN clients c ON c.id = b.client_id
ORDER BY abs(b.start_at - @now), b.id LIMIT @most;

-- name: findEnquiries
-- whole: names of clients are looked through for words anywhere in them
SELECT e.id, e.what, e.stage, c.name AS clientName FROM clients c JOIN enquiries e ON e.client_id = c.id
WHERE instr(c.found_by, @words) > 0 ORDER BY e.received_at DESC, e.id LIMIT @most;

-- name: messagesOfClient
SELECT m.source, m.is_packed AS isPacked, coalesce(s.sent_at, s.state_since) AS at FROM sends s JOIN messages m ON m.send_id = s.id
WHERE s.client_id = @clientId AND s.state IN ({left}, {uncertain}) ORDER BY at, s.id;

-- name: clientsToCompare
-- whole: every client may be the one in a table that is brought in
SELECT c.id, c.name, t.email, t.phone FROM clients c JOIN contacts t ON t.client_id = c.id ORDER BY c.added_at, c.id, t.position;

-- name: namedDatesToCompare
-- whole: every client may be the one in a table that is brought in
SELECT client_id AS clientId, label, month_day AS monthDay, year FROM named_dates;

-- name: putClientImport
INSERT INTO client_imports (id, at, person_id, file_name, taken_back_at) VALUES (@id, @at, @personId, @fileName, NULL);

-- name: insertImportedClient
INSERT INTO imported_clients (import_id, client_id, was_json, revision) VALUES (@importId, @clientId, @wasJson, @revision);

-- name: endClientImport
UPDATE client_imports SET taken_back_at = @at WHERE id = @id AND taken_back_at IS NULL;

-- name: readClientImport
SELECT id, at, person_id AS personId, file_name AS fileName FROM client_imports WHERE id = @id AND taken_back_at IS NULL;

-- name: importedClients
SELECT client_id AS clientId, was_json AS wasJson, revision FROM imported_clients WHERE import_id = @importId;

-- name: clientImports
-- whole: the newest twenty, in the order of the index
SELECT i.id, i.at, i.file_name AS fileName, i.taken_back_at AS takenBackAt, p.name AS personName,
  (SELECT count(*) FROM imported_clients c WHERE c.import_id = i.id) AS clients
FROM client_imports i LEFT JOIN people p ON p.id = i.person_id ORDER BY i.at DESC, i.id DESC LIMIT 20;

-- name: isClientUsed
SELECT EXISTS (SELECT 1 FROM bookings WHERE client_id = @id) OR EXISTS (SELECT 1 FROM enquiries WHERE client_id = @id)
  OR EXISTS (SELECT 1 FROM invoices WHERE client_id = @id) OR EXISTS (SELECT 1 FROM happenings WHERE client_id = @id)
  OR EXISTS (SELECT 1 FROM runs WHERE client_id = @id) OR EXISTS (SELECT 1 FROM sends WHERE client_id = @id)
  OR EXISTS (SELECT 1 FROM tasks WHERE client_id = @id) OR EXISTS (SELECT 1 FROM variations WHERE client_id = @id)
  OR EXISTS (SELECT 1 FROM events WHERE client_id = @id) OR EXISTS (SELECT 1 FROM rollout_clients WHERE client_id = @id)
  AS isUsed;

-- name: removeClient
DELETE FROM clients WHERE id = @id;

-- name: clientIdsAfter
SELECT id FROM clients WHERE id > coalesce(@afterId, '') ORDER BY id LIMIT @limit;

-- name: bookingsOut
-- whole: all of them are given out
SELECT b.id, c.name AS client, k.email, v.name AS service, b.status, json_extract(b.own_json, '$.status') AS ownStatus,
  b.start_at AS startAt, b.end_at AS endAt, b.party_size AS partySize, p.name AS inCharge, b.made_at AS madeAt
FROM bookings b JOIN clients c ON c.id = b.client_id JOIN services v ON v.id = b.service_id
  LEFT JOIN contacts k ON k.client_id = b.client_id AND k.is_primary = 1
  LEFT JOIN people p ON p.id = b.person_in_charge_id
ORDER BY b.start_at, b.id;

-- name: invoicesOut
-- whole: all of them are given out
SELECT i.id, i.number, c.name AS client, i.amount_cents AS amountCents, i.reason, i.issued_at AS issuedAt, i.due_on AS dueOn,
  i.paid_at AS paidAt, i.voided_at AS voidedAt, i.booking_id AS booking
FROM invoices i JOIN clients c ON c.id = i.client_id ORDER BY i.issued_at, i.id;

-- name: enquiriesOut
-- whole: all of them are given out
SELECT e.id, c.name AS client, json_extract(l.pipeline_json, '$.name') AS pipeline, e.stage, e.what, v.name AS service,
  e.received_at AS receivedAt, e.wished_on AS wishedOn, e.party_size AS people, e.budget_cents AS budgetCents, e.source,
  p.name AS inCharge, e.deadline_on AS deadlineOn, e.lost_reason AS lostReason, e.booking_id AS booking
FROM enquiries e JOIN pipelines l ON l.id = e.pipeline_id JOIN clients c ON c.id = e.client_id LEFT JOIN services v ON v.id = e.service_id
  LEFT JOIN people p ON p.id = e.person_in_charge_id
ORDER BY e.received_at, e.id;

-- name: messagesOut
-- whole: all of them are given out
SELECT s.id, c.name AS client, q.name AS sequence, s.step_kind AS kind, json_extract(l.content_json, '$.name') AS letter, s.address, s.state,
  s.due_at AS dueAt, s.sent_at AS sentAt, json_extract(s.reason_json, '$.sentence') AS reason
FROM sends s JOIN clients c ON c.id = s.client_id JOIN sequences q ON q.id = s.sequence_id
  LEFT JOIN letters l ON l.id = s.letter_id
ORDER BY coalesce(s.sent_at, s.due_at), s.id;

-- name: putClientMerge
INSERT INTO client_merges (id, at, kept_id, gone_id, merge_json) VALUES (@id, @at, @keptId, @goneId, @mergeJson);

-- name: endClientMerge
UPDATE client_merges SET taken_back_at = @at WHERE id = @id AND taken_back_at IS NULL;

-- name: readClientMerge
SELECT merge_json AS mergeJson FROM client_merges WHERE id = @id AND taken_back_at IS NULL;

-- name: mergesOfClient
SELECT id, merge_json AS mergeJson FROM client_merges WHERE kept_id = @keptId AND taken_back_at IS NULL ORDER BY at DESC, id DESC;

-- name: presentClient
-- Who was merged with another may have been merged with a third.
WITH RECURSIVE mergedTo (id) AS (
  SELECT kept_id FROM client_merges WHERE gone_id = @id AND taken_back_at IS NULL
  UNION SELECT m.kept_id FROM client_merges m JOIN mergedTo ON m.gone_id = mergedTo.id WHERE m.taken_back_at IS NULL
) SELECT c.id FROM mergedTo JOIN clients c ON c.id = mergedTo.id;

-- name: moveBookings
UPDATE bookings SET client_id = @toId WHERE id IN (SELECT value FROM json_each(@idsJson));

-- name: moveEnquiries
UPDATE enquiries SET client_id = @toId WHERE id IN (SELECT value FROM json_each(@idsJson));

-- name: moveInvoices
UPDATE invoices SET client_id = @toId WHERE id IN (SELECT value FROM json_each(@idsJson));

-- name: moveTasks
UPDATE tasks SET client_id = @toId, subject_id = CASE subject_kind WHEN 'client' THEN @toId ELSE subject_id END
WHERE id IN (SELECT value FROM json_each(@idsJson));

-- name: moveRuns
UPDATE runs SET client_id = @toId, subject_id = CASE subject_kind WHEN 'client' THEN @toId ELSE subject_id END
WHERE id IN (SELECT value FROM json_each(@idsJson));

-- name: moveSends
UPDATE sends SET client_id = @toId, subject_id = CASE subject_kind WHEN 'client' THEN @toId ELSE subject_id END
WHERE run_id IN (SELECT value FROM json_each(@runIdsJson));

-- name: moveRecipients
-- Where the other has one of the same step already, it stays that contact's.
UPDATE OR IGNORE sends SET recipient_id = (SELECT r.value FROM json_each(@recipientsJson) r WHERE r.key = recipient_id)
WHERE run_id IN (SELECT value FROM json_each(@runIdsJson)) AND recipient_id IN (SELECT key FROM json_each(@recipientsJson));

-- name: moveHappenings
UPDATE happenings SET client_id = @toId WHERE client_id = @fromId AND (kind, name, at) IN (
  SELECT json_extract(value, '$.kind'), json_extract(value, '$.name'), json_extract(value, '$.at') FROM json_each(@happeningsJson));

-- name: moveDueMoments
-- A key is the id of what it is about, or begins with that of its run.
UPDATE due_moments SET client_id = @toId WHERE client_id = @fromId AND (@isWhole = 1
  OR substr(key, 1, instr(key || '|', '|') - 1) IN (SELECT value FROM json_each(@idsJson))
  OR key IN (SELECT id FROM sends WHERE run_id IN (SELECT value FROM json_each(@runIdsJson))));

-- name: shareRolloutsAhead
INSERT INTO rollout_clients (rollout_id, client_id, announced_json, state)
SELECT rollout_id, @toId, NULL, 'ahead' FROM rollout_clients WHERE client_id = @fromId AND state = 'ahead'
ON CONFLICT (rollout_id, client_id) DO UPDATE SET announced_json = NULL, state = 'ahead';

-- name: forgetRolloutsOf
DELETE FROM rollout_clients WHERE client_id = @fromId;
