import type { Request } from 'express'
import type { Statements } from '../db/statements.ts'
import { readKey } from './apiKeys.ts'
import { readSession, tokenIn, type Session } from './sessions.ts'

/** The key a request carries (RFC 6750 2.1); null: it carries none. */
export function keyIn(authorization: string | undefined): string | null {
  if (authorization === undefined) return null
  return /^Bearer +([\w.~+/=-]{1,200})$/i.exec(authorization)?.[1] ?? ''
}

/** Who asks, by a key or by the session of a browser; null: nobody who is known. A key that leads nowhere is not passed over. */
export function whoAsks(statements: Statements, request: Request): Session | null {
  const key = keyIn(request.headers.authorization)
  return key === null
    ? readSession(statements, tokenIn(request.headers.cookie))
    : readKey(statements, key, request.ip ?? '')
}
