import { evaluate, testWords } from '../conditions/evaluate.ts'
import type { MergeFacts } from '../letters/fields.ts'
import { mergeLetter } from '../letters/merge.ts'
import { renderHtml, renderText } from '../letters/render.ts'
import { fullName } from '../model/client.ts'
import type { Reason, Send, SendState } from '../model/send.ts'
import { emailAddress } from '../model/values.ts'
import { anchorKey, anchorValues } from '../planning/anchors.ts'
import { conditionFacts } from '../planning/repeat.ts'
import { runFacts, type RunFacts } from '../planning/runFacts.ts'
import { serviceOf, versionOf, type Slice } from '../planning/slice.ts'

/** A message ready to be put on the wire. */
export interface OutgoingMessage {
  readonly messageId: string
  readonly from: { readonly name: string; readonly address: string }
  readonly to: { readonly name: string; readonly address: string }
  readonly subject: string
  readonly html: string
  readonly text: string
  /** Business time, for the Date header. */
  readonly at: number
}

export type Verdict =
  | { readonly goes: true; readonly message: OutgoingMessage }
  | { readonly goes: false; readonly state: SendState; readonly reason: Reason }
  /** It stays as it is until a moment: something it is about is still settling. */
  | { readonly goes: false; readonly state: null; readonly waitsUntil: number }

const stop = (state: SendState, code: string, sentence: string): Verdict => ({
  goes: false,
  state,
  reason: { code, sentence },
})

function runFault(send: Send, of: RunFacts | null, slice: Slice, now: number): Verdict | null {
  if (!of || of.run.state !== 'running') {
    return stop('cancelled', 'stopped', of?.run.stoppedReason ?? 'Its sequence has stopped.')
  }
  const { run } = of
  const step = versionOf(slice.settings, run.sequenceId, run.version).steps.find(
    (one) => one.id === send.stepId,
  )
  if (!step) return stop('cancelled', 'no step', 'Its step is no longer part of the sequence.')
  if (
    'anchor' in step.timing &&
    !anchorValues(step.timing.anchor, of).some((value) => anchorKey(value) === send.anchorValue)
  ) {
    return stop('cancelled', 'moved', 'What it hangs on has another time now.')
  }
  if (step.onlyIf === null) return null
  const answer = evaluate(step.onlyIf, conditionFacts(of, now))
  if (answer.holds) return null
  const because = answer.because ? testWords(answer.because, answer.fact) : 'Its condition does not hold.'
  return stop('skipped', 'condition', because)
}

function standingFault(send: Send, { settings, facts }: Slice, now: number): Verdict | null {
  const sequence = settings.sequences.find((one) => one.id === send.sequenceId)
  if (!settings.isSendingOn) return stop('missed', 'missed', 'It fell due while sending was held back.')
  if (sequence?.state !== 'live')
    return stop('missed', 'missed', 'It fell due while its sequence was not live.')
  if (!facts.client.isActive) return stop('cancelled', 'client inactive', 'The client is marked inactive.')
  if (send.notAfter !== null && now > send.notAfter) {
    return stop('missed', 'too late', 'Its last useful moment passed before it could go.')
  }
  if (send.purpose === 'promotional' && !facts.client.takesPromotional) {
    return stop('blocked', 'no consent', 'The client does not take promotional mail.')
  }
  return null
}

/**
 * The check in the moment of sending, made in the transaction of the claim: whatever has changed since the
 * plan was made stops the message here, with its reason.
 */
export function checkAtSending(send: Send, slice: Slice, now: number): Verdict {
  const { settings, facts } = slice
  const run = facts.runs.find((one) => one.id === send.runId)
  const of = run ? runFacts(run, slice) : null
  const settling = of?.booking?.settling
  if (settling && settling.until > now) return { goes: false, state: null, waitsUntil: settling.until }
  const fault = runFault(send, of, slice, now) ?? standingFault(send, slice, now)
  if (fault) return fault
  const contact = facts.client.contacts.find((one) => one.id === send.contactId)
  const booking = of?.booking ?? null
  const letter = settings.letters.find((one) => one.id === send.letterId)
  if (!of || !contact || !letter) return stop('blocked', 'gone', 'Its contact or letter is gone.')
  if (!emailAddress.safeParse(contact.email).success || contact.email === null) {
    return stop('blocked', 'no address', 'There is no usable e-mail address to send it to.')
  }
  const serviceId = booking?.serviceId ?? of.enquiry?.serviceId ?? null
  const mergeFacts: MergeFacts = {
    business: settings.business,
    client: facts.client,
    contact,
    booking,
    service: serviceId === null ? null : serviceOf(settings, serviceId),
    personInCharge:
      settings.people.find((one) => one.id === booking?.personInChargeId && one.isActive) ?? null,
    zone: of.zone,
    sendingAt: now,
  }
  const merged = mergeLetter(letter, mergeFacts)
  if (!merged.ok) {
    return stop(
      'blocked',
      'missing field',
      `The letter needs a value that is missing: ${merged.missing.join(', ')}.`,
    )
  }
  return {
    goes: true,
    message: {
      messageId: send.messageId,
      from: { name: settings.business.senderName, address: settings.business.senderAddress },
      to: { name: fullName(facts.client, contact), address: contact.email },
      subject: merged.letter.subject,
      html: renderHtml(merged.letter),
      text: renderText(merged.letter),
      at: now,
    },
  }
}
