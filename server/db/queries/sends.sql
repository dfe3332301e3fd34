-- part: sendLine
s.id, s.client_id AS clientId, c.name AS clientName, s.recipient_id AS recipientId,
  nullif(trim(k.first_name || ' ' || k.last_name), '') AS contactName, w.name AS colleagueName,
  b.id AS bookingId, b.service_id AS serviceId, s.letter_id AS letterId, s.step_kind AS stepKind, s.step_id AS stepId,
  s.sequence_version AS sequenceVersion, s.sequence_id AS sequenceId, s.purpose, s.state, s.shown_at AS shownAt,
  s.not_after AS notAfter, s.reason_json AS reasonJson, s.trace_json AS traceJson, s.address,
  s.state_since AS stateSince, s.revision

-- part: sendLineJoins
JOIN clients c ON c.id = s.client_id LEFT JOIN bookings b ON b.id = s.subject_id
  LEFT JOIN contacts k ON k.id = s.recipient_id LEFT JOIN people w ON w.id = s.recipient_id

-- name: sendsOfClient
SELECT id, run_id AS runId, sequence_id AS sequenceId, sequence_version AS sequenceVersion, step_id AS stepId, step_kind AS stepKind,
  occurrence, anchor_value AS anchorValue, recipient_id AS recipientId, client_id AS clientId,
  subject_kind AS subjectKind, subject_id AS subjectId,
  letter_id AS letterId, purpose, state, wanted_at AS wantedAt, not_before AS notBefore, not_after AS notAfter,
  due_at AS dueAt, trace_json AS traceJson, reason_json AS reasonJson, address, message_id AS messageId,
  decision_json AS decisionJson, approved_facts_json AS approvedFactsJson, approved_words_json AS approvedWordsJson, attempts,
  sent_at AS sentAt, state_since AS stateSince
FROM sends WHERE client_id = @clientId ORDER BY coalesce(sent_at, due_at, wanted_at), id;

-- name: sendsOfRuns
SELECT id, run_id AS runId, sequence_id AS sequenceId, sequence_version AS sequenceVersion, step_id AS stepId, step_kind AS stepKind,
  occurrence, anchor_value AS anchorValue, recipient_id AS recipientId, client_id AS clientId,
  subject_kind AS subjectKind, subject_id AS subjectId,
  letter_id AS letterId, purpose, state, wanted_at AS wantedAt, not_before AS notBefore, not_after AS notAfter,
  due_at AS dueAt, trace_json AS traceJson, reason_json AS reasonJson, address, message_id AS messageId,
  decision_json AS decisionJson, approved_facts_json AS approvedFactsJson, approved_words_json AS approvedWordsJson, attempts,
  sent_at AS sentAt, state_since AS stateSince
FROM sends WHERE run_id IN (SELECT value FROM json_each(@runIdsJson)) ORDER BY coalesce(sent_at, due_at, wanted_at), id;

-- name: sendsGoneSince
SELECT id, run_id AS runId, sequence_id AS sequenceId, sequence_version AS sequenceVersion, step_id AS stepId, step_kind AS stepKind,
  occurrence, anchor_value AS anchorValue, recipient_id AS recipientId, client_id AS clientId,
  subject_kind AS subjectKind, subject_id AS subjectId,
  letter_id AS letterId, purpose, state, wanted_at AS wantedAt, not_before AS notBefore, not_after AS notAfter,
  due_at AS dueAt, trace_json AS traceJson, reason_json AS reasonJson, address, message_id AS messageId,
  decision_json AS decisionJson, approved_facts_json AS approvedFactsJson, approved_words_json AS approvedWordsJson, attempts,
  sent_at AS sentAt, state_since AS stateSince
FROM sends WHERE client_id = @clientId AND sent_at >= @since ORDER BY sent_at, id;

