import { z } from 'zod'
import { bookingId } from '../model/booking.ts'
import { enquiryId } from '../model/enquiry.ts'
import { onePressMove } from '../model/onePressMove.ts'
import { moveInput, moveLetter } from '../engine/commands/moveSettings.ts'
import { seenSubject } from '../engine/commands/moveCommands.ts'
import { manyAnswer } from './announcements.ts'
import { ask, change, changed, command, commandOn, end, made, tell } from './described.ts'
import { offeredMove, startedSequence } from './moveViews.ts'

const moveView = z.object({
  move: onePressMove,
  /** What starts on it. */
  sequences: z.array(startedSequence),
  /** What goes by its name and keeps it from being called something else, such as sequences. */
  namedBy: z.array(z.string()),
})
export type MoveView = z.infer<typeof moveView>

const mostAtOnce = 200

/** The ids of bookings and enquiries with commas between them. */
const several = z
  .string()
  .max(20_000, 'At most 200 at once.')
  .transform((text) => text.split(','))
  .pipe(z.array(z.union([bookingId, enquiryId])).max(mostAtOnce, 'At most 200 at once.'))

/** Moves of one press. */
export const moveEndpoints = {
  move: ask({
    path: '/api/moves/:id',
    summary: 'A one-press move, with the sequences that start on it',
    answer: moveView,
  }),
  movesOffered: ask({
    path: '/api/moves',
    summary: 'The one-press moves that make sense at present for some bookings or enquiries',
    query: z.object({ ids: several }).strict(),
    answer: z.object({ moves: z.array(offeredMove) }),
  }),
  addMove: tell({
    path: '/api/moves',
    summary: 'New one-press move',
    body: z.object({ ...command, move: moveInput, letter: moveLetter.nullable() }).strict(),
    answer: changed,
    access: 'owner',
  }),
  changeMove: change({
    path: '/api/moves/:id',
    summary: 'Change a one-press move',
    body: z.object({ ...commandOn, move: moveInput, letter: moveLetter.nullable() }).strict(),
    answer: changed,
    access: 'owner',
  }),
  removeMove: end({
    path: '/api/moves/:id',
    summary: 'Delete a one-press move that no sequence starts on',
    body: z.object(command).strict(),
    answer: made,
    access: 'owner',
  }),
  pressMove: tell({
    path: '/api/moves/:id/press',
    summary: 'Press a one-press move on bookings or enquiries: all of it on each, or nothing',
    body: z
      .object({
        ...command,
        on: z.array(seenSubject).min(1, 'Choose something first.').max(mostAtOnce, 'At most 200 at once.'),
      })
      .strict(),
    answer: manyAnswer,
  }),
  takeMoveBack: tell({
    path: '/api/pressed-moves/:id/take-back',
    summary: 'Take back a one-press move while nothing of it has gone',
    body: z.object(command).strict(),
    answer: made,
  }),
} as const
