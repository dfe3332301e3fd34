-- What of a booking's past counts for what is planned: moves too small to count, changes taken back, statuses it has had.

ALTER TABLE bookings ADD COLUMN history_json TEXT NOT NULL DEFAULT '{}' CHECK (json_valid(history_json));
UPDATE bookings SET
  history_json = json_object(
    'dueAgainSince', times_set_at, 'nearby', json('[]'), 'undone', json('[]'),
    'reached', (SELECT json_group_array(key) FROM json_each(status_at_json)), 'movedAt', NULL),
  told_json = json_set(told_json, '$.since',
    iif(json_extract(told_json, '$.startAt') = start_at AND json_extract(told_json, '$.endAt') = end_at, times_set_at, made_at));
UPDATE bookings SET settling_json = json_set(settling_json,
  '$.from.sessions', json(sessions_json),
  '$.from.history', json(history_json))
  WHERE json_extract(settling_json, '$.from') IS NOT NULL;

-- What a change has voided says so, so that it stands again where the change is taken back.
UPDATE sends SET decision_json = json_set(decision_json, '$.voidedFrom', 'ready', '$.isEndedAtSending', json('false'))
  WHERE state = 'cancelled';
