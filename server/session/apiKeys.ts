import { randomBytes } from 'node:crypto'
import { keyScope, type NewApiKey } from '#core/model/apiKey.ts'
import { roles } from '#core/model/business.ts'
import { dayMs } from '#core/time/calendar.ts'
import type { Statements } from '../db/statements.ts'
import { newId } from '../engine/ids.ts'
import { hashOfToken, type Session } from './sessions.ts'

/** So many keys one person can have. */
export const mostKeys = 20
/** Keys are recognised by this, here and by programs that look for secrets where none belong. */
const mark = 'vorfreude_'
const hintLength = mark.length + 4
/** How often it is written down that a key is in use, in milliseconds. */
const usedEveryMs = 60_000

/** Makes a key; what it says is told this once and kept nowhere. */
export function openKey(
  statements: Statements,
  personId: string,
  { name, scope, days }: NewApiKey,
): { readonly id: string; readonly key: string } {
  const key = mark + randomBytes(32).toString('base64url')
  const now = Date.now()
  const id = newId('ak')
  statements.run('insertApiKey', {
    id,
    personId,
    name,
    scope,
    tokenHash: hashOfToken(key),
    hint: key.slice(0, hintLength),
    now,
    endsAt: days === null ? null : now + days * dayMs,
  })
  return { id, key }
}

/** Only told in a list: a request is answered all the same where it cannot be written. */
function noteUse(statements: Statements, id: string, from: string) {
  try {
    statements.run('apiKeyUsed', { id, now: Date.now(), from })
  } catch {
    // Another time.
  }
}

/** Who asks by a key; null: it is not known, has ended or was taken back. */
export function readKey(statements: Statements, key: string, from: string): Session | null {
  const row = statements.one('readApiKey', { tokenHash: hashOfToken(key) })
  const now = Date.now()
  if (!row || (row.endsAt !== null && Number(row.endsAt) <= now)) return null
  const id = String(row.id)
  if (now - Number(row.usedAt ?? 0) > usedEveryMs || row.usedFrom !== from) noteUse(statements, id, from)
  return {
    id,
    personId: String(row.personId),
    csrfToken: '',
    role: roles.find((role) => role === row.role) ?? 'onlooker',
    key: { name: String(row.name), scope: keyScope.catch('look').parse(row.scope) },
  }
}
