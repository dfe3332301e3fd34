-- Several things done in one press, and what was pressed, with what is needed to take it back.
CREATE TABLE one_press_moves (
  id TEXT PRIMARY KEY,
  move_json TEXT NOT NULL CHECK (json_valid(move_json))
) STRICT;

CREATE TABLE pressed_moves (
  id TEXT PRIMARY KEY,
  -- The booking or enquiry it was pressed on.
  subject_id TEXT NOT NULL,
  at INTEGER NOT NULL,
  pressed_json TEXT NOT NULL CHECK (json_valid(pressed_json)),
  -- Null: it stands.
  taken_back_at INTEGER
) STRICT;
CREATE INDEX pressed_moves_of_subject ON pressed_moves (subject_id, at DESC, id) WHERE taken_back_at IS NULL;
