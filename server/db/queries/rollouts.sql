-- name: beginRollout
INSERT INTO rollouts (id, sequence_id, rollout_json, person_id, announced_at, started_at)
VALUES (@id, @sequenceId, @rolloutJson, @personId, @announcedAt, @startedAt);

-- name: addRolloutClient
INSERT INTO rollout_clients (rollout_id, client_id, announced_json) VALUES (@rolloutId, @clientId, @announcedJson);

-- name: rolloutUnderWay
SELECT id, sequence_id AS sequenceId, rollout_json AS rolloutJson, person_id AS personId, announced_at AS announcedAt
FROM rollouts INDEXED BY rollouts_under_way WHERE ended_at IS NULL ORDER BY started_at, id LIMIT 1;

-- name: aheadOfRollout
SELECT count(*) AS count FROM rollout_clients WHERE rollout_id = @id AND state = 'ahead';

-- name: nextOfRollout
SELECT client_id AS clientId, announced_json AS announcedJson FROM rollout_clients
WHERE rollout_id = @id AND state = 'ahead' ORDER BY client_id LIMIT @limit;

-- name: setRolloutClient
UPDATE rollout_clients SET state = @state WHERE rollout_id = @id AND client_id = @clientId;

-- name: endRollout
UPDATE rollouts SET ended_at = @at, is_stopped = @isStopped WHERE id = @id AND ended_at IS NULL;

-- name: takeUpRollout
UPDATE rollouts SET ended_at = NULL, is_stopped = 0 WHERE id = @id AND is_stopped = 1;

-- name: giveUpRollouts
UPDATE rollouts SET is_stopped = 0 WHERE sequence_id = @sequenceId AND is_stopped = 1;

-- name: forgetDoneOfRollout
DELETE FROM rollout_clients WHERE rollout_id = @id AND state = 'done';

-- name: latestRollout
SELECT r.id, r.started_at AS startedAt, r.ended_at AS endedAt, r.is_stopped AS isStopped,
  (SELECT count(*) FROM rollout_clients c WHERE c.rollout_id = r.id) AS total,
  (SELECT count(*) FROM rollout_clients c WHERE c.rollout_id = r.id AND c.state = 'ahead') AS ahead
FROM rollouts r WHERE r.sequence_id IS @sequenceId ORDER BY r.started_at DESC, r.id DESC LIMIT 1;

-- name: othersOfRollout
SELECT o.client_id AS id, c.name FROM rollout_clients o JOIN clients c ON c.id = o.client_id
WHERE o.rollout_id = @id AND o.state = 'other' ORDER BY c.name, c.id LIMIT 100;

-- name: runsOfClientInSequence
SELECT id FROM runs WHERE client_id = @clientId AND sequence_id = @sequenceId AND state = 'running';
