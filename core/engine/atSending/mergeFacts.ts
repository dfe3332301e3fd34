import { bookingLinks } from './bookingLinks.ts'
import type { MergeFacts } from '../../letters/fields.ts'
import { withOwnWords, withPersonalLine } from '../../letters/personalLine.ts'
import { letterFor } from '../../letters/variants.ts'
import type { ApprovedWords, Letter } from '../../model/letter.ts'
import { primaryContact } from '../../model/client.ts'
import type { Send, SendDecided } from '../../model/send.ts'
import type { PlainStep } from '../../model/step.ts'
import { linesOfLetter } from '../../planning/evenings.ts'
import { runFacts, type RunFacts, recipientFacts } from '../../planning/runFacts.ts'
import { serviceOf, versionOf, type Settings, type Slice } from '../../planning/slice.ts'
import { recipientsOfStep, type Recipient } from '../../sequences/recipients.ts'
import { findStep } from '../../sequences/steps.ts'
import { variedStep } from '../../sequences/variations.ts'

/** What a stored send stands for at present: its run, its step as it counts here, and its recipient. */
export interface SendFacts {
  readonly of: RunFacts
  readonly step: PlainStep
  /** Null: the recipient is gone. */
  readonly recipient: Recipient | null
}

/** The present facts of a send; null where its run or step is gone. */
export function sendFactsOf(send: Send, slice: Slice): SendFacts | null {
  const { settings, facts } = slice
  const run = facts.runs.find(({ id }) => id === send.runId)
  const of = run ? runFacts(run, slice) : null
  const general = findStep(versionOf(settings, send.sequenceId, send.sequenceVersion), send.stepId)
  if (!of || !general) return null
  const { step } = variedStep(general, send.sequenceId, of.serviceId, {
    ofServices: settings.variations,
    ofClient: facts.variations,
  })
  const recipient =
    recipientsOfStep(step, recipientFacts(of)).find(({ id }) => id === send.recipientId) ?? null
  return { of, step, recipient }
}

/** What persons have said of the words of one copy. */
export type CopyWords = Pick<SendDecided, 'ownWords' | 'personalLine'> & {
  readonly approved: ApprovedWords | null
}

export const copyWordsOf = ({ decision, approvedWords }: Send): CopyWords => ({
  ownWords: decision.ownWords,
  personalLine: decision.personalLine,
  approved: approvedWords,
})

/** A letter as it is written for one copy: in its reader's language, with what differs for service and client, and its own words. */
export function letterWritten(
  letter: Letter,
  { serviceId }: Pick<RunFacts, 'serviceId'>,
  { facts }: Pick<Slice, 'facts'>,
  ownWords: SendDecided['ownWords'],
): Letter {
  return withOwnWords(letterFor(letter, { serviceId, client: facts.client }), ownWords)
}

/** A letter as one copy says it: as it was approved, or as it is written for it at present, with its personal line. */
export function letterOfCopy(
  letter: Letter,
  of: Pick<RunFacts, 'serviceId'>,
  slice: Pick<Slice, 'facts'>,
  { ownWords, personalLine, approved }: CopyWords,
): Letter {
  // Words that were approved are those of one letter: a person can have chosen another since.
  if (approved?.letterId === letter.id) {
    const { language, letterhead, subject, preheader, sections, attachments } = approved
    return { ...letter, language, letterhead, subject, preheader, sections, attachments }
  }
  return withPersonalLine(letterWritten(letter, of, slice, ownWords), personalLine)
}

/** The sentences that an evening letter tells. */
export function eveningLines(occurrence: number, { of, step }: Pick<SendFacts, 'of' | 'step'>) {
  return step.timing.kind === 'evening' ? linesOfLetter(occurrence, step.timing.atTime, of) : []
}

/** The documents there are, each with where it is signed for what a message is about. */
export const documentsToSign = (
  { documents, clientLinks }: Settings,
  { booking, enquiry, client }: Pick<RunFacts, 'booking' | 'enquiry' | 'client'>,
): MergeFacts['toSign'] =>
  documents
    .filter(({ isActive }) => isActive)
    .map((document) => ({
      document,
      url: clientLinks.sign(booking?.id ?? enquiry?.id ?? client.id, document.id),
    }))

/** What the letter of a send is filled from, for its recipient, at a moment. */
export function mergeFactsOf(send: Send, found: SendFacts, slice: Slice, sendingAt: number): MergeFacts {
  return mergeFactsFor(found, send.occurrence, slice, sendingAt)
}

/** What the letter of a step's occurrence is filled from. */
export function mergeFactsFor(
  found: SendFacts,
  occurrence: number,
  slice: Slice,
  sendingAt: number,
): MergeFacts {
  const { of, recipient } = found
  const { settings, facts } = slice
  return {
    business: settings.business,
    client: facts.client,
    contact: recipient?.contact ?? primaryContact(facts.client),
    booking: of.booking,
    enquiry: of.enquiry,
    invoice: of.invoice,
    service: of.serviceId === null ? null : serviceOf(settings, of.serviceId),
    personInCharge: of.personInCharge,
    progress: eveningLines(occurrence, found).map(({ sentence }) => sentence ?? ''),
    runStartedAt: of.run.startedAt,
    optOutUrl: settings.clientLinks.optOut(facts.client.id),
    ...bookingLinks(settings, of.booking),
    payUrl: of.invoice === null ? '' : settings.clientLinks.pay(of.invoice.id),
    allUrl: settings.clientLinks.all(facts.client.id),
    toSign: documentsToSign(settings, of),
    zone: of.zone,
    readerZone: facts.client.zone === null ? null : of.clientZone,
    sendingAt,
  }
}
