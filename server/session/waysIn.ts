import { randomBytes } from 'node:crypto'
import { wayInPurpose, type WayInPurpose } from '#core/model/wayIn.ts'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import type { Statements } from '../db/statements.ts'
import { Refusal } from '../http/problems.ts'
import { hashOfToken } from './sessions.ts'

/** How long a link leads somewhere, in real time. */
const lasts: Readonly<Record<WayInPurpose, { readonly ms: number; readonly words: string }>> = {
  invitation: { ms: 7 * dayMs, words: '7 days' },
  'new password': { ms: hourMs, words: 'an hour' },
}
/** Used and old ones are kept so long to say what became of them. */
const rememberedMs = 30 * dayMs

export const goodFor = (purpose: WayInPurpose) => lasts[purpose].words

interface Whose {
  readonly personId: string
  readonly email: string
  readonly purpose: WayInPurpose
}

/** A link by which somebody chooses a password: its token, and until when. Earlier ones lead nowhere from now on. */
export function makeWayIn(statements: Statements, { personId, email, purpose }: Whose, now = Date.now()) {
  const token = randomBytes(24).toString('base64url')
  const until = now + lasts[purpose].ms
  statements.run('deleteOldWaysIn', { before: now - rememberedMs })
  statements.run('endWaysIn', { personId, purpose })
  statements.run('insertWayIn', {
    tokenHash: hashOfToken(token),
    personId,
    purpose,
    email,
    goodUntil: until,
  })
  return { token, until }
}

interface WayIn extends Whose {
  readonly name: string
}

/** Whose a link is. Throws a Refusal where it leads nowhere, and says why. */
export function readWayIn(statements: Statements, token: string, now = Date.now()): WayIn {
  const row = statements.one('readWayIn', { tokenHash: hashOfToken(token) })
  if (!row)
    throw new Refusal('not found', 'This link leads nowhere, or another one was sent since. Ask for another.')
  if (row['usedAt'] !== null) {
    throw new Refusal('not allowed now', 'This link has been used already. Sign in, or ask for another.')
  }
  if (Number(row['goodUntil']) <= now) {
    throw new Refusal(
      'not allowed now',
      'This link was good for some time only, and that is over. Ask for another.',
    )
  }
  return {
    personId: String(row['personId']),
    name: String(row['name']),
    email: String(row['email']),
    purpose: wayInPurpose.parse(row['purpose']),
  }
}

/** Uses a link up; within the transaction of what it is used for. */
export function useUpWayIn(statements: Statements, token: string, now = Date.now()) {
  statements.run('useWayIn', { tokenHash: hashOfToken(token), now })
}
