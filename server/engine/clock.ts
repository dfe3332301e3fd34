import type { Statements } from '../db/statements.ts'

/** Business time. Leases, time-outs and sign-in use real time and never this. */
export interface Clock {
  readonly kind: 'real' | 'demo'
  now(): number
  /** Called by the loop before it handles what is due at a moment. The real clock moves by itself. */
  reach(moment: number): void
}

export const realClock: Clock = { kind: 'real', now: () => Date.now(), reach: () => undefined }

/** Thursday 14 May 2026, 07:40 in Berlin. */
export const demoStartAt = Date.UTC(2026, 4, 14, 5, 40)

/** A clock that stands still until told to move, and only forward. It remembers where it stands. */
export function createDemoClock(statements: Statements, startAt: number): Clock {
  const stored = statements.one('readMeta', { key: 'demo clock' })?.['value']
  let standsAt = typeof stored === 'string' ? Number(stored) : startAt
  return {
    kind: 'demo',
    now: () => standsAt,
    reach(moment) {
      if (moment <= standsAt) return
      standsAt = moment
      statements.run('writeMeta', { key: 'demo clock', value: String(moment) })
    },
  }
}
