-- name: runsOfClient
SELECT id, sequence_id AS sequenceId, version, client_id AS clientId, subject_kind AS subjectKind,
  subject_id AS subjectId, state,
  started_at AS startedAt, started_on AS startedOn, stopped_at AS stoppedAt, stopped_on AS stoppedOn,
  stopped_reason AS stoppedReason, branches_json AS branchesJson, timing_set_at_json AS timingSetAtJson,
  passed_over_json AS passedOverJson, held_json AS heldJson, is_at_rest AS isAtRest
FROM runs WHERE client_id = @clientId ORDER BY started_at, id;

-- name: aliveSubjects
SELECT DISTINCT subject_id AS id FROM runs WHERE client_id = @clientId AND is_at_rest = 0;

-- name: runsAlive
-- What works for the given subjects, and the latest of each sequence: whether it may start again hangs on that.
SELECT id, sequence_id AS sequenceId, version, client_id AS clientId, subject_kind AS subjectKind,
  subject_id AS subjectId, state,
  started_at AS startedAt, started_on AS startedOn, stopped_at AS stoppedAt, stopped_on AS stoppedOn,
  stopped_reason AS stoppedReason, branches_json AS branchesJson, timing_set_at_json AS timingSetAtJson,
  passed_over_json AS passedOverJson, held_json AS heldJson, is_at_rest AS isAtRest
FROM runs WHERE id IN (
  SELECT r.id FROM json_each(@subjectIdsJson) s JOIN runs r ON r.subject_id = s.value
    WHERE r.client_id = @clientId AND (r.subject_kind <> 'client' OR r.is_at_rest = 0)
  UNION
  SELECT id FROM runs WHERE id IN (SELECT value FROM json_each(@runIdsJson)) AND client_id = @clientId
  UNION
  SELECT (SELECT r.id FROM runs r WHERE r.client_id = @clientId AND r.sequence_id = q.value AND r.subject_kind = k.value
    ORDER BY r.started_at DESC LIMIT 1)
  FROM json_each(@sequenceIdsJson) q, json_each('["booking", "enquiry", "invoice", "client"]') k
) ORDER BY started_at, id;

-- name: restRun
UPDATE runs SET is_at_rest = @isAtRest WHERE id = @runId;

-- name: putRun
INSERT INTO runs (id, sequence_id, version, client_id, subject_kind, subject_id, state, started_at, started_on,
  stopped_at, stopped_on, stopped_reason, branches_json, timing_set_at_json, passed_over_json, held_json)
VALUES (@id, @sequenceId, @version, @clientId, @subjectKind, @subjectId, @state, @startedAt, @startedOn,
  @stoppedAt, @stoppedOn, @stoppedReason, @branchesJson, @timingSetAtJson, @passedOverJson, @heldJson)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, state = excluded.state, stopped_at = excluded.stopped_at,
  stopped_on = excluded.stopped_on, stopped_reason = excluded.stopped_reason, branches_json = excluded.branches_json,
  timing_set_at_json = excluded.timing_set_at_json, passed_over_json = excluded.passed_over_json,
  held_json = excluded.held_json;

-- name: appendEvent
INSERT INTO events (id, at, kind, client_id, subject_kind, subject_id, name, send_id, person_id, sentence)
VALUES (@id, @at, @kind, @clientId, @subjectKind, @subjectId, @name, @sendId, @personId, @sentence);

-- part: mergedIn
-- Who was merged into this client, and into those before.
WITH RECURSIVE merged (id) AS (
    SELECT gone_id FROM client_merges WHERE kept_id = @clientId AND taken_back_at IS NULL
    UNION SELECT m.gone_id FROM client_merges m JOIN merged ON m.kept_id = merged.id WHERE m.taken_back_at IS NULL
  ) SELECT id FROM merged

-- part: afterThat
(o.at, o.rowid) < (SELECT a.at, a.rowid FROM events a WHERE a.id = @afterId
      UNION ALL SELECT 9007199254740991, 0 WHERE @afterId IS NULL)

