-- What invoices ask for, under which number, what came in for them, and when they were taken back.
ALTER TABLE invoices ADD COLUMN number INTEGER CHECK (number > 0);
ALTER TABLE invoices ADD COLUMN reason TEXT NOT NULL DEFAULT 'other';
ALTER TABLE invoices ADD COLUMN payments_json TEXT NOT NULL CHECK (json_valid(payments_json)) DEFAULT '[]';
ALTER TABLE invoices ADD COLUMN voided_at INTEGER;
UPDATE invoices SET reason = 'fee' WHERE is_fee = 1;
CREATE UNIQUE INDEX invoices_by_number ON invoices (number);
