import type { IncomingMatch, IncomingWhat, MatchWay } from '../model/incoming.ts'
import { isSameAddress } from '../model/values.ts'

/*
 * Finds whose a mail is, the surest way first: by the message it refers to, by the signed address it was sent to, by who
 * wrote it. What is only probable is said to be that, and a person chooses.
 */

/** A message of this house that a mail refers to. */
export interface ReferredSend {
  readonly id: string
  /** Whose it is by now. */
  readonly clientId: string
  /** Where it went. */
  readonly address: string | null
}

/** Somebody who can be reached at the address a mail came from. */
export interface KnownSender {
  readonly clientId: string
  /** How many sequences are at work for them. */
  readonly openRuns: number
}

/** What is known here of what a mail names. */
export interface MatchFacts {
  /** Messages it refers to, the nearest first. */
  readonly referred: readonly ReferredSend[]
  /** The message whose signed address it was sent to; null: none. */
  readonly signed: ReferredSend | null
  /** The client whose appointment it replies to, or to whom an answer was written that it refers to; null: none. */
  readonly spokenTo: string | null
  readonly senders: readonly KnownSender[]
  /** Addresses of the clients it could be of by a reference, in lower case. */
  readonly addressesOf: (clientId: string) => readonly string[]
  /** The message that went last to an address named in a report; null: none. */
  readonly lastTo: ReferredSend | null
  /** Whether it came from an address of the team or of the business. */
  readonly isFromTeam: boolean
}

/** Of nobody that is known. */
export const nobodys: IncomingMatch = {
  by: 'nobody',
  clientId: null,
  sendId: null,
  candidateIds: [],
  isOtherAddress: false,
  isFromTeam: false,
}

/** Whether a report that refers to a message is about where that went; what names nobody is. */
function isAboutAddress({ reports }: Extract<IncomingWhat, { kind: 'delivery report' }>, send: ReferredSend) {
  return reports.some(
    ({ address }) => address === '' || (send.address !== null && isSameAddress(address, send.address)),
  )
}

/** A report is believed where it brings back a message of ours, and names where that went. */
function matchOfReport(
  what: Extract<IncomingWhat, { kind: 'delivery report' }>,
  { referred, signed, lastTo }: MatchFacts,
): IncomingMatch {
  const certain = [...referred, ...(signed ? [signed] : [])].find((send) => isAboutAddress(what, send))
  if (certain) {
    const by: MatchWay = referred.includes(certain) ? 'reference' : 'signed address'
    return { ...nobodys, by, clientId: certain.clientId, sendId: certain.id }
  }
  const perhaps = referred[0] ?? signed ?? lastTo
  if (!perhaps) return nobodys
  return { ...nobodys, by: 'report, probably', sendId: perhaps.id, candidateIds: [perhaps.clientId] }
}

function bySender({ senders }: MatchFacts): IncomingMatch {
  const [first, ...others] = senders
  if (!first) return nobodys
  if (others.length === 0) return { ...nobodys, by: 'sender', clientId: first.clientId }
  // Of several who share an address, the one who alone is waited for.
  const awaited = senders.filter(({ openRuns }) => openRuns > 0)
  const [only] = awaited
  if (only && awaited.length === 1 && only.openRuns === 1) {
    return { ...nobodys, by: 'sender', clientId: only.clientId }
  }
  const candidateIds = senders.map(({ clientId }) => clientId).slice(0, 50)
  return { ...nobodys, by: 'sender, probably', candidateIds }
}

/** Whose a mail is, and by what that is known. */
export function matchOf(what: IncomingWhat, from: string, facts: MatchFacts): IncomingMatch {
  if (what.kind === 'delivery report') return matchOfReport(what, facts)
  const { referred, signed, spokenTo, isFromTeam } = facts
  const isOther = (clientId: string) =>
    what.kind !== 'complaint' && !isFromTeam && !facts.addressesOf(clientId).includes(from.toLowerCase())
  const sure = (by: MatchWay, clientId: string, sendId: string | null): IncomingMatch => ({
    ...nobodys,
    by,
    clientId,
    sendId,
    isOtherAddress: isOther(clientId),
    isFromTeam,
  })
  const [answered] = referred
  if (answered) return sure('reference', answered.clientId, answered.id)
  if (signed) return sure('signed address', signed.clientId, signed.id)
  if (spokenTo !== null) return sure('reference', spokenTo, null)
  return { ...bySender(facts), isFromTeam }
}
