import { describe, expect, test } from '@jest/globals'
import { exampleFacts } from '../rehearsal/exampleFacts.ts'
import { at, exampleBooking } from '../rehearsal/exampleBusiness.ts'
import { realZones } from '../time/realZones.ts'
import { bookingRows, timeAtPlace } from './bookingWords.ts'
import { fieldValue } from './fields.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const zone = realZones.zone('Europe/Berlin')
const seenFrom = (name: string | null) => ({
  zone,
  readerZone: name === null ? null : realZones.zone(name),
})

describe('whose time it is', () => {
  test.each([
    [null, 'en', '05:20'],
    ['Europe/Berlin', 'en', '05:20'],
    // Another name for clocks that show the same.
    ['Europe/Vienna', 'en', '05:20'],
    ['Europe/London', 'en', '05:20 (Berlin time)'],
    ['America/New_York', 'de', '05:20 (Ortszeit Berlin)'],
  ] as const)('seen from %s, in %s', (name, language, expected) => {
    expect(timeAtPlace(seenFrom(name), moment('2026-05-16 05:20'), language)).toBe(expected)
  })

  test('a zone of two words is said as people say it', () => {
    const there = { zone: realZones.zone('America/New_York'), readerZone: zone }
    expect(timeAtPlace(there, Date.UTC(2026, 4, 16, 12), 'en')).toBe('08:00 (New York time)')
  })

  test('where the clocks differ at the event only, it is said of the event', () => {
    // In 2026 New York changes on 8 March, Berlin on 29 March; Casablanca keeps +1 outside Ramadan (tz database).
    const casablanca = seenFrom('Africa/Casablanca')
    expect(timeAtPlace(casablanca, moment('2026-01-16 05:20'), 'en')).toBe('05:20')
    expect(timeAtPlace(casablanca, moment('2026-06-16 05:20'), 'en')).toBe('05:20 (Berlin time)')
  })
})

test('the facts say the day of an end over midnight, and whose time it is', () => {
  const times = { startAt: moment('2026-05-16 22:00'), endAt: moment('2026-05-17 01:00'), partySize: 2 }
  const rows = bookingRows(times, { name: 'Night ride', place: '' }, seenFrom('Europe/London'), 'en')
  expect(rows).toEqual([
    { label: 'What', value: 'Night ride' },
    {
      label: 'When',
      value: 'Saturday 16 May 2026, 22:00 to Sunday 17 May 2026, 01:00 (Berlin time)',
    },
    { label: 'For', value: '2 people' },
  ])
})

test('the old time of a moved booking is there until the client was told the new one', () => {
  const booking = exampleBooking(moment('2026-05-16 19:00'), moment('2026-05-14 07:40'))
  const old = { ...booking.told, startAt: moment('2026-05-15 18:00'), endAt: moment('2026-05-15 20:00') }
  const of = (told: typeof booking.told) => {
    const facts = { ...exampleFacts, booking: { ...booking, told } }
    return [fieldValue('booking.oldDate', facts, 'de'), fieldValue('booking.oldTime', facts, 'de')]
  }
  expect(of(old)).toEqual(['Freitag, 15. Mai 2026', '18:00'])
  expect(of(booking.told)).toEqual(['', ''])
})