-- name: readSend
SELECT id, run_id AS runId, sequence_id AS sequenceId, sequence_version AS sequenceVersion, step_id AS stepId, step_kind AS stepKind,
  occurrence, anchor_value AS anchorValue, recipient_id AS recipientId, client_id AS clientId,
  subject_kind AS subjectKind, subject_id AS subjectId,
  letter_id AS letterId, purpose, state, wanted_at AS wantedAt, not_before AS notBefore, not_after AS notAfter,
  due_at AS dueAt, trace_json AS traceJson, reason_json AS reasonJson, address, message_id AS messageId,
  decision_json AS decisionJson, approved_facts_json AS approvedFactsJson, approved_words_json AS approvedWordsJson, attempts,
  sent_at AS sentAt, state_since AS stateSince
FROM sends WHERE id = @id;

-- name: putSend
-- A row that is being sent belongs to its claim: nothing but the claim's own token may touch it.
INSERT INTO sends (id, run_id, sequence_id, sequence_version, step_id, step_kind, occurrence, anchor_value, recipient_id, client_id,
  subject_kind, subject_id, letter_id, purpose, state, wanted_at, not_before, not_after, due_at, trace_json, reason_json, address,
  message_id, decision_json, approved_facts_json, approved_words_json, attempts, sent_at, state_since)
VALUES (@id, @runId, @sequenceId, @sequenceVersion, @stepId, @stepKind, @occurrence, @anchorValue, @recipientId, @clientId,
  @subjectKind, @subjectId, @letterId, @purpose, @state, @wantedAt, @notBefore, @notAfter, @dueAt, @traceJson, @reasonJson, @address,
  @messageId, @decisionJson, @approvedFactsJson, @approvedWordsJson, @attempts, @sentAt, @stateSince)
ON CONFLICT (id) DO UPDATE SET state = excluded.state, anchor_value = excluded.anchor_value, wanted_at = excluded.wanted_at,
  not_before = excluded.not_before, not_after = excluded.not_after, due_at = excluded.due_at,
  trace_json = excluded.trace_json, reason_json = excluded.reason_json, address = excluded.address,
  letter_id = excluded.letter_id, purpose = excluded.purpose, sequence_version = excluded.sequence_version,
  decision_json = excluded.decision_json, approved_facts_json = excluded.approved_facts_json, approved_words_json = excluded.approved_words_json,
  sent_at = excluded.sent_at, state_since = excluded.state_since,
  revision = revision + (state <> excluded.state OR due_at IS NOT excluded.due_at OR address IS NOT excluded.address
    OR letter_id IS NOT excluded.letter_id OR decision_json <> excluded.decision_json)
WHERE sends.state <> 'sending';

-- name: earliestDueSend
SELECT due_at AS at FROM sends WHERE state IN ({claimable})
  AND sequence_id NOT IN (SELECT id FROM sequences WHERE state = 'paused')
  AND client_id NOT IN (SELECT id FROM clients WHERE is_held_back = 1)
ORDER BY due_at LIMIT 1;

-- name: clientsWithPlanned
-- whole: of what is planned only, up to a limit
-- Who has something planned, by one sequence or by any.
SELECT DISTINCT client_id AS id FROM sends INDEXED BY sends_open
WHERE state IN ({plannable}) AND (@sequenceId IS NULL OR sequence_id = @sequenceId)
ORDER BY client_id LIMIT 5000;

-- name: clientsWithPlannedLetter
SELECT DISTINCT client_id AS id FROM sends INDEXED BY sends_open_by_letter
WHERE letter_id = @letterId AND state IN ({plannable}) ORDER BY client_id;

-- name: clientsWithApprovedLetter
SELECT DISTINCT client_id AS id FROM sends INDEXED BY sends_open_by_letter
WHERE letter_id = @letterId AND state IN ({plannable}) AND state = 'approved' ORDER BY client_id;

-- name: overdueSends
SELECT id FROM sends WHERE state IN ({claimable}) AND due_at <= @until
  AND (@sequenceId IS NULL OR sequence_id = @sequenceId)
  AND client_id NOT IN (SELECT id FROM clients WHERE is_held_back = 1)
ORDER BY due_at, id;

-- name: sendRevision
SELECT revision FROM sends WHERE id = @id;

-- name: claimDue
UPDATE sends SET state = 'sending', claimed_from = state, attempts = attempts + 1, claim_token = @token,
  lease_until = @leaseUntil, state_since = @now
