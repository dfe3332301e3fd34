import { z } from 'zod'
import { clientId } from './client.ts'
import { letterId, ownWords } from './letter.ts'
import { runId, subject } from './sequence.ts'
import { sequenceId, stepId, stepKind } from './step.ts'
import { purpose } from './timing.ts'
import { emailAddress, idOf, instant } from './values.ts'

export const sendId = idOf('sd')

export const sendState = z.enum([
  'expected',
  'waiting',
  'approved',
  'ready',
  'sending',
  'sent',
  'skipped',
  'dropped',
  'cancelled',
  'stale',
  'missed',
  'blocked',
  'failed',
  'bounced',
  'in doubt',
])
export type SendState = z.infer<typeof sendState>

/** What a send's state may change into. `sent` may only turn out to have bounced; what came back a person may send anew. */
export const sendTransitions: Readonly<Record<SendState, readonly SendState[]>> = {
  expected: ['waiting', 'ready', 'skipped', 'dropped', 'cancelled', 'blocked'],
  waiting: ['approved', 'ready', 'skipped', 'dropped', 'cancelled', 'stale', 'blocked', 'expected', 'missed'],
  approved: [
    'sending',
    'waiting',
    'expected',
    'skipped',
    'dropped',
    'cancelled',
    'stale',
    'blocked',
    'missed',
  ],
  ready: ['sending', 'waiting', 'expected', 'skipped', 'dropped', 'cancelled', 'blocked', 'missed'],
  sending: ['sent', 'failed', 'in doubt', 'ready', 'approved'],
  sent: ['bounced'],
  skipped: [],
  dropped: ['ready', 'waiting', 'expected', 'cancelled', 'blocked'],
  // A change that had voided it and was taken back leaves it as it was.
  cancelled: ['ready', 'waiting', 'approved', 'expected', 'dropped', 'blocked', 'missed', 'stale', 'failed'],
  stale: ['ready', 'skipped', 'cancelled'],
  missed: ['ready', 'skipped', 'cancelled'],
  blocked: ['ready', 'waiting', 'expected', 'skipped', 'dropped', 'cancelled', 'missed'],
  failed: ['ready', 'skipped', 'cancelled'],
  bounced: ['ready', 'skipped'],
  'in doubt': ['sent', 'ready', 'skipped'],
}

export function canTurn(from: SendState, to: SendState): boolean {
  return from === to || sendTransitions[from].includes(to)
}

/** States that planning may still change. In `sending` and after it the message is out of its hands. */
export const plannableStates: readonly SendState[] = ['expected', 'waiting', 'approved', 'ready', 'blocked']
/** States that end when what the message is about is gone: the plannable ones and those waiting for a person's mending. */
export const voidableStates: readonly SendState[] = [...plannableStates, 'missed', 'stale', 'failed']
/** States a dispatcher may claim. */
export const claimableStates: readonly SendState[] = ['approved', 'ready']
/** States that a person has to look at. */
export const troubleStates: readonly SendState[] = [
  'failed',
  'bounced',
  'blocked',
  'stale',
  'missed',
  'in doubt',
]

export const reason = z.object({ code: z.string(), sentence: z.string() }).strict()
export type Reason = z.infer<typeof reason>

/** One line of the answer to "why then?": a rule, the time before and after it, and why. */
export const traceLine = z
  .object({
    rule: z.string(),
    before: instant.nullable(),
    after: instant.nullable(),
    code: z.string(),
    sentence: z.string(),
  })
  .strict()
export type TraceLine = z.infer<typeof traceLine>

/** What a person has decided about one message, beside sending or skipping it. */
export const sendDecided = z
  .object({
    /** It goes then instead of at its planned time. */
    postponedTo: instant.nullable(),
    /** It waits for approval although its step goes by itself. */
    isHeldBack: z.boolean(),
    /** A line for this copy only. */
    personalLine: z.string().nullable(),
    /** Words for this copy only, instead of the letter's. */
    ownWords: ownWords.nullable(),
    /** Another letter a person chose for this copy. */
    letterId: letterId.nullable(),
    /** A person sent it: planning anew leaves it alone from then on. */
    isSentNow: z.boolean(),
    /** The state it was in when a change voided it: where that is undone, it stands so again. Null: it is not void. */
    voidedFrom: sendState.nullable().default(null),
    /** The check in the moment of sending ended it: planning the same again does not take it up. */
    isEndedAtSending: z.boolean().default(false),
  })
  .strict()
export type SendDecided = z.infer<typeof sendDecided>
/** How a message stands that nobody has decided anything about. */
export const undecided: SendDecided = {
  postponedTo: null,
  isHeldBack: false,
  personalLine: null,
  ownWords: null,
  letterId: null,
  isSentNow: false,
  voidedFrom: null,
  isEndedAtSending: false,
}

export const send = z
  .object({
    id: sendId,
    runId,
    sequenceId,
    sequenceVersion: z.number().int(),
    stepId,
    /** Index of a repeat, a year or a session; 0 where there is only one. */
    occurrence: z.number().int(),
    /** The anchor's value this send was planned for; empty for "at once" and for an unknown value. */
    anchorValue: z.string(),
    /** Who gets it: a contact, a person of the team, `copy`, `address:…`; empty for a step that writes to nobody. */
    recipientId: z.string(),
    clientId,
    subject,
    stepKind,
    /** Null for a step without a letter. */
    letterId: letterId.nullable(),
    purpose,
    state: sendState,
    wantedAt: instant.nullable(),
    notBefore: instant.nullable(),
    notAfter: instant.nullable(),
    /** When it goes; null while it cannot go. */
    dueAt: instant.nullable(),
    trace: z.array(traceLine),
    /** Why it is in a state other than on its way. */
    reason: reason.nullable(),
    address: emailAddress.nullable(),
    /** RFC 5322 Message-ID, fixed before the first attempt and the same on each. */
    messageId: z.string(),
    /** What a person has decided about it; planning anew keeps to that. */
    decision: sendDecided,
    /** Values of the letter's facts as they were approved; null: not approved. */
    approvedFacts: z.record(z.string(), z.string()).nullable(),
    attempts: z.number().int().min(0),
    sentAt: instant.nullable(),
    /** When the present state was entered. */
    stateSince: instant,
  })
  .strict()
export type Send = z.infer<typeof send>

/** The parts that name one send for ever: a second row with the same key cannot exist. */
export function sendKey(
  of: Pick<Send, 'runId' | 'stepId' | 'occurrence' | 'anchorValue' | 'recipientId'>,
): string {
  return [of.runId, of.stepId, of.occurrence, of.anchorValue, of.recipientId].join('|')
}
