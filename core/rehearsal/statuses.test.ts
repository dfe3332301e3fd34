import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import type { Booking } from '../model/booking.ts'
import type { Run } from '../model/sequence.ts'
import type { Send } from '../model/send.ts'
import { lifePlan } from './lives.ts'
import { liveThrough } from './livesPlayed.ts'
import type { World } from './world.ts'

/*
 * What a status forbids, over random lives of bookings through the real engine: no reminder after a cancellation, no
 * "how was it?" after a miss, none twice for one time (common practice, no source).
 */

const numRuns = Number(
  process.env['VORFREUDE_LIVES'] ?? (process.env['VORFREUDE_FULL'] === 'yes' ? 20_000 : 600),
)

const aheadOnly: readonly Send['purpose'][] = ['reminder', 'preparation']
const endings: readonly string[] = ['booking cancelled', 'booking missed']

/** Since when a booking has been over in a way; null: it is not. */
const endedAt = ({ status, statusAt }: Booking, ending: 'cancelled' | 'missed') =>
  status === ending ? (statusAt[ending] ?? null) : null

/** Why a message should not have gone; null: it may have. */
function fault(send: Send, run: Run, booking: Booking): string | null {
  const at = send.sentAt ?? 0
  // What begins with the ending is about it.
  if (endings.includes(run.startedOn)) return null
  const cancelledAt = endedAt(booking, 'cancelled')
  const missedAt = endedAt(booking, 'missed')
  const over = cancelledAt ?? missedAt
  if (over !== null && over < at && aheadOnly.includes(send.purpose)) return 'a reminder after the end'
  return missedAt !== null && missedAt < at && send.purpose === 'follow-up'
    ? 'a follow-up after a miss'
    : null
}

/** What went twice: one step of one run, to one person, for one time. */
function doubles(sends: readonly Send[]): readonly string[] {
  const keys = sends.map(({ runId, stepId, occurrence, anchorValue, recipientId }) =>
    [runId, stepId, occurrence, anchorValue, recipientId].join('|'),
  )
  return keys.filter((key, index) => keys.indexOf(key) < index)
}

test('no reminder after a cancellation or a miss, no follow-up after a miss, none twice for one time', () => {
  const counted = { sent: 0, over: 0 }
  fc.assert(
    fc.property(lifePlan, (plan) => {
      const seen = new Set<string>()
      const look = (world: World) => {
        const { sends, runs, bookings } = world.facts()
        const [booking] = bookings
        const sent = sends.filter(({ sentAt }) => sentAt !== null)
        for (const send of sent.filter(({ id }) => !seen.has(id))) {
          seen.add(send.id)
          const run = runs.find(({ id }) => id === send.runId)
          if (!run || !booking) continue
          counted.sent += 1
          expect([fault(send, run, booking), send.purpose, send.sentAt]).toEqual([
            null,
            send.purpose,
            send.sentAt,
          ])
        }
        if (booking && (endedAt(booking, 'cancelled') ?? endedAt(booking, 'missed')) !== null)
          counted.over += 1
        expect(doubles(sent)).toEqual([])
      }
      const world = liveThrough(plan, look)
      // And long after.
      world.advance(world.now() + 40 * 86_400_000)
      look(world)
    }),
    { numRuns, seed: 20_261_129 },
  )
  expect(counted.sent).toBeGreaterThan(numRuns / 2)
  expect(counted.over).toBeGreaterThan(numRuns / 10)
}, 600_000)
