import { expect, test } from '@jest/globals'
import { makeBooking } from '../engine/commands/bookingCommands.ts'
import { realZones } from '../time/realZones.ts'
import { at, exampleBookingInput, exampleClient, exampleSettings } from './exampleBusiness.ts'
import { letterMoment } from './letterMoment.ts'
import { createWorld } from './world.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const now = moment('2026-05-14 07:40')

/** A booked client, and the reminder of the evening before. */
function booked() {
  const world = createWorld(exampleSettings(realZones), exampleClient, now)
  world.carryOut(makeBooking(world.slice(), exampleBookingInput, () => 0, world.context()))
  const reminder = world.facts().sends.find(({ stepId }) => stepId === 'st_evening')
  const booking = world.facts().bookings[0]
  if (!reminder?.letterId || !booking) throw new Error('nothing is planned')
  return { slice: world.slice(), letterId: reminder.letterId, bookingId: booking.id, dueAt: reminder.dueAt }
}

test('a letter is seen at the moment it is planned for', () => {
  const { slice, letterId, bookingId, dueAt } = booked()
  expect(dueAt).not.toBeNull()
  expect(letterMoment(slice, letterId, bookingId, now)).toBe(dueAt)
})

test('where nothing is planned, at the moment its sequence would send it', () => {
  const { slice, letterId, bookingId, dueAt } = booked()
  const unplanned = { ...slice, facts: { ...slice.facts, sends: [], runs: [] } }
  const other = unplanned.facts.bookings.map((one) => ({ ...one, madeAt: now }))
  const found = letterMoment(
    { ...unplanned, facts: { ...unplanned.facts, bookings: other } },
    letterId,
    bookingId,
    now,
  )
  expect(found).toBe(dueAt)
})

test('a letter that no sequence sends has no moment', () => {
  const { slice, bookingId } = booked()
  expect(letterMoment(slice, 'lt_other', bookingId, now)).toBeNull()
  expect(letterMoment(slice, 'lt_other', 'bk_gone', now)).toBeNull()
})
