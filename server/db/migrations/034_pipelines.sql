-- Pipelines with their stages, and what is known of an enquiry. Every business begins with one; stages that enquiries
-- stand in already are among its own.
CREATE TABLE pipelines (
  id TEXT PRIMARY KEY,
  pipeline_json TEXT NOT NULL CHECK (json_valid(pipeline_json))
) STRICT;
INSERT INTO pipelines (id, pipeline_json)
SELECT 'pl_enquiries', json_object('id', 'pl_enquiries', 'name', 'Enquiries', 'isActive', json('true'), 'revision', 1,
  'stages', (SELECT json_group_array(json_object('name', name, 'meaning', meaning, 'personInChargeId', NULL,
      'deadlineDays', deadline_days, 'checklist', json('[]')) ORDER BY place, name)
    FROM (
      SELECT 1 AS place, 'new' AS name, 'open' AS meaning, 2 AS deadline_days
      UNION ALL SELECT 2, 'offer', 'open', 14
      UNION ALL SELECT 3, 'planning', 'open', NULL
      UNION ALL SELECT DISTINCT 4, stage, 'open', NULL FROM enquiries
        WHERE stage NOT IN ('new', 'offer', 'planning', 'asleep', 'booked', 'lost')
      UNION ALL SELECT 5, 'asleep', 'open', NULL
      UNION ALL SELECT 6, 'booked', 'won', NULL
      UNION ALL SELECT 7, 'lost', 'lost', NULL
    )));

ALTER TABLE enquiries ADD COLUMN pipeline_id TEXT NOT NULL DEFAULT 'pl_enquiries';
ALTER TABLE enquiries ADD COLUMN what TEXT NOT NULL DEFAULT '';
ALTER TABLE enquiries ADD COLUMN party_size INTEGER;
ALTER TABLE enquiries ADD COLUMN budget_cents INTEGER;
ALTER TABLE enquiries ADD COLUMN source TEXT NOT NULL DEFAULT '';
ALTER TABLE enquiries ADD COLUMN answers_json TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(answers_json));
ALTER TABLE enquiries ADD COLUMN contact_ids_json TEXT NOT NULL DEFAULT '[]' CHECK (json_valid(contact_ids_json));
ALTER TABLE enquiries ADD COLUMN lost_reason TEXT NOT NULL DEFAULT '';
ALTER TABLE enquiries ADD COLUMN booking_id TEXT REFERENCES bookings (id);
ALTER TABLE enquiries ADD COLUMN revision INTEGER NOT NULL DEFAULT 1;
CREATE INDEX enquiries_of_pipeline ON enquiries (pipeline_id, stage, received_at DESC, id);
CREATE INDEX enquiries_by_deadline ON enquiries (deadline_on, id) WHERE deadline_on IS NOT NULL;
CREATE INDEX enquiries_of_booking ON enquiries (booking_id) WHERE booking_id IS NOT NULL;
