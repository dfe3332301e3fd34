-- What lists are looked up and ordered by stands in columns, so that a part of a list costs a part of the work.

-- Name, addresses and tags as they are compared with what somebody types.
ALTER TABLE clients ADD COLUMN found_by TEXT NOT NULL DEFAULT '';
UPDATE clients SET found_by = folded(name
  || coalesce((SELECT char(10) || group_concat(trim(first_name || ' ' || last_name) || ' ' || coalesce(email, ''), char(10))
    FROM contacts WHERE client_id = clients.id), '')
  || coalesce((SELECT char(10) || group_concat(tag, char(10)) FROM client_tags WHERE client_id = clients.id), ''));

-- Until when a message that waits can still go; 9007199254740991: without end.
ALTER TABLE sends ADD COLUMN last_chance_at INTEGER NOT NULL DEFAULT 9007199254740991;
UPDATE sends SET last_chance_at = coalesce(
  (SELECT at - 1 FROM due_moments WHERE kind = 'goes stale' AND key = sends.id), 9007199254740991) WHERE state = 'waiting';
CREATE INDEX sends_by_last_chance ON sends (last_chance_at, shown_at, id) WHERE state = 'waiting';
-- What is ahead is counted by quarters of an hour, of which each day of each zone is made, without sorting it first.
CREATE INDEX sends_by_quarter ON sends (shown_at / 900000, state);
CREATE INDEX sends_ahead ON sends (shown_at / 900000, state, step_kind, purpose, client_id)
  WHERE state IN ('expected', 'waiting', 'approved', 'ready', 'sending');
DROP INDEX sends_in_trouble;
CREATE INDEX sends_in_trouble ON sends (state_since, id, state)
  WHERE state IN ('failed', 'bounced', 'blocked', 'stale', 'missed', 'in doubt');
