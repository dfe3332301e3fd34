import { whyLeftOut, whyStopped } from '../../planning/reasons.ts'
import { subjectTraits } from '../../model/subject.ts'
import { evaluate, testWords } from '../../conditions/evaluate.ts'
import { appointmentOf, type Appointment } from '../../letters/appointment.ts'
import type { MergeFacts } from '../../letters/fields.ts'
import { mergeLetter, mergeWords, plainPage, type MergedLetter } from '../../letters/merge.ts'
import { documentsOf } from '../../letters/documents.ts'
import type { Booking } from '../../model/booking.ts'
import type { FixedDocument } from '../../model/document.ts'
import type { Attachment, Letter, Passage } from '../../model/letter.ts'
import type { Reason, Send } from '../../model/send.ts'
import type { SendState } from '../../model/sendState.ts'
import {
  isMessage,
  isPromotional,
  type MailStep,
  type MessageStep,
  type PlainStep,
} from '../../model/step.ts'
import { anchorKey, anchorValues } from '../../planning/anchors.ts'
import { conditionFacts, type RunFacts } from '../../planning/runFacts.ts'
import { businessDate, type Settings, type Slice } from '../../planning/slice.ts'
import { reachedOn, type Recipient } from '../../sequences/recipients.ts'
import { accountOf } from './accountOf.ts'
import { changedFacts } from './approval.ts'
import { languageOfWords, letterFault, missingReason, recipientFault, usableAddress } from './foresight.ts'
import {
  copyWordsOf,
  eveningLines,
  letterOfCopy,
  mergeFactsOf,
  sendFactsOf,
  type SendFacts,
} from './mergeFacts.ts'
import { senderOf } from './sender.ts'

/** What a client has in hand once a message has gone. */
export interface Told {
  /** The times of the booking it told. */
  readonly booking: (Booking['told'] & { readonly id: string }) | null
  /** The checklist lines it told. */
  readonly lines: { readonly enquiryId: string; readonly lineIds: readonly string[] } | null
}

/** A message ready to be put on the wire. */
export interface OutgoingMessage {
  readonly messageId: string
  readonly from: { readonly name: string; readonly address: string }
  readonly replyTo: string | null
  readonly to: { readonly name: string; readonly address: string }
  readonly subject: string
  /** Null: plain text alone, as for a telephone. */
  readonly html: string | null
  readonly text: string
  /** Business time, for the Date header. */
  readonly at: number
  /** Pictures its HTML refers to, sent along. */
  readonly pictureIds: readonly string[]
  /** Files sent along, with the names they get. */
  readonly files: readonly { readonly id: string; readonly name: string }[]
  /** The appointment sent along as a calendar file. */
  readonly appointment: Appointment | null
  /** For promotional messages: where one press ends them (RFC 8058). */
  readonly optOutUrl: string | null
  readonly told: Told
  /** What it asks to be signed, as it says it now. */
  readonly toSign: readonly FixedDocument[]
}

/** The same with its way out. */
export interface RoutedMessage extends OutgoingMessage {
  /** The further mail account it goes through; null: the main one. */
  readonly accountId: string | null
  /** Where it comes from through an account that has no address of its own. */
  readonly houseAddress: string
}

export type Verdict =
  | { readonly goes: true; readonly message: RoutedMessage }
  /** A step that is no message is due: it is to be done now. */
  | { readonly goes: true; readonly message: null; readonly does: PlainStep }
  | { readonly goes: false; readonly state: SendState; readonly reason: Reason }
  /** It stays as it is until a moment: something it is about is still settling. */
  | { readonly goes: false; readonly state: null; readonly waitsUntil: number }

const stop = (state: SendState, reason: Reason): Verdict => ({ goes: false, state, reason })

