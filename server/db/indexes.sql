-- Indexes of some states or kinds of steps only. They are made from their groups, and made anew where one has changed.

-- name: sends_due
CREATE INDEX sends_due ON sends (due_at) WHERE state IN ({claimable});

-- name: sends_in_trouble
CREATE INDEX sends_in_trouble ON sends (state_since, id, state) WHERE state IN ({trouble});

-- name: sends_trouble_by_use
CREATE INDEX sends_trouble_by_use ON sends (coalesce(not_after, 9007199254740991), id) WHERE state IN ({trouble});

-- name: sends_ahead
CREATE INDEX sends_ahead ON sends (shown_at / 900000, state, step_kind, purpose, client_id, recipient_id)
  WHERE state IN ({ahead});

-- name: sends_open
CREATE INDEX sends_open ON sends (client_id, sequence_id, letter_id) WHERE state IN ({plannable});

-- name: sends_open_by_run
CREATE INDEX sends_open_by_run ON sends (sequence_id, run_id) WHERE state IN ({plannable});

-- name: sends_gone
CREATE INDEX sends_gone ON sends (sent_at) WHERE sent_at IS NOT NULL AND step_kind IN ({toSomebody});

-- name: sends_open_by_letter
CREATE INDEX sends_open_by_letter ON sends (letter_id, shown_at, id) WHERE state IN ({plannable});
