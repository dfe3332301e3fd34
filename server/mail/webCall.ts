import { createHmac, randomBytes } from 'node:crypto'
import type { Send } from '#core/model/send.ts'
import type { Office } from '../engine/office.ts'
import type { Outcome } from './whoseFault.ts'

/** How long a called address may take, in milliseconds of real time. */
const timeoutMs = 15_000

/** The signature of a call's body: HMAC-SHA256 (RFC 2104) in hexadecimal. */
export function signatureOf(body: string, secret: string | Buffer): string {
  return createHmac('sha256', secret).update(body).digest('hex')
}

/** The secret that calls are signed with, made at the first call. */
export function secretOf({ store }: Pick<Office, 'store'>): string {
  const known = store.statements.one('readMeta', { key: 'web call secret' })?.['value']
  if (typeof known === 'string') return known
  const value = randomBytes(32).toString('hex')
  store.statements.run('writeMeta', { key: 'web call secret', value })
  return value
}

/** What a called address is told: ids alone. The same id at each attempt lets it notice a repetition. */
export function webCallOf({ id, clientId, subject, sequenceId, stepId }: Send): string {
  return JSON.stringify({ id, clientId, subject, sequenceId, stepId })
}

/**
 * Calls a web address with a signed body. Any 2xx is taken as received; 408, 425, 429 and 5xx may pass later (RFC 9110
 * 15.5 and 15.6), as may an address that does not answer: the call carries an id, so repeating it does no harm.
 */
export async function callWeb(url: string, body: string, secret: string): Promise<Outcome> {
  try {
    const response = await fetch(url, {
      method: 'POST',
      headers: {
        'Content-Type': 'application/json',
        'Vorfreude-Signature': `sha256=${signatureOf(body, secret)}`,
      },
      body,
      redirect: 'manual',
      signal: AbortSignal.timeout(timeoutMs),
    })
    await response.body?.cancel()
    const answer = `${response.status} ${response.statusText}`.trim()
    if (response.ok) return { kind: 'accepted', answer }
    const isPassing = response.status >= 500 || [408, 425, 429].includes(response.status)
    return { kind: isPassing ? 'later' : 'refused', answer }
  } catch (fault) {
    return { kind: 'later', answer: fault instanceof Error ? fault.message : String(fault) }
  }
}
