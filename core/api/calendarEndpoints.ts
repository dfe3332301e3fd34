import { z } from 'zod'
import { longestMs, lookStates } from '../booking/broughtIn.ts'
import { serviceId } from '../model/business.ts'
import { emailAddress, instant, oneLine, requiredLine } from '../model/values.ts'
import { command, tell } from './described.ts'

/** An entry of a calendar that is to become a booking. */
export const bringInEntry = z
  .object({
    key: z.string().min(1).max(400),
    startAt: instant,
    endAt: instant,
    serviceId,
    name: requiredLine(120, 'Who comes?'),
    email: emailAddress.nullable(),
    phone: oneLine(60).default(''),
    /** How many come. */
    partySize: z.number().int().min(1).max(1_000_000).default(1),
  })
  .strict()
const possible = bringInEntry.refine(
  ({ startAt, endAt }) => endAt > startAt && endAt - startAt <= longestMs,
  'A booking ends after its start, and takes at most 14 days.',
)
export type BringInEntry = z.infer<typeof bringInEntry>

const calendarLook = bringInEntry.extend({
  line: z.number().int(),
  title: z.string(),
  state: z.enum(lookStates),
  /** Why it is no new one; empty: it is. */
  why: z.string(),
})
export type CalendarLook = z.infer<typeof calendarLook>

/** What would come of a file. */
export const looked = z.object({
  entries: z.array(calendarLook),
  /** The file has more entries than are read. */
  isCut: z.boolean(),
})

/** Calendars of other programs. */
export const calendarEndpoints = {
  lookAtCalendar: tell({
    path: '/api/calendar/look',
    summary: 'What the entries of an iCalendar file would become; nothing is done',
    body: z
      .object({
        file: z.string().max(6_000_000, 'At most 6 MB.'),
        /** Of entries whose title names no service. */
        serviceId,
      })
      .strict(),
    answer: looked,
    isRecorded: false,
  }),
  bringIn: tell({
    path: '/api/calendar/entries',
    summary: 'Some entries of a calendar become bookings; nothing starts because of them',
    body: z
      .object({ ...command, entries: z.array(possible).min(1, 'Choose entries first.').max(50) })
      .strict(),
    answer: z.object({
      done: z.number().int(),
      refused: z.array(z.object({ key: z.string(), name: z.string(), sentence: z.string() })),
    }),
  }),
} as const
