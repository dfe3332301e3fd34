-- The words of a message as a person approved them. What was approved before this has none: it follows its letter.
ALTER TABLE sends ADD COLUMN approved_words_json TEXT CHECK (json_valid(approved_words_json));
