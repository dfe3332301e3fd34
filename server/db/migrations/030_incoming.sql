-- Mail that came in: each kept whole once, by its own key, before anything follows from it. What it turned out to be and
-- what there is to do about it stands beside it once it has been looked at.
CREATE TABLE incoming (
  id TEXT PRIMARY KEY,
  key TEXT NOT NULL UNIQUE,
  came_at INTEGER NOT NULL,
  -- Envelope and way in
  way_json TEXT NOT NULL CHECK (json_valid(way_json)),
  source BLOB NOT NULL,
  -- 0: nothing has followed from it yet
  is_taken_up INTEGER NOT NULL DEFAULT 0 CHECK (is_taken_up IN (0, 1)),
  incoming_json TEXT CHECK (incoming_json IS NULL OR json_valid(incoming_json)),
  client_id TEXT GENERATED ALWAYS AS (incoming_json ->> '$.match.clientId') VIRTUAL,
  send_id TEXT GENERATED ALWAYS AS (incoming_json ->> '$.match.sendId') VIRTUAL,
  -- The group of the Desk it stands in
  place TEXT GENERATED ALWAYS AS (CASE WHEN incoming_json ->> '$.doneAt' IS NULL THEN incoming_json ->> '$.place' END) VIRTUAL
) STRICT;
CREATE INDEX incoming_to_take_up ON incoming (came_at, id) WHERE is_taken_up = 0;
CREATE INDEX incoming_at_desk ON incoming (place, came_at, id) WHERE place IS NOT NULL;
CREATE INDEX incoming_of_client ON incoming (client_id, came_at) WHERE client_id IS NOT NULL;
CREATE INDEX incoming_of_send ON incoming (send_id, came_at) WHERE send_id IS NOT NULL;

-- What mail servers said of addresses that messages did not get through to.
CREATE TABLE undelivered (
  address TEXT PRIMARY KEY COLLATE NOCASE,
  undelivered_json TEXT NOT NULL CHECK (json_valid(undelivered_json))
) STRICT;

-- What the team wrote in answer: each goes once, and whether it has is never guessed.
CREATE TABLE written_answers (
  id TEXT PRIMARY KEY,
  incoming_id TEXT NOT NULL REFERENCES incoming (id),
  answer_json TEXT NOT NULL CHECK (json_valid(answer_json)),
  client_id TEXT GENERATED ALWAYS AS (answer_json ->> '$.clientId') VIRTUAL,
  state TEXT GENERATED ALWAYS AS (answer_json ->> '$.state') VIRTUAL,
  source BLOB
) STRICT;
CREATE INDEX written_answers_of_incoming ON written_answers (incoming_id);
CREATE INDEX written_answers_of_client ON written_answers (client_id) WHERE client_id IS NOT NULL;
CREATE INDEX written_answers_open ON written_answers (state) WHERE state IN ('ready', 'sending');
