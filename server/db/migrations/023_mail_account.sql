-- The mail account messages go out through, where it is not given at the start. Its password is sealed with a key that
-- lies beside the database and not in it.
CREATE TABLE mail_account (
  only_one INTEGER PRIMARY KEY CHECK (only_one = 1),
  account_json TEXT NOT NULL CHECK (json_valid(account_json)),
  sealed_password TEXT
) STRICT;
