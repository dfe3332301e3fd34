import { timingSafeEqual } from 'node:crypto'
import { once } from 'node:events'
import type { AddressInfo } from 'node:net'
import express, { type Request } from 'express'
import { escapeHtml } from '#core/letters/html.ts'
import { signatureOf } from '../../mail/webCall.ts'

/** A call as it came in. */
export interface Received {
  readonly at: string
  readonly path: string
  readonly body: string
  /** Whether it is signed with the secret this receiver knows. */
  readonly isSigned: boolean
  /** How often the same id had come before. */
  readonly before: number
  readonly answered: number
}

/** So many calls are shown, the newest first. */
const mostShown = 100

function isSigned(body: string, header: string | undefined, secret: string): boolean {
  const expected = Buffer.from(`sha256=${signatureOf(body, secret)}`)
  const given = Buffer.from(header ?? '')
  return given.length === expected.length && timingSafeEqual(given, expected)
}

/** What a call is known by, whatever else is in it. */
function idOf(body: string): string {
  try {
    const { id } = JSON.parse(body) as { id?: unknown }
    return typeof id === 'string' ? id : body
  } catch {
    return body
  }
}

const row = ({ at, path, body, isSigned: fits, before, answered }: Received) =>
  `<li><b>${at}</b> ${escapeHtml(path)} · ${fits ? '✓ signed' : '✕ not signed with this secret'} · ${before === 0 ? 'for the first time' : `came before: ${before}`} · answered ${answered}<pre>${escapeHtml(body)}</pre></li>`

const page = (calls: readonly Received[]) => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>Receiver</title>
<meta name="viewport" content="width=device-width">
<style>body{font:1rem/1.5 sans-serif;max-width:50rem;margin:2rem auto;padding:0 1rem}pre{white-space:pre-wrap}</style>
</head><body><h1>What was called here</h1>
<p>Calls go to this address. <code>/answers/503</code> answers with that status.</p>
${calls.length === 0 ? '<p>Nothing yet.</p>' : `<ol reversed>${calls.map(row).join('')}</ol>`}</body></html>`

/** The status a path asks for, such as `/answers/503`; 204 where it asks for none. */
const wantedStatus = (path: string) => Number(/^\/answers\/([2-5]\d\d)$/.exec(path)?.[1] ?? 204)

/**
 * Receives calls to a web address as another program would: checks their signature, notices what comes twice, and can be
 * told by the address to answer with any status.
 */
export async function listenForCalls(
  secret: string,
  port = 0,
  onCall: (call: Received) => void = () => undefined,
) {
  const calls: Received[] = []
  const times = new Map<string, number>()
  const app = express()
  app.disable('x-powered-by')
  app.get('/', (_, response) => void response.send(page(calls)))
  app.post('/{*path}', express.text({ type: '*/*', limit: '64kb' }), (request: Request, response) => {
    const body = typeof request.body === 'string' ? request.body : ''
    const fits = isSigned(body, request.get('vorfreude-signature'), secret)
    const id = idOf(body)
    const before = times.get(id) ?? 0
    const answered = fits ? wantedStatus(request.path) : 401
    if (fits) times.set(id, before + 1)
    const call = { at: new Date().toISOString(), path: request.path, body, isSigned: fits, before, answered }
    calls.unshift(call)
    calls.length = Math.min(calls.length, mostShown)
    onCall(call)
    response.status(answered).end()
  })
  const server = app.listen(port, '127.0.0.1')
  await once(server, 'listening')
  return {
    port: (server.address() as AddressInfo).port,
    calls: (): readonly Received[] => calls,
    close: () => new Promise<void>((resolve) => server.close(() => resolve())),
  }
}