WHERE id IN (
  SELECT id FROM sends WHERE state IN ({claimable}) AND due_at <= @until
    AND sequence_id NOT IN (SELECT id FROM sequences WHERE state = 'paused')
    AND client_id NOT IN (SELECT id FROM clients WHERE is_held_back = 1)
    AND CASE WHEN step_kind NOT IN ({toSomebody}) THEN @withOther = 1
      ELSE @withMail = 1 AND (@through IS NULL OR instr(@through, '|' || coalesce(through, '') || '|') > 0) END
  ORDER BY due_at, id LIMIT @limit
) RETURNING id, client_id AS clientId, run_id AS runId;

-- name: unroutedDue
-- What is due and not known to go through an account that is there: what is promotional last, as it may wait.
SELECT id, client_id AS clientId, run_id AS runId FROM sends
WHERE state IN ({claimable}) AND due_at <= @until AND step_kind IN ({toSomebody})
  AND instr(@known, '|' || coalesce(through, '') || '|') = 0
ORDER BY purpose = 'promotional', due_at, id LIMIT @limit;

-- name: goThrough
UPDATE sends SET through = @through WHERE id = @id AND through IS NOT @through;

-- name: forgetThrough
-- What is still to go finds its account anew.
UPDATE sends SET through = NULL WHERE state IN ({claimable}) AND through IS NOT NULL;

-- name: sentThrough
-- What is on the wire counts as gone.
SELECT (SELECT count(*) FROM sends WHERE through = @accountId AND sent_at >= @from)
  + (SELECT count(*) FROM sends WHERE state = 'sending' AND through = @accountId) AS count;

-- name: settleClaim
-- A state of null gives it back to the state it was claimed from.
UPDATE sends SET state = coalesce(@state, claimed_from), due_at = @dueAt, reason_json = @reasonJson, sent_at = @sentAt,
  decision_json = iif(@state = 'cancelled', json_set(decision_json, '$.isEndedAtSending', json('true')), decision_json),
  approved_words_json = iif(@state = 'sent', NULL, approved_words_json),
  state_since = @stateSince, revision = revision + 1, claim_token = NULL, claimed_from = NULL, lease_until = NULL, claim_begun = 0
WHERE id = @id AND claim_token = @token AND state = 'sending';

-- name: giveBackClaim
UPDATE sends SET state = claimed_from, attempts = attempts - 1, claim_token = NULL, claimed_from = NULL,
  lease_until = NULL, claim_begun = 0
WHERE id = @id AND claim_token = @token AND state = 'sending';

-- name: renewLease
UPDATE sends SET lease_until = @leaseUntil WHERE claim_token = @token AND state = 'sending';

-- name: abandonedClaims
SELECT id, claim_token AS token, claim_begun AS isBegun FROM sends
WHERE state = 'sending' AND claim_token IS NOT NULL;

-- name: beginClaim
UPDATE sends SET claim_begun = 1 WHERE id = @id AND claim_token = @token AND state = 'sending';

-- name: storeMessage
INSERT INTO messages (send_id, subject, source, is_packed, answer) VALUES (@sendId, @subject, @source, 1, NULL)
ON CONFLICT (send_id) DO UPDATE SET subject = excluded.subject, source = excluded.source, is_packed = 1, text = NULL,
  answer = NULL;

-- name: storeAnswer
UPDATE messages SET answer = @answer WHERE send_id = @sendId;

-- name: readMessage
SELECT subject, source, is_packed AS isPacked, text, answer FROM messages WHERE send_id = @sendId;

-- name: unpackedMessages
-- whole: of what is not packed yet only, up to a limit
SELECT send_id AS sendId, source FROM messages INDEXED BY messages_unpacked WHERE is_packed = 0 LIMIT @most;

-- name: packMessage
UPDATE messages SET source = @source, is_packed = 1 WHERE send_id = @sendId;

-- name: sourcesBetween
-- By the index of what has gone; the kinds of steps are those it is of.
SELECT s.id AS sendId, s.sent_at AS sentAt, m.source, m.is_packed AS isPacked
FROM sends s INDEXED BY sends_gone LEFT JOIN messages m ON m.send_id = s.id
WHERE (s.sent_at, s.id) > (@after, @afterId) AND s.sent_at < @upTo
  AND s.step_kind IN ({toSomebody})
