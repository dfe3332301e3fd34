import { z } from 'zod'
import { clientId } from './client.ts'
import { approvedWords, letterId, ownWords } from './letter.ts'
import { runId } from './sequence.ts'
import { subject } from './subject.ts'
import { sendStates } from './sendState.ts'
import { sequenceId, stepId, stepKind } from './step.ts'
import { purpose } from './timing.ts'
import { emailAddress, idOf, instant } from './values.ts'

export const sendId = idOf('sd')

export const sendState = z.enum(sendStates)

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
    /** The letter's words as they were approved; null: not approved, or it has no letter. */
    approvedWords: approvedWords.nullable().default(null),
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
