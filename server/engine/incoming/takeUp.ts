import { sendIdIn, writtenAnswerIdIn } from '#core/engine/following/replan.ts'
import { cameIn, heldUntilKnown, ofNobody } from '#core/engine/following/cameIn.ts'
import { addressBlocked, reportSentence } from '#core/engine/following/undeliveredAddress.ts'
import { kindOf, referencesOf } from '#core/incoming/kindOf.ts'
import type { ReadMail } from '#core/incoming/mail.ts'
import { matchOf, nobodys, type MatchFacts, type ReferredSend } from '#core/incoming/matching.ts'
import type { Effect } from '#core/engine/effects.ts'
import { isProbable, type Incoming, type IncomingWhat } from '#core/model/incoming.ts'
import { emailAddress, isSameAddress } from '#core/model/values.ts'
import { dayAt } from '#core/time/zones.ts'
import { outcomeOf } from '#core/incoming/statusCode.ts'
import type { WrittenAnswer } from '#core/model/writtenAnswer.ts'
import type { Settings, Slice } from '#core/planning/slice.ts'
import { presentClientId } from '../../db/clientMerges.ts'
import { readBooking, readClient } from '../../db/clientStore.ts'
import { readWrittenAnswer, type StoredIncoming } from '../../db/incomingStore.ts'
import { isOfStore } from '../../db/storeFault.ts'
import { focusOn, focusOnSend, onlyLiving } from '../../db/livingStore.ts'
import { readSend } from '../../db/sendStore.ts'
import { sendIdOfAddress } from '../../mail/incoming/signedAddress.ts'
import type { Application } from '../application.ts'
import { ownAddresses } from './openListener.ts'

/** A message of this house by its id, with whose it is by now; null: there is none. */
function referredSend({ store }: Application, sendId: string): ReferredSend | null {
  const send = readSend(store.statements, sendId)
  return (
    send && { id: send.id, clientId: presentClientId(store.statements, send.clientId), address: send.address }
  )
}

/** Whether an address is one of the team's own. */
const isOfTeam = (address: string, settings: Settings) =>
  ownAddresses(settings).some((one) => isSameAddress(one, address))

/** Those who can be reached at an address, with how much is at work for them. */
function sendersAt({ store: { statements } }: Application, address: string) {
  if (!emailAddress.safeParse(address).success) return []
  return statements.all('clientsAtAddress', { email: address }).map((row) => {
    const clientId = String(row.clientId)
    return { clientId, openRuns: Number(statements.one('openRunsOfClient', { clientId })?.count ?? 0) }
  })
}

function lastSendTo(application: Application, what: IncomingWhat): ReferredSend | null {
  if (what.kind !== 'delivery report') return null
  const { statements } = application.store
  for (const { address } of what.reports) {
    if (!emailAddress.safeParse(address).success) continue
    const row = statements.one('lastSendTo', { email: address })
    if (row) return referredSend(application, String(row.id))
  }
  return null
}

/** The client of the appointment that a reply to an invitation names. */
function invitedBy({ store: { statements } }: Application, what: IncomingWhat): string | null {
  const id = what.kind === 'invitation reply' ? (what.uid.split('@')[0] ?? '') : ''
  const booking = /^bk_[\w-]{1,60}$/.test(id) ? readBooking(statements, id) : null
  return booking && presentClientId(statements, booking.clientId)
}

/** The answer of the team that a mail refers to; null: none. */
function answerReferredTo({ store }: Application, references: readonly string[]): WrittenAnswer | null {
  const ids = references.flatMap((id) => writtenAnswerIdIn(id) ?? [])
  for (const id of ids) {
    const answer = readWrittenAnswer(store.statements, id)
    if (answer) return answer
  }
  return null
}

function answeredBy(application: Application, references: readonly string[]): string | null {
  const clientId = answerReferredTo(application, references)?.clientId ?? null
  return clientId === null ? null : presentClientId(application.store.statements, clientId)
}

