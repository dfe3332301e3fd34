import { createHash, randomBytes } from 'node:crypto'
import { parseCookie, stringifySetCookie } from 'cookie'
import type { Statements } from '../db/statements.ts'

export interface Session {
  readonly personId: string
  readonly csrfToken: string
}

const cookieName = 'vorfreude'
/** Two weeks of real time. */
const lifetimeMs = 14 * 24 * 3_600_000

const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

/** The token of the session cookie in a request's Cookie header. */
export function tokenIn(cookieHeader: string | undefined): string | null {
  return parseCookie(cookieHeader ?? '')[cookieName] ?? null
}

/** Starts a session and returns the Set-Cookie header that carries its token. */
export function openSession(statements: Statements, personId: string): string {
  statements.run('deleteExpiredSessions', { now: Date.now() })
  const token = randomBytes(32).toString('base64url')
  const csrfToken = randomBytes(32).toString('base64url')
  statements.run('insertSession', {
    tokenHash: hashOf(token),
    personId,
    csrfToken,
    expiresAt: Date.now() + lifetimeMs,
  })
  return stringifySetCookie({ name: cookieName, value: token, ...attributes, maxAge: lifetimeMs / 1000 })
}

const attributes = { httpOnly: true, sameSite: 'strict', path: '/' } as const

export function readSession(statements: Statements, token: string | null): Session | null {
  const row = token === null ? undefined : statements.one('readSession', { tokenHash: hashOf(token) })
  if (!row || Number(row['expiresAt']) <= Date.now()) return null
  return { personId: String(row['personId']), csrfToken: String(row['csrfToken']) }
}

/** Ends a session and returns the Set-Cookie header that takes the cookie away. */
export function closeSession(statements: Statements, token: string | null): string {
  if (token !== null) statements.run('deleteSession', { tokenHash: hashOf(token) })
  return stringifySetCookie({ name: cookieName, value: '', ...attributes, maxAge: 0 })
}