ORDER BY s.sent_at, s.id LIMIT @most;

-- name: countSourcesBetween
SELECT count(*) AS count FROM sends INDEXED BY sends_gone
WHERE sent_at > @after AND sent_at < @upTo AND step_kind IN ({toSomebody});

-- name: letGoOfSource
UPDATE messages SET source = x'', is_packed = 1, text = @text WHERE send_id = @sendId;

-- name: listByTime
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.shown_at >= @from AND s.shown_at < @to AND s.state IN (SELECT value FROM json_each(@statesJson))
  AND (@clientId IS NULL OR s.client_id = @clientId)
  AND (@serviceId IS NULL OR b.service_id = @serviceId)
  AND (@sequenceId IS NULL OR s.sequence_id = @sequenceId)
  AND (@letterId IS NULL OR s.letter_id = @letterId)
ORDER BY s.shown_at, s.id LIMIT @limit OFFSET @offset;

-- name: countByQuarter
-- Quarters of an hour, counted from the epoch.
SELECT s.shown_at / 900000 AS quarter, count(*) AS count
FROM sends s LEFT JOIN bookings b ON @serviceId IS NOT NULL AND b.id = s.subject_id
WHERE s.shown_at >= @from AND s.shown_at < @to AND s.state IN (SELECT value FROM json_each(@statesJson))
  AND (@clientId IS NULL OR s.client_id = @clientId)
  AND (@serviceId IS NULL OR b.service_id = @serviceId)
  AND (@sequenceId IS NULL OR s.sequence_id = @sequenceId)
  AND (@letterId IS NULL OR s.letter_id = @letterId)
GROUP BY quarter;

-- name: countAllBetween
-- The same of all messages between two whole quarters: the index alone tells. Counting day by day costs a sixth of grouping.
SELECT count(*) AS count FROM sends INDEXED BY sends_by_quarter
WHERE shown_at / 900000 >= @from / 900000 AND shown_at / 900000 < @to / 900000
  AND state IN (SELECT value FROM json_each(@statesJson));

-- name: spanOfSends
-- When the first and the last message of all stand.
SELECT (SELECT min(shown_at / 900000) FROM sends INDEXED BY sends_by_quarter) * 900000 AS first,
  (SELECT max(shown_at / 900000) FROM sends INDEXED BY sends_by_quarter) * 900000 AS last;

-- name: messagesByQuarter
-- What counts against the mail account's allowance and against a person's minutes: ahead, and gone.
SELECT quarter, sum(count) AS count, sum(waiting) AS waiting FROM (
  SELECT shown_at / 900000 AS quarter, count(*) AS count, sum(state = 'waiting') AS waiting
  FROM sends INDEXED BY sends_ahead
  WHERE shown_at / 900000 >= @from / 900000 AND shown_at / 900000 < @to / 900000
    AND state IN ({ahead})
    AND step_kind IN ({toSomebody}) GROUP BY shown_at / 900000
  UNION ALL
  SELECT shown_at / 900000, count(*), 0 FROM sends INDEXED BY sends_by_quarter
  WHERE shown_at / 900000 >= @from / 900000 AND shown_at / 900000 < min(@to, @now + 900000) / 900000 AND state = 'sent'
    AND step_kind IN ({toSomebody}) GROUP BY shown_at / 900000
) GROUP BY quarter;

