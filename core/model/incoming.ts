import { z } from 'zod'
import { personId } from './business.ts'
import { clientId } from './client.ts'
import { sendId } from './send.ts'
import { idOf, instant, isoDate, oneLine } from './values.ts'

/*
 * A mail that came in, as it was read: what kind it is, whose it is and by what that is known. The mail itself is kept
 * whole beside it, as it came.
 */

export const incomingId = idOf('im')

/** What one recipient of a delivery report is told about (RFC 3464 2.3). */
export const deliveryAction = z.enum(['failed', 'delayed', 'delivered', 'relayed', 'expanded'])
export type DeliveryAction = z.infer<typeof deliveryAction>

export const recipientReport = z
  .object({
    /** As it was written to, where the report says so; else where it ended. Empty: it names nobody. */
    address: z.string().max(320),
    action: deliveryAction,
    /** RFC 3463 status code; null: the report has none that can be read. */
    status: z
      .string()
      .regex(/^[245]\.\d{1,3}\.\d{1,3}$/)
      .nullable(),
    /** What the mail server said, on one line; empty: nothing. */
    diagnostic: z.string().max(600),
  })
  .strict()
export type RecipientReport = z.infer<typeof recipientReport>

/** What a mail turned out to be. */
export const incomingWhat = z.discriminatedUnion('kind', [
  /** Somebody wrote. It alone counts as an answer. */
  z.object({ kind: z.literal('answer') }).strict(),
  /** A program answered by itself; the day its person is back, where it says so. */
  z.object({ kind: z.literal('automatic reply'), returnsOn: isoDate.nullable() }).strict(),
  z.object({ kind: z.literal('delivery report'), reports: z.array(recipientReport).max(100) }).strict(),
  z.object({ kind: z.literal('complaint'), about: z.string().max(60) }).strict(),
  z
    .object({
      kind: z.literal('invitation reply'),
      reply: z.enum(['accepted', 'declined', 'tentative', 'other']),
      /** Of the appointment; empty: it says none. */
      uid: z.string().max(300),
    })
    .strict(),
  /** It asks the sender to prove to be a person before it lets the message through. */
  z.object({ kind: z.literal('challenge') }).strict(),
  /** Nobody can tell from here: a person looks. */
  z.object({ kind: z.literal('unclear'), why: z.string().max(200) }).strict(),
])
export type IncomingWhat = z.infer<typeof incomingWhat>
export type IncomingKind = IncomingWhat['kind']

/** By what it is known whose a mail is, the surest first. */
export const matchWays = [
  'reference',
  'signed address',
  'sender',
  'sender, probably',
  'report, probably',
  'from before, probably',
  'person',
  'nobody',
] as const
export const matchWay = z.enum(matchWays)
export type MatchWay = z.infer<typeof matchWay>

/** Ways in which a person has to look whose it is. */
export const isProbable = (way: MatchWay) =>
  way === 'sender, probably' || way === 'report, probably' || way === 'from before, probably'

export const incomingMatch = z
  .object({
    by: matchWay,
    /** Null: of nobody, or it is not sure of whom. */
    clientId: clientId.nullable(),
    /** The message it answers or reports on; null: none is known. */
    sendId: sendId.nullable(),
    /** Whose it may be, where that is not sure. */
    candidateIds: z.array(clientId).max(50),
    /** It came from an address nobody knew as the client's. */
    isOtherAddress: z.boolean(),
    /** It came from the team itself. */
    isFromTeam: z.boolean(),
  })
  .strict()
export type IncomingMatch = z.infer<typeof incomingMatch>

export const sender = z.object({ name: z.string().max(200), address: z.string().max(320) }).strict()

/** A file that came with a mail: where it stands among those, its name made harmless, its size in bytes. */
export const cameWith = z
  .object({
    name: oneLine(120),
    type: z.string().max(120),
    bytes: z.number().int().min(0),
  })
  .strict()

/** What there is to do about a mail: nothing any more, or a person has to look, under that group of the Desk. */
export const incomingPlace = z.enum(['decide', 'trouble', 'to-do'])
export type IncomingPlace = z.infer<typeof incomingPlace>

/** What of a mail is kept beside it. */
export const mostText = 40_000

export const incoming = z
  .object({
    id: incomingId,
    /** Business time at which it was taken in. */
    at: instant,
    from: sender,
    subject: z.string().max(300),
    /** What it says, the quoted mail included. */
    text: z.string().max(mostText),
    /** Whether it has an HTML part that can be shown. */
    hasHtml: z.boolean(),
    /** Its Message-ID with brackets; empty: it has none. */
    messageId: z.string().max(998),
    /** Message-IDs it refers to, the nearest first. */
    references: z.array(z.string().max(998)).max(30),
    files: z.array(cameWith).max(100),
    what: incomingWhat,
    match: incomingMatch,
    /** It lay in the mailbox before that was read for the first time: nothing has followed from it. */
    isOld: z.boolean(),
    /** Messages that wait because of it until a person has said whose it is. */
    heldSendIds: z.array(sendId).max(500),
    /** What has followed from it, in sentences. */
    followed: z.array(z.string().max(400)).max(20),
    /** Where it stands until somebody is done with it; null: nobody has to look. */
    place: incomingPlace.nullable(),
    /** When somebody was done with it; null: nobody was. */
    doneAt: instant.nullable(),
    doneBy: personId.nullable(),
    /** Whose it is to answer; null: whoever comes first. */
    personId: personId.nullable(),
    revision: z.number().int().min(1),
  })
  .strict()
export type Incoming = z.infer<typeof incoming>