/** A report that an answer of the team did not get through: whoever wrote it is told. */
function answerCameBack(application: Application, incoming: Incoming): readonly Effect[] | null {
  const { what, references } = incoming
  if (what.kind !== 'delivery report') return null
  const answer = answerReferredTo(application, references)
  const report = what.reports.find(
    ({ address }) => answer && (address === '' || isSameAddress(address, answer.to)),
  )
  if (!answer || !report) return null
  const outcome = outcomeOf(report)
  if (outcome === 'arrived' || outcome === 'delayed') {
    return [
      { kind: 'put incoming', incoming: { ...incoming, followed: [reportSentence(report).slice(0, 400)] } },
    ]
  }
  const sentence = `Your answer to ${answer.to} came back: ${reportSentence(report)}`.slice(0, 400)
  const match = {
    ...incoming.match,
    by: 'reference' as const,
    clientId: answer.clientId,
    candidateIds: [],
    sendId: null,
  }
  return [
    { kind: 'put written answer', answer: { ...answer, state: 'failed', reason: sentence } },
    { kind: 'put incoming', incoming: { ...incoming, match, followed: [sentence], place: 'trouble' } },
  ]
}

/** What is known here of what a mail names. */
function matchFacts(
  application: Application,
  mail: ReadMail,
  what: IncomingWhat,
  references: readonly string[],
): MatchFacts {
  const { statements, keys } = application.store
  const from = mail.from?.address ?? ''
  const signedId = mail.to.map((address) => sendIdOfAddress(address, keys)).find((id) => id !== null)
  return {
    referred: references.flatMap((id) => referredSend(application, sendIdIn(id) ?? '') ?? []),
    signed: signedId == null ? null : referredSend(application, signedId),
    spokenTo: invitedBy(application, what) ?? answeredBy(application, references),
    senders: sendersAt(application, from),
    addressesOf: (clientId) =>
      (readClient(statements, clientId)?.contacts ?? []).flatMap(({ email }) => email?.toLowerCase() ?? []),
    lastTo: lastSendTo(application, what),
    isFromTeam: isOfTeam(from, application.settings.required()),
  }
}

const noSender = { name: '', address: '' }

/** A mail of which nothing is known but that it came. */
const asRead = ({ id, cameAt, way }: StoredIncoming): Incoming => ({
  id,
  at: cameAt,
  from: noSender,
  subject: '',
  text: '',
  messageId: '',
  hasHtml: false,
  references: [],
  files: [],
  what: { kind: 'unclear', why: '' },
  match: nobodys,
  isOld: way.isOld,
  heldSendIds: [],
  followed: [],
  place: null,
  doneAt: null,
  doneBy: null,
  personId: null,
  revision: 1,
})

/** A mail as it was read, matched, and without anything that follows. */
function readIn(application: Application, stored: StoredIncoming, mail: ReadMail): Incoming {
  const { zones, business } = application.settings.required()
  const what = kindOf(mail, dayAt(zones.zone(business.zone), stored.cameAt))
  const references = referencesOf(mail, what)
  const facts = matchFacts(application, mail, what, references)
  return {
    ...asRead(stored),
    from: mail.from ?? noSender,
    subject: mail.subject,
    text: mail.text,
    messageId: mail.messageId ?? '',
    hasHtml: mail.hasHtml,
    references: [...references],
    files: mail.files.map((file) => ({ ...file })),
    what,
    match: matchOf(what, mail.from?.address ?? '', facts),
  }
}

/** What an answer would stop is held with all whose it may be, until a person has said. */
function held(application: Application, incoming: Incoming): { effects: Effect[]; sendIds: string[] } {
  const { what, match } = incoming
  if (what.kind !== 'answer' || match.isFromTeam) return { effects: [], sendIds: [] }
  const effects = match.candidateIds.flatMap((clientId) => {
    const slice = application.readableSliceOf(clientId, onlyLiving)
    return slice ? heldUntilKnown(slice, application.context(null)) : []
  })
  const sendIds = effects.flatMap((one) =>
    one.kind === 'put send' && one.send.decision.isHeldBack && one.send.state === 'waiting'
      ? [one.send.id]
      : [],
  )
  return { effects, sendIds: [...new Set(sendIds)].slice(0, 500) }
}

