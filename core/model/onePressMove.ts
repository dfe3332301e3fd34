import { z } from 'zod'
import { booking } from './booking.ts'
import { personId } from './business.ts'
import { condition } from './condition.ts'
import { happening } from './dealings.ts'
import { enquiry } from './enquiry.ts'
import { dateStamped, stageGiven, statusGiven, tagGiven, taskAsked } from './inHouse.ts'
import { idOf, instant, oneLine, requiredLine, severalLines } from './values.ts'

export const onePressMoveId = idOf('mv')
export const pressedMoveId = idOf('pm')

/** What a move is pressed on. */
export const moveSubject = z.enum(['booking', 'enquiry'])
export type MoveSubject = z.infer<typeof moveSubject>

/** One of the things a move does, beside the letters of the sequences that start on it. */
export const movePart = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('stage'), ...stageGiven }).strict(),
  z.object({ kind: z.literal('status'), ...statusGiven }).strict(),
  z.object({ kind: z.literal('date stamp'), ...dateStamped }).strict(),
  z.object({ kind: z.literal('tag'), ...tagGiven }).strict(),
  z.object({ kind: z.literal('task'), ...taskAsked }).strict(),
  /** An own field of the booking or enquiry; empty: it says nothing any more. */
  z
    .object({
      kind: z.literal('field'),
      field: requiredLine(200, 'Which field?'),
      value: severalLines(2000),
    })
    .strict(),
])
export type MovePart = z.infer<typeof movePart>
export type MovePartKind = MovePart['kind']

/** Which kinds of parts can be pressed on what. */
export const movePartKinds: Readonly<Record<MoveSubject, readonly MovePartKind[]>> = {
  booking: ['status', 'date stamp', 'tag', 'task', 'field'],
  enquiry: ['stage', 'date stamp', 'tag', 'task', 'field'],
}

/** Several things done in one press, under a name: “Send the agreement”. */
export const onePressMove = z
  .object({
    id: onePressMoveId,
    /** Sequences that start on it go by this. */
    name: requiredLine(80, 'A move needs a name, such as “Send the agreement”.'),
    of: moveSubject,
    /** It is offered only where this holds; null: wherever its parts are possible. */
    onlyIf: condition.nullable(),
    parts: z.array(movePart).max(12, 'At most 12 parts.'),
    isActive: z.boolean(),
    /** Grows with each change. */
    revision: z.number().int().min(1),
  })
  .strict()
export type OnePressMove = z.infer<typeof onePressMove>

const ids = z.array(z.string().min(1))

/** A move that was pressed, with what is needed to take it back. */
export const pressedMove = z
  .object({
    id: pressedMoveId,
    name: oneLine(80),
    at: instant,
    personId: personId.nullable(),
    /** What it was pressed on, as that was before, and the revision it had after. */
    was: z.discriminatedUnion('of', [
      z.object({ of: z.literal('booking'), booking }).strict(),
      z.object({ of: z.literal('enquiry'), enquiry }).strict(),
    ]),
    revision: z.number().int().min(1),
    /** What was done, a sentence each. */
    said: z.array(z.string()),
    /** Tags the client has more or less because of it. */
    tags: z.array(z.object(tagGiven).strict()),
    /** What it noted of the client, such as dates. */
    happenings: z.array(happening),
    taskIds: ids,
    /** Invoices that were made because of it. */
    invoiceIds: ids,
    /** Runs that began at that very moment before it. */
    runIdsBefore: ids,
    /** Runs that it ended, and runs that it held. */
    endedRunIds: ids,
    heldRunIds: ids,
  })
  .strict()
export type PressedMove = z.infer<typeof pressedMove>

export const subjectIdOf = ({ was }: Pick<PressedMove, 'was'>) =>
  was.of === 'booking' ? was.booking.id : was.enquiry.id
