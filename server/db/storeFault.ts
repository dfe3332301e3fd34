import Sqlite from 'better-sqlite3'

/** Whether the database cannot be used just now: locked by another, full, or its disk gone. It passes. */
export function isOfStore(fault: unknown): boolean {
  return (
    fault instanceof Sqlite.SqliteError &&
    /^SQLITE_(BUSY|LOCKED|FULL|IOERR|READONLY|CANTOPEN)/.test(fault.code)
  )
}