-- name: eventsOfClient
-- The newest first, from the one after `afterId` on.
SELECT e.id, e.at, e.kind, e.client_id AS clientId, e.subject_kind AS subjectKind,
  e.subject_id AS subjectId, e.name, e.send_id AS sendId,
  e.person_id AS personId, e.sentence, p.name AS personName
FROM (
  SELECT rowid FROM (SELECT o.rowid FROM events o WHERE o.client_id = @clientId AND {afterThat}
    ORDER BY o.at DESC, o.rowid DESC LIMIT @limit)
  UNION ALL
  -- Who was merged into this client is not there any more; what happened with them is.
  SELECT rowid FROM (SELECT o.rowid FROM events o WHERE o.client_id IN ({mergedIn}) AND {afterThat}
    ORDER BY o.at DESC, o.rowid DESC LIMIT @limit)
) found JOIN events e ON e.rowid = found.rowid LEFT JOIN people p ON p.id = e.person_id
ORDER BY e.at DESC, e.rowid DESC LIMIT @limit;

-- name: notesOfClient
SELECT e.id, e.at, e.kind, e.client_id AS clientId, e.subject_kind AS subjectKind,
  e.subject_id AS subjectId, e.name, e.send_id AS sendId,
  e.person_id AS personId, e.sentence, p.name AS personName
FROM events e LEFT JOIN people p ON p.id = e.person_id
WHERE (e.client_id = @clientId OR e.client_id IN ({mergedIn})) AND e.kind = 'note written' ORDER BY e.at DESC, e.rowid DESC LIMIT @limit;

-- name: eventsOfSubject
SELECT e.id, e.at, e.kind, e.client_id AS clientId, e.subject_kind AS subjectKind,
  e.subject_id AS subjectId, e.name, e.send_id AS sendId,
  e.person_id AS personId, e.sentence, p.name AS personName
FROM events e LEFT JOIN people p ON p.id = e.person_id
WHERE e.subject_id IN (SELECT @subjectId UNION ALL SELECT id FROM invoices WHERE booking_id = @subjectId)
ORDER BY e.at DESC, e.rowid DESC;

-- name: eventsOfSend
SELECT e.id, e.at, e.kind, e.client_id AS clientId, e.subject_kind AS subjectKind,
  e.subject_id AS subjectId, e.name, e.send_id AS sendId,
  e.person_id AS personId, e.sentence, p.name AS personName
FROM events e LEFT JOIN people p ON p.id = e.person_id
WHERE e.send_id = @sendId ORDER BY e.at DESC, e.rowid DESC;

-- name: decisionsOfStep
-- What persons decided about a step's messages since a version and a moment.
SELECT e.kind, e.name FROM sends s JOIN events e ON e.send_id = s.id
WHERE s.sequence_id = @sequenceId AND s.step_id = @stepId AND s.sequence_version >= @version AND e.at >= @at
  AND e.person_id IS NOT NULL
  AND e.kind IN ('message approved', 'message skipped', 'message taken up again', 'message held back')
ORDER BY e.at;

-- name: goneOfStep
SELECT count(*) AS count FROM sends
WHERE sequence_id = @sequenceId AND state = 'sent' AND step_id = @stepId AND sequence_version >= @version
  AND sent_at >= @at;

-- name: readDesign
SELECT design_json AS designJson, revision, changed_at AS changedAt, person_id AS personId
FROM sequence_designs WHERE sequence_id = @sequenceId;

-- name: allDesigns
SELECT sequence_id AS sequenceId, design_json AS designJson FROM sequence_designs;

-- name: putDesign
INSERT INTO sequence_designs (sequence_id, design_json, revision, changed_at, person_id)
VALUES (@sequenceId, @designJson, @revision, @changedAt, @personId)
ON CONFLICT (sequence_id) DO UPDATE SET design_json = excluded.design_json, revision = excluded.revision,
  changed_at = excluded.changed_at, person_id = excluded.person_id;

-- name: removeDesign
DELETE FROM sequence_designs WHERE sequence_id = @sequenceId;

-- name: removeSequence
DELETE FROM sequences WHERE id = @id;

-- name: removeSequenceVersions
DELETE FROM sequence_versions WHERE sequence_id = @id;

