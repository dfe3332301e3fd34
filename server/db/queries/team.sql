-- name: insertWayIn
INSERT INTO ways_in (token_hash, person_id, purpose, email, good_until)
VALUES (@tokenHash, @personId, @purpose, @email, @goodUntil);

-- name: endWaysIn
DELETE FROM ways_in WHERE person_id = @personId AND purpose = @purpose AND used_at IS NULL;

-- name: deleteOldWaysIn
-- whole: a few for each of the team
DELETE FROM ways_in WHERE good_until < @before;

-- name: readWayIn
SELECT w.person_id AS personId, w.purpose, w.good_until AS goodUntil, w.used_at AS usedAt, p.name, p.email
FROM ways_in w JOIN people p ON p.id = w.person_id AND p.is_active = 1 AND p.email = w.email
WHERE w.token_hash = @tokenHash;

-- name: useWayIn
UPDATE ways_in SET used_at = @now WHERE token_hash = @tokenHash AND used_at IS NULL;

-- name: waysIn
-- whole: all of the team
SELECT p.id AS personId, p.password_hash IS NOT NULL AS hasPassword,
  EXISTS (SELECT 1 FROM second_factors f WHERE f.person_id = p.id AND f.confirmed_at IS NOT NULL) AS hasSecondFactor,
  (SELECT max(w.good_until) FROM ways_in w WHERE w.person_id = p.id AND w.purpose = 'invitation' AND w.used_at IS NULL
    AND w.email = p.email AND w.good_until > @now) AS invitedUntil
FROM people p WHERE p.is_active = 1;

-- name: readSecondFactor
SELECT sealed_secret AS sealedSecret, confirmed_at AS confirmedAt, last_period AS lastPeriod
FROM second_factors WHERE person_id = @personId;

-- name: beginSecondFactor
INSERT INTO second_factors (person_id, sealed_secret, confirmed_at, last_period)
VALUES (@personId, @sealedSecret, NULL, 0)
ON CONFLICT (person_id) DO UPDATE SET sealed_secret = excluded.sealed_secret, last_period = 0
WHERE confirmed_at IS NULL;

-- name: confirmSecondFactor
UPDATE second_factors SET confirmed_at = @now WHERE person_id = @personId AND confirmed_at IS NULL;

-- name: takePeriod
UPDATE second_factors SET last_period = @period WHERE person_id = @personId AND last_period < @period;

-- name: endSecondFactor
DELETE FROM second_factors WHERE person_id = @personId;

-- name: insertRecoveryWord
INSERT INTO recovery_words (word_hash, person_id) VALUES (@wordHash, @personId);

-- name: useRecoveryWord
DELETE FROM recovery_words WHERE word_hash = @wordHash AND person_id = @personId;

-- name: recoveryWordsLeft
SELECT count(*) AS count FROM recovery_words WHERE person_id = @personId;

-- name: forgetRecoveryWords
DELETE FROM recovery_words WHERE person_id = @personId;

-- name: endSessionsOf
DELETE FROM sessions WHERE person_id = @personId;

-- name: insertApiKey
INSERT INTO api_keys (id, person_id, name, scope, token_hash, hint, made_at, ends_at)
VALUES (@id, @personId, @name, @scope, @tokenHash, @hint, @now, @endsAt);

-- name: readApiKey
SELECT k.id, k.person_id AS personId, k.name, k.scope, k.ends_at AS endsAt, k.used_at AS usedAt, k.used_from AS usedFrom, p.role
FROM api_keys k JOIN people p ON p.id = k.person_id AND p.is_active = 1
WHERE k.token_hash = @tokenHash;

-- name: apiKeyUsed
UPDATE api_keys SET used_at = @now, used_from = @from WHERE id = @id;

-- name: apiKeys
-- whole: a few for each of the team
SELECT k.id, k.person_id AS personId, p.name AS personName, k.name, k.scope, k.hint, k.made_at AS madeAt, k.ends_at AS endsAt,
  k.used_at AS usedAt, k.used_from AS usedFrom
FROM api_keys k JOIN people p ON p.id = k.person_id
WHERE @personId IS NULL OR k.person_id = @personId ORDER BY k.made_at DESC, k.id;

-- name: apiKeysOfPerson
SELECT count(*) AS count FROM api_keys WHERE person_id = @personId;

-- name: endApiKey
DELETE FROM api_keys WHERE id = @id AND (@personId IS NULL OR person_id = @personId);