function runFault(send: Send, { of, step }: SendFacts, now: number): Verdict | null {
  if (of.run.state !== 'running') {
    return stop('cancelled', whyStopped.runStopped(of.run.stoppedReason))
  }
  if (
    'anchor' in step.timing &&
    !anchorValues(step.timing.anchor, of).some((value) => anchorKey(value) === send.anchorValue)
  ) {
    return stop('cancelled', whyStopped.otherTime)
  }
  if (step.onlyIf === null) return null
  const answer = evaluate(step.onlyIf, conditionFacts(of, now))
  if (answer.holds) return null
  const because = answer.because ? testWords(answer.because, answer.fact) : null
  return stop('skipped', whyLeftOut.condition(because))
}

function standingFault(send: Send, { settings, facts }: Slice, now: number): Verdict | null {
  const sequence = settings.sequences.find((one) => one.id === send.sequenceId)
  if (!settings.isSendingOn) return stop('missed', whyStopped.sendingOff)
  if (sequence?.state !== 'live') return stop('missed', whyStopped.notLive)
  if (facts.client.isHeldBack) return stop('missed', whyStopped.clientHeldBack)
  if (!facts.client.isActive) return stop('cancelled', whyStopped.inactive)
  if (send.notAfter !== null && now > send.notAfter) return stop('missed', whyStopped.tooLate)
  return null
}

/** In quiet mode messages reach those alone whose address was named, also on their telephones. */
const isReachedQuietly = ({ email }: Recipient, { onlyTo }: Settings) =>
  onlyTo === null || (email !== null && onlyTo.some((one) => one.toLowerCase() === email.toLowerCase()))

/** What keeps a message, of all steps, from going: consent, address, what was approved. */
function messageFault(
  send: Send,
  step: MessageStep,
  recipient: Recipient | null,
  slice: Slice,
  now: number,
): Verdict | null {
  if (!recipient) return stop('cancelled', whyStopped.recipientNotMeant)
  const fault = recipientFault(step, recipient, slice)
  if (fault) return stop('blocked', fault)
  if (!isReachedQuietly(recipient, slice.settings)) return stop('missed', whyStopped.quiet)
  const changed = changedFacts(send, slice, now)
  return changed && send.state !== 'waiting' ? stop('waiting', changed) : null
}

interface Content {
  readonly letter: MergedLetter
  readonly toSign: readonly FixedDocument[]
  readonly isTextOnly: boolean
}

function wordsContent(step: Exclude<MessageStep, MailStep>, facts: MergeFacts): Content | Verdict {
  const language = languageOfWords(step, facts.client)
  const merged = mergeWords(step.words, facts, language)
  if (!merged.ok) return stop('blocked', missingReason(merged.missing))
  const text = `${merged.text}\n`
  const nothing = { preheader: '', pictureIds: [], attachments: [], text }
  if (step.kind === 'text message') {
    return { letter: { ...nothing, subject: '', html: '' }, toSign: [], isTextOnly: true }
  }
  const html = plainPage(step.about, merged.text, language)
  return { letter: { ...nothing, subject: step.about, html }, toSign: [], isTextOnly: false }
}

function contentOf(
  step: MessageStep,
  letter: Letter | undefined,
  passages: readonly Passage[],
  facts: MergeFacts,
): Content | Verdict {
  if (step.kind !== 'mail') return wordsContent(step, facts)
  const fault = letterFault(letter, passages)
  if (fault || !letter) return stop('blocked', fault ?? whyStopped.letterGone)
  const merged = mergeLetter(letter, passages, facts)
  if (!merged.ok) return stop('blocked', missingReason(merged.missing))
  const { documents, missing } = documentsOf(letter, passages, facts)
  return missing.length === 0
    ? { letter: merged.letter, toSign: documents, isTextOnly: false }
    : stop('blocked', missingReason(missing))
}

const tellingPurposes: readonly Send['purpose'][] = ['confirmation', 'change', 'reminder', 'preparation']

const toldOf = ({ id, startAt, endAt, history }: Booking) => ({
  id,
  startAt,
  endAt,
  since: history.dueAgainSince,
})

