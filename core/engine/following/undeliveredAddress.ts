import type { RecipientReport } from '../../model/incoming.ts'
import type { Undelivered } from '../../model/undelivered.ts'
import { statusWords } from '../../incoming/statusCode.ts'
import type { Slice } from '../../planning/slice.ts'
import { dayMs } from '../../time/calendar.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from './react.ts'

/** A full mailbox is waited for so often; then it is as good as gone. */
const mostTimesFull = 3
/** Reports further apart than this say nothing about each other. */
const countsForMs = 30 * dayMs

/** What a report says, in a sentence. */
export function reportSentence({
  status,
  diagnostic,
}: Pick<RecipientReport, 'status' | 'diagnostic'>): string {
  const words = statusWords(status)
  const said = diagnostic === '' ? '' : ` The mail server said: ${diagnostic}`
  const begun = words === '' ? 'it could not be delivered' : words
  return `${begun}${status === null ? '' : ` (${status})`}.${said}`.slice(0, 600)
}

/** An address to which nothing goes any more. */
export const blockedAddress = (address: string, report: RecipientReport, at: number): Undelivered => ({
  address,
  at,
  timesFull: 0,
  isBlocked: true,
  sentence: reportSentence(report),
})

/** A full mailbox, once more; from a certain time on nothing goes there any more. */
export function fullMailbox(
  address: string,
  report: RecipientReport,
  before: Undelivered | undefined,
  at: number,
): Undelivered {
  const counts = before !== undefined && at - before.at <= countsForMs
  const timesFull = (counts ? before.timesFull : 0) + 1
  return { address, at, timesFull, isBlocked: timesFull > mostTimesFull, sentence: reportSentence(report) }
}

/** What follows for one client from an address of theirs that nothing goes to any more: all that is planned waits in Trouble. */
export function addressBlocked(
  slice: Slice,
  blocked: Undelivered,
  context: EngineContext,
  before: readonly Effect[] = [],
): readonly Effect[] {
  const { id: clientId } = slice.facts.client
  const { address } = blocked
  const words = `Nothing goes to ${address} any more: ${blocked.sentence}`
  const put: Effect = { kind: 'put undelivered', address, undelivered: blocked }
  const told = appendEvent(context, 'address blocked', { clientId }, words)
  return conclude(slice, [...before, put, told], context)
}

/** An address is written to again, as a person said: what is still ahead goes. */
export function addressUnblocked(slice: Slice, address: string, context: EngineContext): readonly Effect[] {
  const { id: clientId } = slice.facts.client
  const put: Effect = { kind: 'put undelivered', address, undelivered: null }
  const told = appendEvent(context, 'address works again', { clientId }, `Messages go to ${address} again.`)
  return conclude(slice, [put, told], context)
}
