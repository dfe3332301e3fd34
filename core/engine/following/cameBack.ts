import type { RecipientReport } from '../../model/incoming.ts'
import type { Send, TraceLine } from '../../model/send.ts'
import { outcomeOf, type DeliveryOutcome } from '../../incoming/statusCode.ts'
import { addressBlockedCode } from '../../planning/reasons.ts'
import type { Slice } from '../../planning/slice.ts'
import { isSameAddress } from '../../model/values.ts'
import { hourMs } from '../../time/calendar.ts'
import { isContactId } from '../../sequences/recipients.ts'
import { sendLabel } from '../../planning/sendLabel.ts'
import { subjectOf } from '../commands/sendCommands.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from './react.ts'
import { addressBlocked, blockedAddress, fullMailbox, reportSentence } from './undeliveredAddress.ts'

/** What a delivery report brings about for one client, and what is said of it. */
export interface CameBack {
  readonly outcome: DeliveryOutcome
  readonly effects: readonly Effect[]
  readonly sentences: readonly string[]
}

/** A message that a mail server gave up for now goes so often once more. */
const mostAgain = 3

const cameBackRule = 'came back'
const timesAgain = ({ trace }: Send) => trace.filter(({ rule }) => rule === cameBackRule).length

/** One hour, then two, then four. */
const waitMs = (times: number) => hourMs * 2 ** times

/** The report that is about where a message went; where none names that, the first. */
function reportFor({ address }: Send, reports: readonly RecipientReport[]): RecipientReport | null {
  const own = reports.find((one) => address !== null && isSameAddress(one.address, address))
  return own ?? reports.find((one) => one.address === '') ?? reports[0] ?? null
}

function bounced(send: Send, code: string, sentence: string, now: number): Effect {
  return {
    kind: 'put send',
    send: { ...send, state: 'bounced', reason: { code, sentence }, stateSince: now },
  }
}

/** It goes once more, with the same Message-ID, after a while; null: it has gone often enough, or comes too late then. */
function onceMore(send: Send, sentence: string, now: number): Send | null {
  const times = timesAgain(send)
  const dueAt = now + waitMs(times)
  if (times >= mostAgain || (send.notAfter !== null && dueAt > send.notAfter)) return null
  const line: TraceLine = { rule: cameBackRule, before: send.sentAt, after: dueAt, code: 'later', sentence }
  return {
    ...send,
    state: 'ready',
    // It was approved where it had to be, and goes as it went: planning anew leaves that alone.
    decision: { ...send.decision, isSentNow: true },
    dueAt,
    sentAt: null,
    reason: { code: 'later', sentence },
    trace: [...send.trace, line],
    stateSince: now,
  }
}

/** It did not get through for now: once more, or it has come back for good. */
function forNow(
  send: Send,
  report: RecipientReport,
  slice: Slice,
  context: EngineContext,
): CameBack['effects'] {
  const sentence = `It came back for now, and goes once more: ${reportSentence(report)}`
  const again = onceMore(send, sentence, context.now)
  const back = bounced(send, 'came back', `It came back: ${reportSentence(report)}`, context.now)
  const puts: readonly Effect[] = again ? [back, { kind: 'put send', send: again }] : [back]
  const words = `“${sendLabel(send, slice.settings)}”: ${again ? sentence : `it came back. ${reportSentence(report)}`}`
  const told = appendEvent(context, 'message came back', subjectOf(send), words)
  return conclude(slice, [...puts, told], context)
}

/** A full mailbox: once more after a while; after a few times nothing goes there any more. */
function whileFull(send: Send, report: RecipientReport, slice: Slice, context: EngineContext) {
  const { address } = send
  if (address === null)
    return { effects: forNow(send, report, slice, context), sentences: [reportSentence(report)] }
  const before = slice.facts.undelivered.find((one) => isSameAddress(one.address, address))
  const undelivered = fullMailbox(address, report, before, context.now)
  if (undelivered.isBlocked) return blocking(send, report, undelivered, slice, context)
  const put: Effect = { kind: 'put undelivered', address, undelivered }
  const times = undelivered.timesFull === 1 ? 'for the first time' : `${undelivered.timesFull} times by now`
  return {
    effects: [put, ...forNow(send, report, slice, context)],
    sentences: [`The mailbox ${address} is full, ${times}: it goes once more.`],
  }
}

