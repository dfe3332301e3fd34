import { z } from 'zod'
import { sendId } from '../model/send.ts'
import { stepKind } from '../model/step.ts'
import { instant } from '../model/values.ts'
import { purpose } from '../model/timing.ts'

/** What an act would change for one message. */
export const consequence = z.object({
  /** What names the message, to hold it back. */
  name: z.string(),
  /** The messages it is about, before and after; one that is only planned by it has an id that is made up. */
  sendIds: z.array(sendId),
  kind: z.enum([
    'added',
    'dropped',
    'moved',
    'again',
    'changed recipient',
    'changed text',
    'changed approval',
    'not going',
    'held back',
    'released',
  ]),
  letterName: z.string(),
  stepKind,
  purpose,
  beforeAt: instant.nullable(),
  afterAt: instant.nullable(),
  /** What it waits for where it goes and has no time yet; null: it has one. */
  awaits: z.string().nullable(),
  /** Where its step repeats: when the next ones come, if each goes at its time and nothing ends it before. */
  further: z.array(instant),
  /** Whether it waits for approval then. */
  waits: z.boolean(),
  /** Why it does not go; null: it goes. */
  reason: z.string().nullable(),
  /** Who gets it: name and address, as it stands then. */
  recipientName: z.string(),
  address: z.string().nullable(),
})
export type Consequence = z.infer<typeof consequence>

const consequenceOfClient = consequence.extend({ clientName: z.string() })
export type ConsequenceOfClient = z.infer<typeof consequenceOfClient>

/** One of many things an act cannot be done with, and why. */
export const refusedLine = z.object({ id: z.string(), clientName: z.string(), sentence: z.string() })
export type RefusedLine = z.infer<typeof refusedLine>

/** What a person should know who gives a booking its time; it can be done all the same. */
export const caution = z.object({ clientName: z.string(), sentence: z.string() })
export type Caution = z.infer<typeof caution>

/** What became of several things one act was asked of. */
export const manyAnswer = z.object({ done: z.number().int(), refused: z.array(refusedLine) })

/** What an act would do, under the id by which the act can say that this was seen. */
export const announcement = z.object({
  announcementId: z.string(),
  consequences: z.array(consequenceOfClient),
  /** Changes beyond those listed. */
  more: z.number().int(),
  /** Clients it concerns that were not looked at one by one. */
  uncounted: z.number().int(),
  /** What of many things it would not be done with. */
  refused: z.array(refusedLine),
  cautions: z.array(caution),
})
export type Announcement = z.infer<typeof announcement>
