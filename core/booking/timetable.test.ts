import { describe, expect, test } from '@jest/globals'
import { standardOffer } from '../model/offer.ts'
import { exampleService, exampleSettings } from '../rehearsal/exampleBusiness.ts'
import { epochDayOf, hourMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import { timetable } from './timetable.ts'

const monday = epochDayOf('2026-05-11')
/** Thursday 14 May 2026, 07:40 in Berlin. */
const now = Date.UTC(2026, 4, 14, 5, 40)
const flight = {
  ...exampleService,
  id: 'sv_flight',
  seats: 4,
  offer: {
    ...standardOffer,
    starts: {
      kind: 'departures' as const,
      departures: [{ at: '05:20', weekdays: [4, 5], from: '2026-05-01', to: '2026-05-31' }],
      holidays: 'open' as const,
      closedDates: [],
    },
  },
}
/** 17:30 in Ponta Delgada is 19:30 in Berlin. */
const island = { ...exampleService, id: 'sv_island', placeZone: 'Atlantic/Azores' }
const settings = { ...exampleSettings(realZones), services: [exampleService, flight, island] }
const fridayAt = Date.UTC(2026, 4, 15, 3, 20)
const booked = (id: string, part: Partial<Parameters<typeof one>[1]> = {}) => one(id, part)

function one(
  id: string,
  part: Partial<{
    serviceId: string
    startAt: number
    partySize: number
    status: 'confirmed' | 'cancelled' | 'missed' | 'requested'
  }>,
) {
  const startAt = part.startAt ?? fridayAt
  const standing = { id, serviceId: 'sv_flight', partySize: 1, status: 'confirmed' as const }
  return { ...standing, startAt, endAt: startAt + 2 * hourMs, ...part }
}

const week = (bookings: readonly ReturnType<typeof one>[]) =>
  timetable(settings, bookings, { fromDay: monday, toDay: monday + 6, now })

describe('a week', () => {
  test('has its seven days, and departures still ahead with all seats free', () => {
    const days = week([])
    expect(days.map(({ day }) => day - monday)).toEqual([0, 1, 2, 3, 4, 5, 6])
    // Thursday's has left at 05:20, and nothing is booked on it: it is of no use to anybody any more.
    expect(days.map(({ lines }) => lines.length)).toEqual([0, 0, 0, 0, 1, 0, 0])
    expect(days[4]?.lines).toMatchObject([{ startAt: fridayAt, seats: 4, taken: 0, bookings: [] }])
  })

  test('gathers who leaves together; those who are cancelled or missed take no seat', () => {
    const all = [
      booked('bk_1', { partySize: 2 }),
      booked('bk_2', { status: 'requested' }),
      booked('bk_3', { status: 'cancelled', partySize: 3 }),
    ]
    const [line, ...others] = week(all)[4]?.lines ?? []
    expect(others).toEqual([])
    expect(line?.taken).toBe(3)
    expect(line?.bookings.map(({ id }) => id)).toEqual(['bk_1', 'bk_2', 'bk_3'])
  })

  test('keeps what was booked outside the departures, and what is over', () => {
    const days = week([booked('bk_1', { startAt: now - 30 * hourMs }), booked('bk_2', { startAt: now })])
    expect(days[1]?.lines.concat(days[2]?.lines ?? [])).toMatchObject([{ bookings: [{ id: 'bk_1' }] }])
    expect(days[3]?.lines).toMatchObject([{ startAt: now, bookings: [{ id: 'bk_2' }] }])
  })

  test('orders by the moment, not by the clocks of the places, and by the business’s date', () => {
    const evening = Date.UTC(2026, 4, 15, 17, 30)
    const midnight = Date.UTC(2026, 4, 14, 22, 30)
    const lines = week([
      booked('bk_late', { serviceId: 'sv_island', startAt: evening }),
      booked('bk_early', { serviceId: 'sv_lesson', startAt: evening - hourMs }),
      // 22:30 on Thursday there, half past midnight on Friday here.
      booked('bk_night', { serviceId: 'sv_island', startAt: midnight }),
    ])[4]?.lines
    expect(lines?.map(({ bookings, serviceId }) => bookings[0]?.id ?? serviceId)).toEqual([
      'bk_night',
      'sv_flight',
      'bk_early',
      'bk_late',
    ])
    expect(lines?.[0]?.placeZone).toBe('Atlantic/Azores')
  })
})
