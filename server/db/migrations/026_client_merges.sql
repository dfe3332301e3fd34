-- Two clients who became one, with what is needed to take them apart again.
CREATE TABLE client_merges (
  id TEXT PRIMARY KEY,
  at INTEGER NOT NULL,
  kept_id TEXT NOT NULL,
  -- no reference: who is gone is not there any more; what happened with them still names them
  gone_id TEXT NOT NULL,
  merge_json TEXT NOT NULL CHECK (json_valid(merge_json)),
  -- null: it stands
  taken_back_at INTEGER
) STRICT;
CREATE UNIQUE INDEX gone_into ON client_merges (gone_id) WHERE taken_back_at IS NULL;
CREATE INDEX merged_into ON client_merges (kept_id) WHERE taken_back_at IS NULL;
CREATE INDEX due_moments_of_client ON due_moments (client_id);
