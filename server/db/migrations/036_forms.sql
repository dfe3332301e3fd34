-- Forms that ask for something, every version of each, and what came in by them.
CREATE TABLE forms (
  id TEXT PRIMARY KEY,
  form_json TEXT NOT NULL CHECK (json_valid(form_json))
) STRICT;

-- What was given to an earlier version is judged by that.
CREATE TABLE form_versions (
  form_id TEXT NOT NULL,
  revision INTEGER NOT NULL,
  form_json TEXT NOT NULL CHECK (json_valid(form_json)),
  PRIMARY KEY (form_id, revision)
) STRICT, WITHOUT ROWID;

CREATE TABLE form_receipts (
  id TEXT PRIMARY KEY,
  form_id TEXT NOT NULL,
  enquiry_id TEXT NOT NULL REFERENCES enquiries (id),
  at INTEGER NOT NULL,
  receipt_json TEXT NOT NULL CHECK (json_valid(receipt_json))
) STRICT;
CREATE INDEX form_receipts_of_form ON form_receipts (form_id, at DESC, id);
CREATE INDEX form_receipts_of_enquiry ON form_receipts (enquiry_id);
