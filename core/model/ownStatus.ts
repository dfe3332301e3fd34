import { z } from 'zod'
import { bookingStatus } from './booking.ts'
import { serviceId } from './business.ts'
import { folded } from './folded.ts'
import { idOf, instant, requiredLine } from './values.ts'

export const ownStatusId = idOf('os')

/** Words that mean something for every booking already. */
const taken: readonly string[] = [...bookingStatus.options, 'moved', 'declined', 'asked for']

/** What a status of the business's own is called: bookings, conditions and steps go by its name. */
export const ownStatusName = requiredLine(40, 'A status needs a name.').refine(
  (name) => !taken.includes(folded(name)),
  'This word means something for every booking already. Choose another one.',
)

/** A moment of a booking at which it gets a status by itself. */
const comes = z
  .object({
    hours: z
      .number()
      .int('Whole hours.')
      .min(0, 'At least 0 hours.')
      .max(24 * 365, 'At most a year.'),
    side: z.enum(['before', 'after']),
    of: z.enum(['start', 'end']),
  })
  .strict()

/** A status that the business has added. Each is a finer word for one that every booking knows. */
export const ownStatus = z
  .object({
    id: ownStatusId,
    name: ownStatusName,
    /** What it means for seats, messages and payments. */
    meaning: bookingStatus,
    /** The statuses it may follow, of both sorts by name; none given: all that its meaning may follow. */
    after: z.array(z.string().min(1).max(40)).max(40),
    /** The services whose bookings can have it; none given: all. */
    serviceIds: z.array(serviceId).max(200),
    /** Null: only a person or a step gives it. */
    comes: comes.nullable(),
    /** Since when it comes by itself that way: moments before were not meant. */
    comesSince: instant,
    isActive: z.boolean(),
    revision: z.number().int().min(1),
  })
  .strict()
export type OwnStatus = z.infer<typeof ownStatus>

export const isSameStatusName = (one: string, other: string) => folded(one) === folded(other)
