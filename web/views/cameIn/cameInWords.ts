import type { IncomingLine } from '#core/api/incomingEndpoints.ts'
import type { IncomingKind, MatchWay } from '#core/model/incoming.ts'

/** What a mail is called that came in. */
export const kindWords: Readonly<Record<IncomingKind, string>> = {
  answer: 'Answer',
  'automatic reply': 'Automatic reply',
  'delivery report': 'Came back',
  complaint: 'Complaint',
  'invitation reply': 'Reply to an invitation',
  challenge: 'Asks who writes',
  unclear: 'Unclear',
}

/** By what it is known whose it is. */
export const matchWords: Readonly<Record<MatchWay, string>> = {
  reference: 'known by the message it is about',
  'signed address': 'known by the address it was sent to',
  sender: 'known by who wrote it',
  'sender, probably': 'several clients have this address',
  'report, probably': 'probably about this message',
  'from before, probably': 'an answer that lay in the mailbox before it was read here',
  person: 'said by a person',
  nobody: 'nobody knows whose it is',
}

/** Whose a mail is, as a list names it. */
export const whoseWords = ({
  clientName,
  from,
  match,
}: Pick<IncomingLine, 'clientName' | 'from' | 'match'>) =>
  clientName ?? (match.candidateIds.length > 0 ? `${from}, whose?` : from || 'somebody unknown')

/** What a mail is headed by: what came back by where it did not get to, all else by its own subject. */
export function titleOf({ what, subject }: Pick<IncomingLine, 'what' | 'subject'>): string {
  const address = what.kind === 'delivery report' ? what.reports[0]?.address : ''
  return address ? `Mail to ${address}` : subject || 'no subject'
}
