import Sqlite from 'better-sqlite3'
import { notMade, settle, type Claim } from './settle.ts'
import type { Office } from './office.ts'

/** Takes what went wrong where nobody asked for it: into the log. */
export type OnFault = (fault: unknown) => void

/** Whether the database cannot be written to just now: locked by another, full, or its disk gone. It passes. */
export function isOfStore(fault: unknown): boolean {
  return (
    fault instanceof Sqlite.SqliteError &&
    /^SQLITE_(BUSY|LOCKED|FULL|IOERR|READONLY|CANTOPEN)/.test(fault.code)
  )
}

/** Ends a claim that something was thrown at before anything left the house, with nothing that could throw again. */
export function failClaim(office: Office, claim: Claim) {
  settle(office, claim, { state: 'failed', reason: notMade, event: 'message failed' }, null, false)
}