/** All others who can be reached at an address. */
export function othersAt(application: Application, address: string, ownId: string): readonly Slice[] {
  const found = application.store.statements.all('clientsAtAddress', { email: address })
  return found.flatMap(({ clientId }) =>
    clientId === ownId ? [] : (application.readableSliceOf(String(clientId), onlyLiving) ?? []),
  )
}

/** What an address that is blocked now means for all others who can be reached there, too. */
export const forOthersAt = (application: Application, effects: readonly Effect[], ownId: string) =>
  effects.flatMap((one): readonly Effect[] => {
    if (one.kind !== 'put undelivered' || one.undelivered?.isBlocked !== true) return []
    const blocked = one.undelivered
    return othersAt(application, blocked.address, ownId).flatMap((slice) =>
      addressBlocked(slice, blocked, application.context(null)),
    )
  })

/** What is read of the client for a mail: the message it is about, or the booking it names. */
export function readingFor(application: Application, { match, what }: Incoming) {
  const send = match.sendId === null ? null : readSend(application.store.statements, match.sendId)
  if (send) return focusOnSend(send)
  return what.kind === 'invitation reply' ? focusOn(what.uid.split('@')[0] ?? '') : onlyLiving
}

const fromBefore = 'It lay in the mailbox before that was read for the first time: nothing follows from it.'
const perhapsUnseen =
  'It lay in the mailbox before that was read for the first time. What an answer stops waits until you say whether it counts.'

/** Nothing follows from what was there before; but what an answer would stop does not go before a person has looked. */
function ofOld(application: Application, incoming: Incoming): readonly Effect[] {
  const { clientId } = incoming.match
  const match = {
    ...incoming.match,
    by: 'from before, probably' as const,
    clientId: null,
    candidateIds: clientId === null ? [] : [clientId],
  }
  const asked = { ...incoming, match, followed: [perhapsUnseen], place: 'decide' as const }
  const { effects, sendIds } = held(application, asked)
  return sendIds.length === 0
    ? [{ kind: 'put incoming', incoming: { ...incoming, followed: [fromBefore] } }]
    : [...effects, { kind: 'put incoming', incoming: { ...asked, heldSendIds: sendIds } }]
}

/** Everything that follows from a mail. */
export function followsFrom(application: Application, incoming: Incoming): readonly Effect[] {
  const { clientId } = incoming.match
  if (incoming.isOld) return ofOld(application, incoming)
  const cameBack = answerCameBack(application, incoming)
  if (cameBack) return cameBack
  const slice = clientId === null ? null : application.sliceOf(clientId, readingFor(application, incoming))
  if (slice) {
    const effects = cameIn(slice, incoming, application.context(null))
    return [...effects, ...forOthersAt(application, effects, slice.facts.client.id)]
  }
  const kept = ofNobody({ ...incoming, match: { ...incoming.match, clientId: null } })
  if (!isProbable(kept.match.by)) return [{ kind: 'put incoming', incoming: kept }]
  const { effects, sendIds } = held(application, kept)
  return [...effects, { kind: 'put incoming', incoming: { ...kept, heldSendIds: sendIds } }]
}

/** What something is thrown at costs its own mail: a person looks. */
const notFollowed = (stored: StoredIncoming, { subject, text, from }: ReadMail): Incoming => ({
  ...asRead(stored),
  from: from ?? noSender,
  subject: subject.slice(0, 300),
  text: text.slice(0, 4000),
  what: { kind: 'unclear', why: 'Something went wrong here when it was looked at.' },
  followed: ['Nothing has followed from it: a person looks.'],
  place: 'decide',
})

/**
 * Takes up a mail that was stored: all that follows from it in one transaction, with that it was taken up. What is thrown
 * at it costs that mail alone.
 */
export function takeUp(
  application: Application,
  stored: StoredIncoming,
  mail: ReadMail,
  onFault: (fault: unknown) => void,
) {
  const { store } = application
  try {
    store.transaction(() => application.apply(followsFrom(application, readIn(application, stored, mail))))
  } catch (fault) {
    if (isOfStore(fault)) throw fault
    onFault(fault)
    store.transaction(() =>
      application.apply([{ kind: 'put incoming', incoming: notFollowed(stored, mail) }]),
    )
  }
}
