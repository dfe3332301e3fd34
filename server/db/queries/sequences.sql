-- name: runsOfClient
-- often
SELECT id, sequence_id AS sequenceId, version, client_id AS clientId, subject_kind AS subjectKind,
  subject_id AS subjectId, state,
  started_at AS startedAt, stopped_at AS stoppedAt, stopped_reason AS stoppedReason
FROM runs WHERE client_id = @clientId ORDER BY started_at, id;

-- name: putRun
INSERT INTO runs (id, sequence_id, version, client_id, subject_kind, subject_id, state, started_at, stopped_at, stopped_reason)
VALUES (@id, @sequenceId, @version, @clientId, @subjectKind, @subjectId, @state, @startedAt, @stoppedAt, @stoppedReason)
ON CONFLICT (id) DO UPDATE SET state = excluded.state, stopped_at = excluded.stopped_at,
  stopped_reason = excluded.stopped_reason;

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
