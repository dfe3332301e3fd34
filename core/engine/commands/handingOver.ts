import type { Dealings } from '../../model/clientMerge.ts'
import type { Subject } from '../../model/subject.ts'
import type { ClientFacts } from '../../planning/slice.ts'
import type { Effect } from '../effects.ts'

/* What is one client's as another's: how merging and taking apart see it before anything is stored. */

/** What changes hands, and how each client concerned stands with it before anything follows from that. */
export interface HandedOver {
  readonly effects: readonly Effect[]
  readonly handed: readonly ClientFacts[]
}

/** Why nothing changes hands while a message is on its way. */
export const underWay = 'A message to one of them is being sent at this moment. Try again in a minute.'

export const isSending = ({ sends }: ClientFacts) => sends.some(({ state }) => state === 'sending')

/** The same subject where it is the client herself. */
const subjectOf = (subject: Subject, of: string): Subject =>
  subject.kind === 'client' ? { kind: 'client', id: of } : subject

/** What there is of a client but for who they are and what differs for them. */
type Dealt = Omit<ClientFacts, 'client' | 'variations' | 'undelivered'>

/** Facts of one client as those of another, to whom some of the messages went. */
export function asFactsOf(
  { bookings, enquiries, invoices, runs, sends, happenings, resting }: Dealt,
  clientId: string,
  recipients: Dealings['recipients'],
): Dealt {
  const handed = <Item extends object>(item: Item) => ({ ...item, clientId })
  return {
    bookings: bookings.map(handed),
    enquiries: enquiries.map(handed),
    invoices: invoices.map(handed),
    runs: runs.map((run) => ({ ...handed(run), subject: subjectOf(run.subject, clientId) })),
    sends: sends.map((send) => ({
      ...handed(send),
      subject: subjectOf(send.subject, clientId),
      recipientId: recipients[send.recipientId] ?? send.recipientId,
    })),
    happenings,
    resting,
  }
}

/** What there is of two clients as that of one. */
export const bothOf = (one: Dealt, other: Dealt): Dealt => ({
  bookings: [...one.bookings, ...other.bookings].sort(
    (a, b) => a.startAt - b.startAt || (a.id < b.id ? -1 : 1),
  ),
  enquiries: [...one.enquiries, ...other.enquiries],
  invoices: [...one.invoices, ...other.invoices],
  runs: [...one.runs, ...other.runs],
  sends: [...one.sends, ...other.sends],
  happenings: [...one.happenings, ...other.happenings].sort((a, b) => a.at - b.at),
  resting: new Set([...one.resting, ...other.resting]),
})

/** Everything there is of a client. */
export const allOf = (
  { bookings, enquiries, invoices, runs, happenings }: ClientFacts,
  taskIds: readonly string[],
  recipients: Dealings['recipients'],
): Dealings => ({
  bookingIds: bookings.map(({ id }) => id),
  enquiryIds: enquiries.map(({ id }) => id),
  invoiceIds: invoices.map(({ id }) => id),
  runIds: runs.map(({ id }) => id),
  taskIds: [...taskIds],
  happenings: [...happenings],
  recipients,
})