function toldBy(send: Send, recipient: Recipient, found: SendFacts, of: RunFacts): Told {
  const { booking, enquiry } = of
  const tellsTimes =
    booking !== null &&
    subjectTraits[send.subject.kind].tellsTimes &&
    recipient.contact !== null &&
    tellingPurposes.includes(send.purpose)
  const lines = eveningLines(send.occurrence, found).map(({ lineId }) => lineId)
  return {
    booking: tellsTimes ? toldOf(booking) : null,
    lines: enquiry && lines.length > 0 ? { enquiryId: enquiry.id, lineIds: lines } : null,
  }
}

/** What a letter says is sent along, for one recipient. */
export function attached(
  attachments: readonly Attachment[],
  facts: MergeFacts,
): Pick<OutgoingMessage, 'files' | 'appointment'> {
  return {
    files: attachments.flatMap((one) => (one.kind === 'file' ? [{ id: one.fileId, name: one.name }] : [])),
    appointment: attachments.some(({ kind }) => kind === 'calendar') ? appointmentOf(facts) : null,
  }
}

function messageVerdict(send: Send, step: MessageStep, found: SendFacts, slice: Slice, now: number): Verdict {
  const { of } = found
  const { settings } = slice
  const recipient =
    found.recipient && reachedOn(found.recipient, settings.people, () => businessDate(settings, now))
  const fault = messageFault(send, step, recipient, slice, now)
  if (fault || !recipient) return fault ?? stop('cancelled', whyStopped.recipientGone)
  const address = usableAddress(step, recipient, slice.settings) ?? ''
  if (step.timing.kind === 'evening' && eveningLines(send.occurrence, found).length === 0) {
    return stop('skipped', whyStopped.nothingTicked)
  }
  const letter = slice.settings.letters.find(({ id }) => id === send.letterId)
  const facts = mergeFactsOf(send, found, slice, now)
  const own = letter && letterOfCopy(letter, of, slice, copyWordsOf(send))
  const content = contentOf(step, own, slice.settings.passages, facts)
  if ('goes' in content) return content
  const account = accountOf(step, of)
  const { from, replyTo } = senderOf(step, of, now)
  return {
    goes: true,
    message: {
      messageId: send.messageId,
      accountId: account?.id ?? null,
      houseAddress: from.address,
      from: { name: from.name, address: account?.senderAddress ?? from.address },
      replyTo: settings.markAnswers?.(replyTo ?? from.address, send.id) ?? replyTo,
      to: { name: recipient.name, address },
      subject: content.letter.subject,
      html: content.isTextOnly ? null : content.letter.html,
      text: content.letter.text,
      pictureIds: content.letter.pictureIds,
      ...attached(content.letter.attachments, facts),
      optOutUrl: isPromotional(step) ? facts.optOutUrl : null,
      at: now,
      told: toldBy(send, recipient, found, of),
      toSign: content.toSign,
    },
  }
}

/**
 * The check in the moment of sending, made in the transaction of the claim: whatever has changed since the
 * plan was made stops the message here, with its reason.
 */
export function checkAtSending(send: Send, slice: Slice, now: number): Verdict {
  const found = sendFactsOf(send, slice)
  if (!found) return stop('cancelled', whyStopped.stepGone)
  const settling = found.of.booking?.settling
  if (settling && settling.until > now) return { goes: false, state: null, waitsUntil: settling.until }
  const fault = runFault(send, found, now) ?? standingFault(send, slice, now)
  if (fault) return fault
  const { step } = found
  return isMessage(step)
    ? messageVerdict(send, step, found, slice, now)
    : { goes: true, message: null, does: step }
}

/**
 * What a message that did not go would have said at a moment, whatever kept it from going; null: it has no words, or
 * cannot be filled.
 */
export function wordsAt(send: Send, slice: Slice, at: number): RoutedMessage | null {
  const found = sendFactsOf(send, slice)
  if (!found || !isMessage(found.step)) return null
  const verdict = messageVerdict({ ...send, approvedFacts: null }, found.step, found, slice, at)
  return verdict.goes ? verdict.message : null
}
