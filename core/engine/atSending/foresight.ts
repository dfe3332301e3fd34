import { teamLanguage } from '../../letters/language.ts'
import type { Client } from '../../model/client.ts'
import type { Language } from '../../model/values.ts'
import { documentsOf } from '../../letters/documents.ts'
import { fieldInfo } from '../../letters/fieldList.ts'
import { missingFields, mergeWords } from '../../letters/merge.ts'
import { passageIdsOf } from '../../letters/problems.ts'
import type { FieldName, Letter, Passage } from '../../model/letter.ts'
import type { Reason } from '../../model/send.ts'
import { isMessage, isPromotional, stepTraits, type MessageStep } from '../../model/step.ts'
import { reservedEndingOf } from '../../model/reservedAddress.ts'
import { emailAddress, isSameAddress } from '../../model/values.ts'
import type { PlannedSend } from '../../planning/planStep.ts'
import { whyStopped } from '../../planning/reasons.ts'
import { runFacts, type RunFacts } from '../../planning/runFacts.ts'
import type { Settings, Slice } from '../../planning/slice.ts'
import type { Recipient } from '../../sequences/recipients.ts'
import { letterOfCopy, mergeFactsFor, type CopyWords } from './mergeFacts.ts'
import { textAddress } from './textMessages.ts'

/*
 * What stops a message in the moment of sending, as far as it can be known before: the client inactive, no consent, no
 * usable address, a letter that is not ready or that misses a value. Planning and the check at sending ask the same.
 */

/** The usable address of a recipient; null: there is none. */
export function usableAddress(
  step: MessageStep,
  { email, phone }: Recipient,
  { isRealMail }: Settings,
): string | null {
  if (stepTraits[step.kind].goesTo === 'phone') return textAddress(phone)
  if (email === null || !emailAddress.safeParse(email).success) return null
  return isRealMail && reservedEndingOf(email) !== null ? null : email
}

function noAddress({ kind }: MessageStep, { email, phone }: Recipient): Reason {
  const [given, name] =
    stepTraits[kind].goesTo === 'phone' ? [phone, 'telephone number'] : [email, 'e-mail address']
  if (!given) return whyStopped.noAddress(name)
  const ending = given === email ? reservedEndingOf(given) : null
  return ending === null ? whyStopped.badAddress(given, name) : whyStopped.reservedAddress(given, ending)
}

export function missingReason(missing: readonly FieldName[]): Reason {
  return whyStopped.missingFields(missing.map((name) => fieldInfo(name).label))
}

/** The language of words that are no letter: the client's, or the team's in a note to staff. */
export function languageOfWords({ kind }: MessageStep, client: Pick<Client, 'language'>): Language {
  return kind === 'note to staff' ? teamLanguage : client.language
}

/** Why a letter cannot go to anybody; null: it can. */
export function letterFault(letter: Letter | undefined, passages: readonly Passage[]): Reason | null {
  if (!letter) return whyStopped.letterGone
  if (passageIdsOf(letter).some((one) => !passages.some(({ id }) => id === one)))
    return whyStopped.passageGone
  return letter.isStarter ? whyStopped.unreadLetter : null
}

/** Whether a client's consent or address keeps a step from reaching somebody; null: nothing does. */
export function recipientFault(step: MessageStep, recipient: Recipient, slice: Slice): Reason | null {
  if (isPromotional(step) && !slice.facts.client.takesPromotional && recipient.contact) {
    return whyStopped.noConsent
  }
  if (usableAddress(step, recipient, slice.settings) === null) return noAddress(step, recipient)
  const { email } = recipient
  const blocked =
    stepTraits[step.kind].goesTo === 'phone' || recipient.contact === null
      ? undefined
      : slice.facts.undelivered.find((one) => one.isBlocked && isSameAddress(one.address, email ?? ''))
  return blocked ? whyStopped.addressBlocked(blocked.address, blocked.sentence) : null
}

function wordsFault(
  step: MessageStep,
  recipient: Recipient,
  letterId: string | null,
  of: RunFacts,
  slice: Slice,
  sending: {
    readonly at: number
    readonly occurrence: number
    readonly words: CopyWords
  },
): Reason | null {
  const { letters, passages } = slice.settings
  const facts = mergeFactsFor({ of, step, recipient }, sending.occurrence, slice, sending.at)
  if (step.kind !== 'mail') {
    const merged = mergeWords(step.words, facts, languageOfWords(step, slice.facts.client))
    return merged.ok ? null : missingReason(merged.missing)
  }
  const letter = letters.find(({ id }) => id === letterId)
  const own = letter && letterOfCopy(letter, of, slice, sending.words)
  const fault = letterFault(own, passages)
  if (fault || !own) return fault
  const missing = [...missingFields(own, passages, facts), ...documentsOf(own, passages, facts).missing]
  return missing.length === 0 ? null : missingReason(missing)
}

/** What is known by now to stop a planned message when its moment comes; null: nothing. */
export function foreseen(
  { run, step, recipient, dueAt, occurrence }: PlannedSend,
  letterId: string | null,
  words: CopyWords,
  slice: Slice,
): Reason | null {
  if (!slice.facts.client.isActive) return whyStopped.inactive
  if (!isMessage(step)) return null
  const fault = recipientFault(step, recipient, slice)
  if (fault || dueAt === null) return fault
  const of = runFacts(run, slice)
  return of && wordsFault(step, recipient, letterId, of, slice, { at: dueAt, occurrence, words })
}