-- name: clientsWithMuch
-- Clients who get more than some number of messages within some dates, those with the most first. Copies for colleagues are
-- not theirs.
SELECT client_id AS clientId, sum(count) AS count FROM (
  SELECT client_id, count(*) AS count FROM sends INDEXED BY sends_ahead
  WHERE shown_at / 900000 >= @from / 900000 AND shown_at / 900000 < @to / 900000
    AND state IN ({ahead})
    AND step_kind IN ({forClients}) AND purpose <> 'internal' AND recipient_id >= 'ct_' AND recipient_id < 'ct`' GROUP BY client_id
  UNION ALL
  SELECT client_id, count(*) FROM sends INDEXED BY sends_by_quarter
  WHERE shown_at / 900000 >= @from / 900000 AND shown_at / 900000 < min(@to, @now + 900000) / 900000 AND state = 'sent'
    AND step_kind IN ({forClients}) AND purpose <> 'internal' AND recipient_id >= 'ct_' AND recipient_id < 'ct`' GROUP BY client_id
) GROUP BY client_id HAVING sum(count) >= @atLeast ORDER BY sum(count) DESC, client_id LIMIT @most;

-- name: momentsOfClient
-- When a client gets messages within some dates.
SELECT c.name AS clientName, json_group_array(s.shown_at) AS momentsJson
FROM sends s INDEXED BY sends_of_client JOIN clients c ON c.id = s.client_id
WHERE s.client_id = @clientId AND s.shown_at >= @from AND s.shown_at < @to
  AND s.state IN ({ahead}, 'sent')
  AND s.step_kind IN ({forClients}) AND s.purpose <> 'internal' AND s.recipient_id >= 'ct_' AND s.recipient_id < 'ct`';

-- name: countByState
SELECT state, count(*) AS count FROM sends WHERE shown_at >= @from AND shown_at < @to GROUP BY state;

-- name: noteLastChance
UPDATE sends SET last_chance_at = coalesce(@lastChanceAt, 9007199254740991) WHERE id = @id;

-- name: listWaiting
-- From the one after `afterId` on; what has the least time left first.
SELECT {sendLine},
  nullif(s.last_chance_at, 9007199254740991) AS lastChanceAt
FROM sends s INDEXED BY sends_by_last_chance {sendLineJoins}
WHERE s.state = 'waiting' AND (s.last_chance_at, s.shown_at, s.id) >
  (SELECT a.last_chance_at, a.shown_at, a.id FROM sends a WHERE a.id = @afterId
    UNION ALL SELECT -1, -1, '' WHERE @afterId IS NULL)
ORDER BY s.last_chance_at, s.shown_at, s.id LIMIT @limit;

-- name: waitingLine
SELECT {sendLine},
  nullif(s.last_chance_at, 9007199254740991) AS lastChanceAt
FROM sends s {sendLineJoins}
WHERE s.id = @id AND s.state = 'waiting';

-- name: lineOfSend
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.id = @id;

-- name: lastGoneOfClient
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.client_id = @clientId AND s.sent_at IS NOT NULL AND s.state IN ({left})
ORDER BY s.sent_at DESC, s.id DESC LIMIT 1;

-- name: waitingIds
SELECT id, client_id AS clientId, run_id AS runId, subject_id AS subjectId FROM sends INDEXED BY sends_waiting WHERE state = 'waiting' ORDER BY due_at, id;

-- name: troubleIds
SELECT id, client_id AS clientId, run_id AS runId, subject_id AS subjectId FROM sends INDEXED BY sends_in_trouble
WHERE state IN ({trouble}) AND state_since >= @since
ORDER BY state_since DESC, id;

-- name: countNeeds
SELECT (SELECT count(*) FROM sends INDEXED BY sends_waiting WHERE state = 'waiting')
    + (SELECT count(*) FROM incoming INDEXED BY incoming_at_desk WHERE place = 'decide' AND place IS NOT NULL) AS decide,
  (SELECT count(*) FROM sends s INDEXED BY sends_in_trouble
    WHERE s.state IN ({trouble}) AND {standsAlone})
    + (SELECT count(*) FROM incoming INDEXED BY incoming_at_desk WHERE place = 'trouble' AND place IS NOT NULL) AS trouble,
  (SELECT count(*) FROM tasks WHERE done_at IS NULL AND due_on <= @today)
    + (SELECT count(*) FROM enquiries INDEXED BY enquiries_by_deadline WHERE deadline_on <= @dueBy)
    + (SELECT count(*) FROM incoming INDEXED BY incoming_at_desk WHERE place = 'to-do' AND place IS NOT NULL) AS toDo;

