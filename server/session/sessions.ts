import { createHash, randomBytes, randomUUID } from 'node:crypto'
import { parseCookie, stringifySetCookie } from 'cookie'
import type { KeyScope } from '#core/model/apiKey.ts'
import { roles, type Person } from '#core/model/business.ts'
import type { Statements } from '../db/statements.ts'

export interface Session {
  readonly id: string
  readonly personId: string
  readonly csrfToken: string
  readonly role: Person['role']
  /** The key it comes by; null: a browser somebody is signed in with. */
  readonly key: { readonly name: string; readonly scope: KeyScope } | null
}

const cookieName = 'vorfreude'
/** Two weeks of real time. */
const lifetimeMs = 14 * 24 * 3_600_000
/** How often it is written down that a session is in use. */
const seenEveryMs = 5 * 60_000
const longestAgent = 200

/** What a token is known by: who reads the table cannot make one. */
export const hashOfToken = (token: string) => createHash('sha256').update(token).digest('hex')

/** The token of the session cookie in a request's Cookie header. */
export function tokenIn(cookieHeader: string | undefined): string | null {
  return parseCookie(cookieHeader ?? '')[cookieName] ?? null
}

/** How a session begins: whose it is, what the browser calls itself, and whether the cookie goes by https only. */
export interface SessionStart {
  readonly personId: string
  readonly agent: string
  readonly isSecure: boolean
}

/** Starts a session and returns the Set-Cookie header that carries its token. */
export function openSession(statements: Statements, { personId, agent, isSecure }: SessionStart): string {
  const now = Date.now()
  statements.run('deleteExpiredSessions', { now })
  const token = randomBytes(32).toString('base64url')
  statements.run('insertSession', {
    id: randomUUID(),
    tokenHash: hashOfToken(token),
    personId,
    csrfToken: randomBytes(32).toString('base64url'),
    now,
    expiresAt: now + lifetimeMs,
    agent: agent.slice(0, longestAgent),
  })
  return stringifySetCookie({
    name: cookieName,
    value: token,
    ...attributes,
    secure: isSecure,
    maxAge: lifetimeMs / 1000,
  })
}

const attributes = { httpOnly: true, sameSite: 'strict', path: '/' } as const

export function readSession(statements: Statements, token: string | null): Session | null {
  const row = token === null ? undefined : statements.one('readSession', { tokenHash: hashOfToken(token) })
  const now = Date.now()
  if (!row || Number(row['expiresAt']) <= now) return null
  const id = String(row['id'])
  if (now - Number(row['seenAt']) > seenEveryMs) noteSeen(statements, id, now)
  return {
    id,
    personId: String(row['personId']),
    csrfToken: String(row['csrfToken']),
    role: roles.find((role) => role === row['role']) ?? 'onlooker',
    key: null,
  }
}

/** Only told in a list: a page is read all the same where it cannot be written. */
function noteSeen(statements: Statements, id: string, now: number) {
  try {
    statements.run('sessionSeen', { id, now })
  } catch {
    // Another time.
  }
}

/** Ends a session and returns the Set-Cookie header that takes the cookie away. */
export function closeSession(statements: Statements, session: Session | null): string {
  if (session) statements.run('endSession', { id: session.id, personId: session.personId })
  return stringifySetCookie({ name: cookieName, value: '', ...attributes, maxAge: 0 })
}
