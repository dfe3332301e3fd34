import { describe, expect, test } from '@jest/globals'
import { standardOffer } from '../model/offer.ts'
import type { OpeningHours } from '../model/openingHours.ts'
import { examplePerson, exampleService, exampleSettings } from '../rehearsal/exampleBusiness.ts'
import { hourMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import { cautionsOf, isPlacedAnew } from './cautions.ts'
import { diaryOf, type Taken } from './freeTimes.ts'

const departures = [{ at: '05:20', weekdays: [4, 5], from: '2026-05-01', to: '2026-05-31' }]
const flight = {
  ...exampleService,
  id: 'sv_flight',
  name: 'Flight',
  seats: 4,
  durationMinutes: 120,
  offer: {
    ...standardOffer,
    isShared: true,
    bufferBeforeMinutes: 60,
    bufferAfterMinutes: 0,
    starts: { kind: 'departures' as const, departures, holidays: 'open' as const, closedDates: [] },
  },
}
const onThursdays: OpeningHours = {
  weekly: [1, 2, 3, 4, 5, 6, 7].map((day) => (day === 4 ? [{ from: '04:00', to: '10:00' }] : [])),
  holidays: 'open',
  closedDates: [],
}
const bram = { ...examplePerson, id: 'pe_bram', name: 'Bram Oakhollow', hours: onThursdays }
const settings = { ...exampleSettings(realZones), services: [exampleService, flight], people: [bram] }

/** Thursday 14 May 2026, 05:20 in Berlin. */
const departs = Date.UTC(2026, 4, 14, 3, 20)
const placed = (startAt = departs, personInChargeId: string | null = null) => ({
  serviceId: flight.id,
  startAt,
  endAt: startAt + 2 * hourMs,
  personInChargeId,
  status: 'confirmed' as const,
})
const taken = (one: ReturnType<typeof placed>): Taken => ({ ...one, partySize: 2 })
const said = (booking: Parameters<typeof cautionsOf>[1], ...others: Taken[]) =>
  cautionsOf(settings, booking, diaryOf(settings, others))

describe('what a person should know who gives a booking its time', () => {
  test('nothing where clients could choose it, also beside others of its departure', () => {
    expect(said(placed())).toEqual([])
    expect(said(placed(departs, bram.id), taken(placed(departs, bram.id)))).toEqual([])
  })

  test('a time that is not offered, on another day or of another length', () => {
    const unoffered = ['Flight is not offered at this time: clients could not choose it.']
    expect(said(placed(departs + hourMs))).toEqual(unoffered)
    expect(said(placed(departs - 24 * hourMs))).toEqual(unoffered)
    expect(said({ ...placed(), endAt: departs + 3 * hourMs })).toEqual(unoffered)
  })

  test('somebody who is not at work then', () => {
    expect(said(placed(departs + 24 * hourMs, bram.id))).toEqual(['Bram Oakhollow is not at work then.'])
    const leaving = { ...settings, people: [{ ...bram, hours: null, isActive: false }] }
    expect(cautionsOf(leaving, placed(departs, bram.id), diaryOf(leaving, []))).toEqual([
      'Bram Oakhollow is not at work then.',
    ])
  })

  test('somebody who has something else then', () => {
    const lesson = { ...taken(placed(departs + hourMs, bram.id)), serviceId: exampleService.id }
    expect(said(placed(departs, bram.id), lesson)).toEqual([
      `Bram Oakhollow has ${exampleService.name} from 06:20 to 08:20 then.`,
    ])
    expect(said(placed(), lesson)).toEqual([])
  })

  test('another of the service with too little time between', () => {
    const before = { ...taken(placed(departs - 2 * hourMs)), endAt: departs - hourMs / 2 }
    expect(said(placed(), before)).toEqual([
      'In the way, with the time around it: Flight from 03:20 to 04:50.',
    ])
    expect(said(placed(), { ...before, endAt: departs - hourMs })).toEqual([])
  })

  test('nothing of what is over or cancelled', () => {
    expect(said({ ...placed(departs + hourMs), status: 'cancelled' as const })).toEqual([])
  })

  test('a booking keeps its place where only what is said of it changes', () => {
    expect(isPlacedAnew(placed(), { ...placed(), status: 'requested' })).toBe(false)
    expect(isPlacedAnew(placed(), placed(departs, bram.id))).toBe(true)
    expect(isPlacedAnew(null, placed())).toBe(true)
  })
})
