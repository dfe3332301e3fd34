-- States of messages and subjects of runs are checked where rows are written and read, from the one list of each. Lists
-- of them in these tables would have the tables made anew for each new one. Taking a CHECK away touches no row; SQLite
-- describes this way at https://www.sqlite.org/lang_altertable.html#otheralter.
PRAGMA writable_schema = ON;
UPDATE sqlite_schema
SET sql = substr(sql, 1, instr(sql, ' CHECK (state IN (') - 1)
  || substr(sql, instr(sql, '''in doubt'')),') + length('''in doubt''))'))
WHERE type = 'table' AND name = 'sends' AND sql LIKE '% CHECK (state IN (%''in doubt'')),%';
UPDATE sqlite_schema
SET sql = replace(sql, ' CHECK (subject_kind IN (''booking'', ''enquiry'', ''invoice'', ''client''))', '')
WHERE type = 'table' AND name = 'runs';
PRAGMA writable_schema = RESET;
