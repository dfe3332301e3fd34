import { createHmac } from 'node:crypto'
import { request as plainRequest, type IncomingMessage, type RequestOptions } from 'node:http'
import { request as secureRequest } from 'node:https'
import { isIP } from 'node:net'
import type { Send } from '#core/model/send.ts'
import { InOwnNetwork, isOwnNetwork, lookUpOutside } from './ownNetwork.ts'
import { answerOf, type Outcome } from './whoseFault.ts'

/** How long a called address may take, in milliseconds of real time. */
const timeoutMs = 15_000

/** The signature of a call's body: HMAC-SHA256 (RFC 2104) in hexadecimal. */
export function signatureOf(body: string, secret: string | Buffer): string {
  return createHmac('sha256', secret).update(body).digest('hex')
}

/** What a called address is told: ids alone. The same id at each attempt lets it notice a repetition. */
export function webCallOf({ id, clientId, subject, sequenceId, stepId }: Send): string {
  return JSON.stringify({ id, clientId, subject, sequenceId, stepId })
}

export interface CallOptions {
  readonly secret: string
  /** Whether addresses of this machine and its network may be called. */
  readonly allowsOwnNetwork: boolean
}

function post(url: URL, options: RequestOptions, body: string): Promise<IncomingMessage> {
  const request = url.protocol === 'https:' ? secureRequest : plainRequest
  return new Promise((resolve, reject) => {
    request(url, { method: 'POST', ...options }, resolve)
      .on('error', reject)
      .end(body)
  })
}

/**
 * Calls a web address with a signed body. Any 2xx is taken as received; 408, 425, 429 and 5xx may pass later (RFC 9110
 * 15.5 and 15.6), as may an address that does not answer: the call carries an id, so repeating it does no harm. It does
 * not follow where it is sent on to.
 */
export async function callWeb(
  url: string,
  body: string,
  { secret, allowsOwnNetwork }: CallOptions,
): Promise<Exclude<Outcome, { kind: 'account' }>> {
  try {
    const at = new URL(url)
    const host = at.hostname.replace(/^\[|\]$/g, '')
    // A number is not looked up.
    if (!allowsOwnNetwork && isIP(host) > 0 && isOwnNetwork(host)) throw new InOwnNetwork(host)
    const response = await post(
      at,
      {
        headers: {
          'Content-Type': 'application/json',
          'Content-Length': Buffer.byteLength(body),
          'Vorfreude-Signature': `sha256=${signatureOf(body, secret)}`,
        },
        signal: AbortSignal.timeout(timeoutMs),
        ...(allowsOwnNetwork ? {} : { lookup: lookUpOutside }),
      },
      body,
    )
    response.destroy()
    const status = response.statusCode ?? 0
    const answer = answerOf(`${status} ${response.statusMessage ?? ''}`)
    if (status >= 200 && status < 300) return { kind: 'accepted', answer }
    const isPassing = status >= 500 || [408, 425, 429].includes(status)
    return { kind: isPassing ? 'later' : 'refused', answer }
  } catch (fault) {
    const answer = answerOf(fault instanceof Error ? fault.message : String(fault))
    return { kind: fault instanceof InOwnNetwork ? 'refused' : 'later', answer }
  }
}
