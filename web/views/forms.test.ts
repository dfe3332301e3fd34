import { describe, expect, test } from '@jest/globals'
import { realZones } from '#core/time/realZones.ts'
import { exampleClient } from '#core/rehearsal/exampleBusiness.ts'
import { endFor, localTimes } from '../parts/times.ts'
import { draftOf, readClientDraft } from './clients/clientDraft.ts'
import { typedYearlyDate, yearlyDateWords } from './clients/yearlyDate.ts'
import { readDraft, type BookingDraft } from './bookings/bookingDraft.ts'

describe('times of a form', () => {
  test('an end before the start is on the next day', () => {
    expect(localTimes({ date: '2026-05-16', start: '22:00', end: '01:00' })).toEqual({
      startLocal: '2026-05-16T22:00',
      endLocal: '2026-05-17T01:00',
    })
  })

  test('are nothing while something is missing', () => {
    expect(localTimes({ date: null, start: '22:00', end: '23:00' })).toBeNull()
    expect(localTimes({ date: '2026-05-16', start: '', end: '23:00' })).toBeNull()
  })

  test('the end follows the start by elapsed time, also over a clock change', () => {
    const berlin = realZones.zone('Europe/Berlin')
    expect(endFor(berlin, '2026-05-16', '05:20', 210)).toBe('08:50')
    expect(endFor(berlin, '2026-03-29', '01:00', 120)).toBe('04:00')
  })
})

describe('the draft of a booking', () => {
  const draft: BookingDraft = {
    clientId: 'cl_1',
    serviceId: 'sv_1',
    times: { date: '2026-05-16', start: '05:20', end: '08:50' },
    partySize: 2,
    status: 'confirmed',
    personInChargeId: null,
  }

  test('says what it asks for', () => {
    expect(readDraft(draft)).toMatchObject({ input: { startLocal: '2026-05-16T05:20', partySize: 2 } })
  })

  test('names every missing field', () => {
    const read = readDraft({
      ...draft,
      clientId: null,
      partySize: '',
      times: { date: null, start: '', end: '' },
    })
    expect('errors' in read && Object.keys(read.errors)).toEqual([
      'clientId',
      'startLocal',
      'endLocal',
      'partySize',
    ])
  })
})

describe('the draft of a client', () => {
  test('of a known client says what it is', () => {
    const read = readClientDraft(draftOf(exampleClient))
    expect('input' in read && read.input.contacts[0]?.email).toBe('enno@brackwater.example')
  })

  test('without a name takes the one of its primary contact; an empty address is none', () => {
    const draft = draftOf(null)
    const [contact] = draft.contacts
    if (!contact) throw new Error('no contact')
    const read = readClientDraft({ ...draft, contacts: [{ ...contact, firstName: 'Irmela', email: ' ' }] })
    expect(read).toMatchObject({ input: { name: 'Irmela', contacts: [{ email: null }] } })
  })

  test('names the field at fault', () => {
    const draft = draftOf(exampleClient)
    const read = readClientDraft({ ...draft, namedDates: [{ label: '', day: '40.13.' }] })
    expect('errors' in read && Object.keys(read.errors)).toEqual(['namedDates.0.label', 'namedDates.0.day'])
  })
})

describe('a yearly date', () => {
  test.each([
    ['29.2.1992', '02-29', 1992],
    ['29.2.', '02-29', null],
    ['29/2/1992', '02-29', 1992],
    ['4/7', '07-04', null],
    ['02-29', '02-29', null],
    ['1992-02-29', '02-29', 1992],
    ['29 February 1992', '02-29', 1992],
    ['29 Feb', '02-29', null],
    ['Feb 29', '02-29', null],
    ['1. März 1980', '03-01', 1980],
  ])('%s is read as people mean it', (typed, monthDay, year) => {
    expect(typedYearlyDate(typed)).toEqual({ monthDay, year })
  })

  test.each(['', 'soon', 'birthday', '1992', 'May', 'on 29 Feb we met'])('“%s” is none', (typed) => {
    expect(typedYearlyDate(typed)).toBeNull()
  })

  test('is shown as it can be typed', () => {
    for (const date of [
      { monthDay: '02-29', year: 1992 },
      { monthDay: '12-01', year: null },
    ])
      expect(typedYearlyDate(yearlyDateWords(date))).toEqual(date)
    expect(yearlyDateWords({ monthDay: '02-29', year: 1992 })).toBe('29 February 1992')
  })
})