-- name: alikeIds
SELECT id FROM sends
WHERE state = 'waiting' AND sequence_id = @sequenceId AND step_id = @stepId AND letter_id IS @letterId AND id <> @id
ORDER BY due_at, id LIMIT @limit;

-- part: standsAlone
-- While a report stands in Trouble for a client, it stands for all messages to the address that nothing goes to any more.
NOT (coalesce(s.reason_json ->> '$.code', '') = 'address blocked'
  AND EXISTS (SELECT 1 FROM contacts a JOIN undelivered u ON u.address = a.email
    WHERE a.id = s.recipient_id AND u.undelivered_json ->> '$.isBlocked' = 1)
  AND EXISTS (SELECT 1 FROM incoming i INDEXED BY incoming_of_client
    WHERE i.client_id = s.client_id AND i.client_id IS NOT NULL AND i.place = 'trouble'
      AND i.incoming_json ->> '$.what.kind' = 'delivery report'))

-- name: troubleOfClient
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.client_id = @clientId AND s.state IN ({trouble}) ORDER BY coalesce(s.shown_at, 9007199254740991), s.id LIMIT 100;

-- name: listTroubleInTime
-- What would still be of use, from the one after `afterId` on; what has the least time left first.
SELECT {sendLine}
FROM sends s INDEXED BY sends_trouble_by_use {sendLineJoins}
WHERE s.state IN ({trouble}) AND coalesce(s.not_after, 9007199254740991) >= @now AND {standsAlone}
  AND (coalesce(s.not_after, 9007199254740991), s.id) >
    (SELECT coalesce(a.not_after, 9007199254740991), a.id FROM sends a WHERE a.id = @afterId
      UNION ALL SELECT -1, '' WHERE @afterId IS NULL)
ORDER BY coalesce(s.not_after, 9007199254740991), s.id LIMIT @limit;

-- name: listTroubleTooLate
-- What comes too late whatever is done, from the one after `afterId` on; the latest first.
SELECT {sendLine}
FROM sends s INDEXED BY sends_trouble_by_use {sendLineJoins}
WHERE s.state IN ({trouble}) AND coalesce(s.not_after, 9007199254740991) < @now AND {standsAlone}
  AND (coalesce(s.not_after, 9007199254740991), s.id) <
    (SELECT coalesce(a.not_after, 9007199254740991), a.id FROM sends a WHERE a.id = @afterId
      UNION ALL SELECT 9007199254740992, '' WHERE @afterId IS NULL)
ORDER BY coalesce(s.not_after, 9007199254740991) DESC, s.id DESC LIMIT @limit;

-- name: isTooLate
SELECT id FROM sends WHERE id = @id AND not_after < @now;

-- name: lastGone
-- The message that went last.
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.id = (SELECT id FROM sends INDEXED BY sends_gone WHERE sent_at IS NOT NULL AND step_kind IN ({toSomebody})
  AND state = 'sent' ORDER BY sent_at DESC LIMIT 1);

-- name: nextAhead
-- The next message that goes by itself.
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.id = (SELECT id FROM sends INDEXED BY sends_due WHERE state IN ({claimable}) AND step_kind IN ({toSomebody})
  AND due_at >= @now ORDER BY due_at, id LIMIT 1);

-- name: listWentOut
-- From the one after `afterId` on, the newest first.
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.shown_at >= @from AND s.shown_at < @to AND s.state = 'sent'
  AND (s.shown_at, s.id) < (SELECT a.shown_at, a.id FROM sends a WHERE a.id = @afterId
    UNION ALL SELECT 9007199254740991, '~' WHERE @afterId IS NULL)
ORDER BY s.shown_at DESC, s.id DESC LIMIT @limit;

-- name: listStillToday
-- From the one after `afterId` on, the next first.
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.shown_at >= @from AND s.shown_at < @to AND s.state IN ({ahead})
  AND (s.shown_at, s.id) > (SELECT a.shown_at, a.id FROM sends a WHERE a.id = @afterId
    UNION ALL SELECT -1, '' WHERE @afterId IS NULL)
ORDER BY s.shown_at, s.id LIMIT @limit;

