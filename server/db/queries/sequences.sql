-- name: runsOfClient
-- often
SELECT id, sequence_id AS sequenceId, version, client_id AS clientId, subject_kind AS subjectKind,
  subject_id AS subjectId, state,
  started_at AS startedAt, started_on AS startedOn, stopped_at AS stoppedAt, stopped_on AS stoppedOn,
  stopped_reason AS stoppedReason, branches_json AS branchesJson, timing_set_at_json AS timingSetAtJson,
  passed_over_json AS passedOverJson
FROM runs WHERE client_id = @clientId ORDER BY started_at, id;

-- name: putRun
INSERT INTO runs (id, sequence_id, version, client_id, subject_kind, subject_id, state, started_at, started_on,
  stopped_at, stopped_on, stopped_reason, branches_json, timing_set_at_json, passed_over_json)
VALUES (@id, @sequenceId, @version, @clientId, @subjectKind, @subjectId, @state, @startedAt, @startedOn,
  @stoppedAt, @stoppedOn, @stoppedReason, @branchesJson, @timingSetAtJson, @passedOverJson)
ON CONFLICT (id) DO UPDATE SET version = excluded.version, state = excluded.state, stopped_at = excluded.stopped_at,
  stopped_on = excluded.stopped_on, stopped_reason = excluded.stopped_reason, branches_json = excluded.branches_json,
  timing_set_at_json = excluded.timing_set_at_json, passed_over_json = excluded.passed_over_json;

-- name: appendEvent
INSERT INTO events (id, at, kind, client_id, subject_kind, subject_id, name, send_id, person_id, sentence)
VALUES (@id, @at, @kind, @clientId, @subjectKind, @subjectId, @name, @sendId, @personId, @sentence);

-- name: eventsOfClient
-- often
SELECT e.id, e.at, e.kind, e.client_id AS clientId, e.subject_kind AS subjectKind,
  e.subject_id AS subjectId, e.name, e.send_id AS sendId,
  e.person_id AS personId, e.sentence, p.name AS personName
FROM events e LEFT JOIN people p ON p.id = e.person_id
WHERE e.client_id = @clientId ORDER BY e.at DESC, e.rowid DESC;

-- name: eventsOfBooking
-- often
SELECT e.id, e.at, e.kind, e.client_id AS clientId, e.subject_kind AS subjectKind,
  e.subject_id AS subjectId, e.name, e.send_id AS sendId,
  e.person_id AS personId, e.sentence, p.name AS personName
FROM events e LEFT JOIN people p ON p.id = e.person_id
WHERE e.subject_id = @bookingId ORDER BY e.at DESC, e.rowid DESC;