function followedBy(
  outcome: DeliveryOutcome,
  send: Send,
  report: RecipientReport,
  slice: Slice,
  context: EngineContext,
) {
  const said = reportSentence(report)
  const label = `“${sendLabel(send, slice.settings)}”`
  const event = (words: string) =>
    appendEvent(context, 'message came back', subjectOf(send), `${label}: ${words}`)
  const { address } = send
  switch (outcome) {
    case 'arrived':
      return {
        effects: [
          appendEvent(
            context,
            'mail came in',
            subjectOf(send),
            `${label}: the mail server of the recipient has it.`,
          ),
        ],
        sentences: ['It got there.'],
      }
    case 'delayed':
      return {
        effects: [appendEvent(context, 'mail came in', subjectOf(send), `${label}: it is delayed. ${said}`)],
        sentences: [`It is still on its way: ${said}`],
      }
    case 'try again':
      return {
        effects: forNow(send, report, slice, context),
        sentences: [`It did not get through for now: ${said}`],
      }
    case 'message refused':
      return {
        effects: conclude(
          slice,
          [bounced(send, 'came back', `It came back: ${said}`, context.now), event(`it came back: ${said}`)],
          context,
        ),
        sentences: [`It came back: ${said}`],
      }
    case 'mailbox full':
      return whileFull(send, report, slice, context)
    case 'address gone':
      return address === null
        ? { effects: forNow(send, report, slice, context), sentences: [said] }
        : blocking(send, report, blockedAddress(address, report, context.now), slice, context)
  }
}

function blocking(
  send: Send,
  report: RecipientReport,
  blocked: ReturnType<typeof blockedAddress>,
  slice: Slice,
  context: EngineContext,
) {
  const said = reportSentence(report)
  const came = bounced(send, addressBlockedCode, `It came back: ${said}`, context.now)
  const words = `“${sendLabel(send, slice.settings)}”: it came back: ${said}`
  const told = appendEvent(context, 'message came back', subjectOf(send), words)
  return {
    effects: addressBlocked(slice, blocked, context, [came, told]),
    sentences: [`Nothing goes to ${blocked.address} any more: ${said}`],
  }
}

/** What a report means where it is about a copy for the team: addresses are blocked of clients alone. */
const ofOther: Readonly<Record<DeliveryOutcome, DeliveryOutcome>> = {
  'address gone': 'message refused',
  'mailbox full': 'try again',
  'message refused': 'message refused',
  'try again': 'try again',
  delayed: 'delayed',
  arrived: 'arrived',
}

/**
 * What follows from a report about a message that went: it has come back, goes once more, or is on its way. A report about
 * one that has come back already, or never went, says nothing new.
 */
export function cameBack(
  sendId: string,
  reports: readonly RecipientReport[],
  slice: Slice,
  context: EngineContext,
): CameBack {
  const send = slice.facts.sends.find(({ id }) => id === sendId)
  const report = send && reportFor(send, reports)
  if (!send || !report)
    return { outcome: 'arrived', effects: [], sentences: ['It says nothing of a message from here.'] }
  const outcome = isContactId(send.recipientId) ? outcomeOf(report) : ofOther[outcomeOf(report)]
  // What nobody could tell of has gone, as is known now.
  const isGone = send.state === 'sent' || send.state === 'in doubt'
  if (!isGone) {
    return { outcome, effects: [], sentences: [`The message is ${send.state} by now: nothing new follows.`] }
  }
  return { outcome, ...followedBy(outcome, send, report, slice, context) }
}
