import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { at, exampleService, exampleSettings } from '../rehearsal/exampleBusiness.ts'
import { minuteMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import { bookingFields, guessBookingColumns, type BookingField } from './bookingFields.ts'
import { readBookingRow, readTime, type BookingReading } from './bookingRows.ts'
import type { DateOrder } from './dates.ts'

const settings = {
  ...exampleSettings(realZones),
  services: [
    exampleService,
    { ...exampleService, id: 'sv_away', name: 'Far away', placeZone: 'Europe/London' },
  ],
}

function read(cells: Readonly<Partial<Record<BookingField, string>>>, dateOrder: DateOrder = 'day first') {
  const matching = [...bookingFields]
  const reading: BookingReading = { matching, dateOrder, settings, serviceId: exampleService.id }
  return readBookingRow({ line: 7, cells: matching.map((field) => cells[field] ?? '') }, reading)
}
const whole = { name: 'Oona Siltanen', email: 'oona@mail.example', date: '2026-06-01', time: '10:00' }
const moment = (local: string, zone = 'Europe/Berlin') => at(realZones, zone, local)

describe('a row of a table of bookings', () => {
  test.each([
    [{ date: '2026-06-01', time: '10:00' }, '2026-06-01 10:00'],
    [{ date: '01.06.2026', time: '10.00 Uhr' }, '2026-06-01 10:00'],
    [{ date: '1.6.2026 10:00' }, '2026-06-01 10:00'],
    [{ date: '2026-06-01T10:00:00' }, '2026-06-01 10:00'],
    [{ date: '01/06/2026', time: '2:30 pm' }, '2026-06-01 14:30'],
    [{ date: '2026-06-01 09:00', time: '10:00' }, '2026-06-01 10:00'],
  ])('%j begins at %s', (cells, local) => {
    expect(read({ name: 'Oona', ...cells })).toMatchObject({ fault: null, startAt: moment(local) })
  })

  test('is on the clock of the place of its service, and with the month first where that was said', () => {
    expect(read({ ...whole, service: 'far AWAY' })).toMatchObject({
      serviceId: 'sv_away',
      startAt: moment('2026-06-01 10:00', 'Europe/London'),
    })
    expect(read({ ...whole, date: '06/01/2026' }, 'month first').startAt).toBe(moment('2026-06-01 10:00'))
  })

  test('ends by a time, by a date with a time, after so many minutes, or as the service says', () => {
    expect(read({ ...whole, end: '12:30' }).endAt).toBe(moment('2026-06-01 12:30'))
    expect(read({ ...whole, end: '02.06.2026 01:00' }).endAt).toBe(moment('2026-06-02 01:00'))
    expect(read({ ...whole, minutes: '90' }).endAt).toBe(moment('2026-06-01 10:00') + 90 * minuteMs)
    expect(read(whole).endAt).toBeNull()
  })

  test('says who comes, how many, and whether it is cancelled', () => {
    expect(read({ ...whole, partySize: '4', phone: '030 5550', status: 'Storniert' })).toMatchObject({
      attendees: [{ name: 'Oona Siltanen', email: 'oona@mail.example' }],
      partySize: 4,
      phone: '030 5550',
      isCancelled: true,
    })
    expect(read({ ...whole, email: '', status: 'Bestätigt' })).toMatchObject({
      attendees: [],
      isCancelled: false,
    })
  })

  test('says all that is wrong with it at once, and nothing is made up', () => {
    const { fault } = read({
      email: 'oona at mail',
      service: 'Balloon',
      date: '31.02.2026',
      partySize: 'two',
      status: 'perhaps',
    })
    expect(fault).toBe(
      [
        'There is no service “Balloon”.',
        '“31.02.2026” is no date. It looks like 2026-05-14 or 14.5.2026.',
        '“oona at mail” is not an e-mail address.',
        '“two” is no number of people.',
        '“perhaps” is neither confirmed nor cancelled.',
      ].join(' '),
    )
    expect(read({ name: 'Oona', date: '2026-06-01' }).fault).toBe('There is no time at which it begins.')
    expect(read({ date: '2026-06-01', time: '25:00' }).fault).toBe(
      '“25:00” is no time of day. It looks like 09:30. There is neither a name nor an address.',
    )
    expect(read({ ...whole, minutes: '0' }).fault).toMatch('no number of minutes')
    expect(read({ ...whole, end: 'late' }).fault).toMatch('“late” is no time of day')
  })

  test('is known again by its number, else by who comes, when and for what', () => {
    expect(read({ ...whole, number: 'A-17' }).key).toBe(read({ ...whole, number: 'A-17', time: '11:00' }).key)
    expect(read(whole).key).toBe(read({ ...whole, name: 'O. Siltanen' }).key)
    expect(read(whole).key).not.toBe(read({ ...whole, time: '11:00' }).key)
  })
})

test('columns of bookings are known by their heads, in two languages, and by what stands in them', () => {
  expect(
    guessBookingColumns(['Datum', 'Uhrzeit', 'Kunde', 'E-Mail', 'Leistung', 'Personen', 'Notiz'], []),
  ).toEqual(['date', 'time', 'name', 'email', 'service', 'partySize', null])
  expect(guessBookingColumns(['a', 'b', 'c'], [['2026-06-01 10:00', 'oona@mail.example', 'x']])).toEqual([
    'date',
    'email',
    null,
  ])
})

test('a time of day is read as it is written in either way, and nothing else is one', () => {
  const minutes = fc.integer({ min: 0, max: 24 * 60 - 1 })
  fc.assert(
    fc.property(minutes, (all) => {
      const [hour, minute] = [Math.floor(all / 60), String(all % 60).padStart(2, '0')]
      const half = hour < 12 ? 'am' : 'pm'
      for (const text of [
        `${hour}:${minute}`,
        `${String(hour).padStart(2, '0')}:${minute}:59`,
        `${hour}.${minute}`,
        `${String(hour).padStart(2, '0')}${minute}`,
        `${hour % 12 === 0 ? 12 : hour % 12}:${minute} ${half}`,
      ])
        expect([text, readTime(text)]).toEqual([text, all])
    }),
  )
  for (const text of ['', '24:00', '9:60', '13 pm', '0 am', 'noon', '9:5', '-1:00', '1e1']) {
    expect([text, readTime(text)]).toEqual([text, null])
  }
})