-- name: listOfClient
-- The newest first, from the one after `afterId` on; what has no moment yet stands before all others.
SELECT {sendLine}
FROM sends s INDEXED BY sends_of_client_by_time {sendLineJoins}
WHERE s.client_id = @clientId AND (coalesce(s.shown_at, 9007199254740991), s.id) <
  (SELECT coalesce(a.shown_at, 9007199254740991), a.id FROM sends a WHERE a.id = @afterId
    UNION ALL SELECT 9007199254740992, '' WHERE @afterId IS NULL)
ORDER BY coalesce(s.shown_at, 9007199254740991) DESC, s.id DESC LIMIT @limit;

-- name: listOfSubject
-- With those about its invoices, as far as they were ever meant to go.
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.subject_id IN (SELECT @subjectId UNION ALL SELECT id FROM invoices WHERE booking_id = @subjectId)
  AND (s.subject_id = @subjectId OR s.state <> 'skipped')
ORDER BY s.shown_at, s.id;

-- name: countOnTheirWay
SELECT count(*) AS count FROM sends INDEXED BY sends_due WHERE state IN ({claimable});

-- name: sentSince
-- What is on the wire counts as gone.
SELECT (SELECT count(*) FROM sends
    WHERE sent_at >= @from AND step_kind IN ({toSomebody}))
  + (SELECT count(*) FROM sends WHERE state = 'sending' AND claim_token IS NOT NULL) AS count;

-- name: dueMessages
SELECT id, due_at AS dueAt, purpose FROM sends WHERE state IN ({claimable}) AND due_at <= @until
  AND step_kind IN ({toSomebody})
  AND client_id NOT IN (SELECT id FROM clients WHERE is_held_back = 1)
  AND (@through IS NULL OR instr(@through, '|' || coalesce(through, '') || '|') > 0)
ORDER BY due_at, id;

-- name: putOff
UPDATE sends SET due_at = @dueAt, trace_json = json_insert(trace_json, '$[#]', json(@lineJson))
WHERE id = @id AND state IN ({claimable});

-- name: dueByQuarter
-- All that is due, also what is not counted against the allowance.
SELECT due_at / 900000 AS quarter, count(*) AS count FROM sends INDEXED BY sends_due
WHERE state IN ({claimable}) GROUP BY due_at / 900000;

-- name: sendsToCome
-- whole: the plan of everybody
SELECT c.name AS clientName, q.name AS sequenceName, s.step_id AS stepId, s.occurrence, s.anchor_value AS anchorValue,
  s.recipient_id AS recipientId, s.state, s.due_at AS dueAt, json_extract(s.reason_json, '$.sentence') AS reason
FROM sends s JOIN clients c ON c.id = s.client_id JOIN sequences q ON q.id = s.sequence_id
WHERE s.state IN ({plannable})
ORDER BY s.due_at, c.name, s.run_id, s.step_id, s.occurrence, s.anchor_value, s.recipient_id;

-- name: noteWebCall
INSERT INTO web_calls (at, send_id, url, body, outcome, answer, took_ms, person_id)
VALUES (@at, @sendId, @url, @body, @outcome, @answer, @tookMs, @personId);

-- name: forgetWebCalls
DELETE FROM web_calls WHERE at < @before;

-- name: lastWebCall
SELECT url, body FROM web_calls WHERE send_id = @sendId ORDER BY id DESC LIMIT 1;

-- name: webCalls
-- The newest first, from the one after `afterId` on.
SELECT w.id, w.at, w.send_id AS sendId, w.url, w.outcome, w.answer, w.took_ms AS tookMs, p.name AS personName, s.state,
  s.client_id AS clientId, c.name AS clientName, q.name AS sequenceName,
  w.id = (SELECT max(o.id) FROM web_calls o WHERE o.send_id = w.send_id) AS isLast
FROM web_calls w JOIN sends s ON s.id = w.send_id JOIN clients c ON c.id = s.client_id JOIN sequences q ON q.id = s.sequence_id
  LEFT JOIN people p ON p.id = w.person_id
WHERE w.id < coalesce(@afterId, 9007199254740991) ORDER BY w.id DESC LIMIT @limit;