-- name: runningBySequence
-- Runs that have something to do: a message or a step is planned, or a standing one can bring one at any time.
SELECT q.id AS sequenceId, CASE WHEN q.id IN (SELECT value FROM json_each(@standingIdsJson))
    THEN (SELECT count(*) FROM runs r WHERE r.sequence_id = q.id AND r.state = 'running' AND r.is_at_rest = 0)
    ELSE (SELECT count(DISTINCT s.run_id) FROM sends s INDEXED BY sends_open_by_run
      WHERE s.sequence_id = q.id AND s.state IN ({plannable}))
  END AS count
FROM sequences q;

-- name: runsOfSequence
SELECT count(*) AS count FROM runs WHERE sequence_id = @sequenceId;

-- name: sendsBySequence
-- The second condition on kinds is that of the index of what has gone.
SELECT q.id AS sequenceId,
  (SELECT count(*) FROM sends s WHERE s.sequence_id = q.id AND s.state = 'waiting') AS waiting,
  (SELECT count(*) FROM sends s WHERE s.sequence_id = q.id AND s.state IN ({claimable})) AS planned,
  coalesce(month.sent, 0) AS sent
FROM sequences q LEFT JOIN (
  SELECT sequence_id, count(*) AS sent FROM sends INDEXED BY sends_gone
  WHERE sent_at >= @since AND state = 'sent' AND step_kind IN ({forClients})
    AND step_kind IN ({toSomebody}) GROUP BY sequence_id
) month ON month.sequence_id = q.id;

-- name: sentBySteps
SELECT step_id AS stepId, sum(state = 'sent') AS sent, sum(state = 'skipped') AS skipped,
  sum(state IN ({ahead})) AS ahead
FROM sends WHERE sequence_id = @sequenceId AND state IN ('sent', 'skipped', {ahead})
GROUP BY step_id;

-- name: heldBackBySequence
SELECT {sendLine}
FROM sends s {sendLineJoins}
WHERE s.sequence_id = @sequenceId AND s.state IN ({claimable}) AND s.due_at <= @until
ORDER BY s.shown_at, s.id LIMIT 500;

-- name: bookingsToPreview
SELECT b.id, c.name AS clientName, b.service_id AS serviceId, b.start_at AS startAt, b.status
FROM bookings b JOIN clients c ON c.id = b.client_id
WHERE b.start_at >= @from ORDER BY b.start_at, b.id LIMIT 300;

-- name: enquiriesToPreview
-- whole: the latest of them, up to a limit
SELECT e.id, c.name AS clientName, e.stage FROM enquiries e JOIN clients c ON c.id = e.client_id
ORDER BY e.received_at DESC, e.id LIMIT 300;

-- name: invoicesToPreview
-- whole: the latest of them, up to a limit
SELECT i.id, c.name AS clientName, i.due_on AS dueOn FROM invoices i JOIN clients c ON c.id = i.client_id
ORDER BY i.issued_at DESC, i.id LIMIT 300;

-- name: clientsToPreview
-- whole: walked by name up to a limit
SELECT id, name AS clientName FROM clients INDEXED BY clients_by_name WHERE is_active = 1
ORDER BY name COLLATE NOCASE, id LIMIT 300;

-- name: clientOfSubject
SELECT client_id AS clientId FROM bookings WHERE id = @id
UNION ALL SELECT client_id FROM enquiries WHERE id = @id
UNION ALL SELECT client_id FROM invoices WHERE id = @id
UNION ALL SELECT id FROM clients WHERE id = @id;

-- name: namesInUse
-- whole: asked once a page; each name once
-- Tags and dates people have used, and the stages, documents, forms and one-press moves there are, to choose from.
SELECT 'tag' AS kind, tag AS name FROM client_tags
UNION SELECT 'stage', s.value ->> 'name' FROM pipelines, json_each(pipeline_json, '$.stages') s
UNION SELECT 'document', document_json ->> 'name' FROM documents
UNION SELECT 'form', form_json ->> 'name' FROM forms
UNION SELECT 'move', move_json ->> 'name' FROM one_press_moves
UNION SELECT 'date', label FROM named_dates
ORDER BY kind, name LIMIT 500;
