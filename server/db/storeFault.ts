import Sqlite from 'better-sqlite3'

type StoreFault = InstanceType<typeof Sqlite.SqliteError>

/** Whether the database cannot be used just now: locked by another, full, or its disk gone. It passes. */
export function isOfStore(fault: unknown): fault is StoreFault {
  return (
    fault instanceof Sqlite.SqliteError &&
    /^SQLITE_(BUSY|LOCKED|FULL|IOERR|READONLY|CANTOPEN)/.test(fault.code)
  )
}

/** What is wrong with the database, and what can be done. */
export function storeSentence({ code }: StoreFault): string {
  if (/^SQLITE_(BUSY|LOCKED)/.test(code)) {
    return 'Nothing was changed: another program has locked the database. Try again in a moment.'
  }
  if (code.startsWith('SQLITE_FULL')) {
    return 'Nothing was changed: the disk is full. Make room on it, then try again.'
  }
  if (code.startsWith('SQLITE_READONLY')) {
    return 'Nothing was changed: the database cannot be written to. Check the rights of the data folder.'
  }
  return 'Nothing was changed: the disk with the database does not answer. Check it, then try again.'
}
