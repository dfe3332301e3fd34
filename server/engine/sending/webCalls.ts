import { done, refused, type Result } from '#core/model/problem.ts'
import { dayMs } from '#core/time/calendar.ts'
import { readSend } from '../../db/sendStore.ts'
import { callWeb, webCallOf } from '../../mail/webCall.ts'
import type { Application, CommandCall } from '../application.ts'

/** Calls are kept for so long, in milliseconds of business time. */
const keptMs = 90 * dayMs

/** A call to a web address, and how it ended. */
export interface WebCall {
  readonly sendId: string
  readonly url: string
  readonly body: string
  readonly outcome: Awaited<ReturnType<typeof callWeb>>
  /** In milliseconds of real time. */
  readonly tookMs: number
}

/** Calls a web address and measures how long it took. */
export async function callNow(
  application: Application,
  call: Pick<WebCall, 'sendId' | 'url' | 'body'>,
): Promise<WebCall> {
  const { store, allowsOwnNetwork } = application
  const startedAt = performance.now()
  const outcome = await callWeb(call.url, call.body, { secret: store.keys.webCalls, allowsOwnNetwork })
  return { ...call, outcome, tookMs: Math.round(performance.now() - startedAt) }
}

/** Writes a call down, within a transaction; `personId`: who made it go once more. */
export function noteCall({ store, clock }: Application, call: WebCall, personId: string | null = null) {
  const { sendId, url, body, outcome, tookMs } = call
  const at = clock.now()
  store.statements.run('forgetWebCalls', { before: at - keptMs })
  const how = { outcome: outcome.kind, answer: outcome.answer, tookMs, personId }
  store.statements.run('noteWebCall', { at, sendId, url, body, ...how })
}

const notCalled = 'There is no call that could go once more.'
const notDone = 'The step stands in Trouble or is still being tried: send it from there.'

/**
 * Makes a call go once more, as it went, beside its sequence: for what was received and lost there. Asked twice under
 * one id it is made once; the answer is then what is known by then.
 */
export async function repeatCall(
  application: Application,
  call: CommandCall,
  sendId: string,
): Promise<Result<{ outcome: WebCall['outcome']['kind'] | null; answer: string }>> {
  const { statements } = application.store
  const send = readSend(statements, sendId)
  const last = statements.one('lastWebCall', { sendId })
  if (!send || !last) return refused('not found', notCalled)
  if (send.state !== 'sent') return refused('not allowed now', notDone)
  const begun: true[] = []
  const told = application.command(call, () => {
    begun.push(true)
    return done({ effects: [], answer: { outcome: null, answer: 'It is being called.' } })
  })
  if (!told.ok || begun.length === 0) return told
  const made = await callNow(application, { sendId, url: String(last.url), body: webCallOf(send) })
  application.store.transaction(() => noteCall(application, made, call.personId))
  application.changes.publish(['sends'])
  return done({ outcome: made.outcome.kind, answer: made.outcome.answer })
}
