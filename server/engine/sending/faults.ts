import { notMade, settle, type Claim } from './endClaim.ts'
import type { Application } from '../application.ts'

/** Takes what went wrong where nobody asked for it: into the log. */
export type OnFault = (fault: unknown) => void

/** Ends a claim that something was thrown at before anything left the house, with nothing that could throw again. */
export function failClaim(application: Application, claim: Claim) {
  settle(application, claim, { state: 'failed', reason: notMade, event: 'message failed' }, null, false)
}
