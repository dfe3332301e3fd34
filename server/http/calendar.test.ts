import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import request from 'supertest'
import type { CalendarLook } from '#core/api/calendarEndpoints.ts'
import { exampleService } from '#core/rehearsal/exampleBusiness.ts'
import { putService } from '../db/settingsStore.ts'
import { openSignedIn, type SignedIn } from '../testing/signedIn.ts'

/*
 * Calendars of other programs, looked at and brought in (RFC 5545; the files are written by hand after its grammar).
 */

let running: SignedIn['running']
let app: SignedIn['app']
let session: SignedIn['session']
beforeEach(async () => {
  ;({ running, app, session } = await openSignedIn())
})
afterEach(() => running.end())

const lines = (...all: string[]) => all.join('\r\n') + '\r\n'
const event = (...all: string[]) => lines('BEGIN:VEVENT', ...all, 'END:VEVENT')
const calendar = (...events: string[]) =>
  `${lines('BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Somebody//EN')}${events.join('')}${lines('END:VCALENDAR')}`

const post = (path: string, body: object) =>
  request(app).post(path).set('Cookie', session.cookie).set('X-CSRF-Token', session.csrf).send(body)

async function look(file: string) {
  const answer = await post('/api/calendar/look', { file, serviceId: exampleService.id })
  return { status: answer.status, body: answer.body as { entries: CalendarLook[]; detail: string } }
}

let commands = 0
async function bringIn(entries: readonly CalendarLook[]) {
  commands += 1
  const plain = entries.map(({ key, startAt, endAt, serviceId, name, email, phone, partySize }) => ({
    phone,
    partySize,
    key,
    startAt,
    endAt,
    serviceId,
    name,
    email,
  }))
  const commandId = `00000000-0000-4000-8000-${String(commands).padStart(12, '0')}`
  const answer = await post('/api/calendar/entries', { commandId, entries: plain })
  expect(answer.status).toBe(200)
  return answer.body as { done: number; refused: { name: string; sentence: string }[] }
}

const rows = () => running.application.store.statements.all('listBookings', { from: 0, to: 9e15 })
function followed(): readonly number[] {
  const ids = [...new Set(rows().map(({ clientId }) => String(clientId)))]
  const all = ids.flatMap((id) => running.application.sliceOf(id, 'everything') ?? [])
  const of = (what: 'runs' | 'sends' | 'invoices') =>
    all.reduce((sum, { facts }) => sum + facts[what].length, 0)
  return [of('runs'), of('sends'), of('invoices')]
}

const oona = event(
  'UID:oona@elsewhere.example',
  'DTSTART;TZID=Europe/Berlin:20260601T100000',
  'DTEND;TZID=Europe/Berlin:20260601T120000',
  'SUMMARY:Kite lesson with Oona',
  'ORGANIZER:mailto:hello@kiteworks.example',
  'ATTENDEE;CN=Kiteworks:mailto:hello@kiteworks.example',
  'ATTENDEE;CN="Siltanen, Oona":mailto:oona@mail.example',
)

describe('a calendar of another program', () => {
  test('is looked at: who comes, when by the clock of the place, and nothing is done', async () => {
    const { body } = await look(calendar(oona))
    expect(body.entries).toEqual([
      {
        line: 4,
        phone: '',
        partySize: 1,
        key: 'oona@elsewhere.example',
        title: 'Kite lesson with Oona',
        startAt: Date.UTC(2026, 5, 1, 8),
        endAt: Date.UTC(2026, 5, 1, 10),
        serviceId: exampleService.id,
        name: 'Oona Siltanen',
        email: 'oona@mail.example',
        state: 'new',
        why: '',
      },
    ])
    expect(rows()).toEqual([])
  })

  test('brought in is bookings of known and new clients, and starts nothing: no run, no message, no invoice', async () => {
    const file = calendar(
      oona,
      event('UID:2', 'DTSTART:20260602T080000Z', 'DURATION:PT1H', 'SUMMARY:Bo Lindt'),
      event('UID:3', 'DTSTART:20260603T100000', 'DTEND:20260603T110000', 'SUMMARY:bo lindt'),
    )
    const { body } = await look(file)
    expect(await bringIn(body.entries)).toEqual({ done: 3, refused: [] })
    expect(rows().map(({ clientName, startAt }) => [clientName, startAt])).toEqual([
      ['Oona Siltanen', Date.UTC(2026, 5, 1, 8)],
      ['Bo Lindt', Date.UTC(2026, 5, 2, 8)],
      // Without a zone it is on the clock of the business.
      ['Bo Lindt', Date.UTC(2026, 5, 3, 8)],
    ])
    expect(followed()).toEqual([0, 0, 0])
    // Brought in twice it is still one.
    expect((await bringIn(body.entries.slice(0, 1))).done).toBe(1)
    expect((await look(file)).body.entries.map(({ state, why }) => [state, why])).toEqual(
      Array.from({ length: 3 }, () => ['known', 'It has been brought in before.']),
    )
    expect(rows()).toHaveLength(3)
  })

  test('says what is known, what overlaps, what is over and what cannot be a booking, each with its line', async () => {
    const one = { ...exampleService, seats: 1, offer: { ...exampleService.offer, isShared: false } }
    putService(running.application.store.statements, one)
    running.application.settings.forget()
    await bringIn((await look(calendar(oona))).body.entries)
    const { body } = await look(
      calendar(
        event('UID:a', 'DTSTART;TZID=Europe/Berlin:20260601T110000', 'DURATION:PT1H', 'SUMMARY:Cy'),
        event('UID:b', 'DTSTART:20200601T110000Z', 'DURATION:PT1H', 'SUMMARY:Long ago'),
        event('UID:c', 'DTSTART;VALUE=DATE:20260605', 'SUMMARY:All day'),
        event('UID:d', 'DTSTART:20260606T110000Z', 'DTEND:20260606T100000Z', 'SUMMARY:Back'),
        event('UID:e', 'DTSTART;TZID=Mars/Olympus:20260606T110000', 'SUMMARY:Mars'),
        event('UID:f', 'DTSTART:2026junk', 'SUMMARY:Junk'),
        event('UID:g', 'DTSTART:20260607T110000Z', 'STATUS:CANCELLED', 'SUMMARY:Off'),
        event('UID:h', 'SUMMARY:Some day'),
        event('UID:a', 'DTSTART:20260608T110000Z', 'DURATION:PT1H', 'SUMMARY:Twice'),
        event('UID:i', 'DTSTART:20260601T080000Z', 'SUMMARY:Oona Siltanen'),
        event('UID:j', 'DTSTART:20260610T110000Z', 'DTEND:20260710T110000Z', 'SUMMARY:A month'),
      ),
    )
    expect(body.entries.map(({ state, why }) => `${state}: ${why}`)).toEqual([
      'overlaps: At that time: Oona Siltanen, Kite lesson.',
      'over: It has begun already: only what is ahead is brought in.',
      'unreadable: Line 16: an all-day entry has no time at which a booking could begin.',
      'unreadable: Line 21: it ends before it begins.',
      'unreadable: Line 27: there is no time zone named Mars/Olympus, and the file does not say what it is.',
      expect.stringMatching(/^unreadable: Line 32: it cannot be read: /),
      'cancelled: It is cancelled in the calendar.',
      'unreadable: Line 43: it says no start.',
      'known: It stands in the file twice.',
      'known: The same is booked here already.',
      'unreadable: Line 58: a booking takes at most 14 days.',
    ])
    // What overlaps is refused where there is no room, and says so.
    expect(await bringIn(body.entries.slice(0, 1))).toMatchObject({
      done: 0,
      refused: [{ name: 'Cy', sentence: 'Kite lesson has no seats left at that time.' }],
    })
  })

  test('repeats are read one by one, by the zone the file brings along, with single times that were moved', async () => {
    const zone = lines(
      ...['BEGIN:VTIMEZONE', 'TZID:Our clock', 'BEGIN:STANDARD', 'DTSTART:19700101T000000'],
      ...['TZOFFSETFROM:+0300', 'TZOFFSETTO:+0300', 'END:STANDARD', 'END:VTIMEZONE'],
    )
    const weekly = event(
      'UID:w',
      'DTSTART;TZID=Our clock:20260601T100000',
      'DURATION:PT1H',
      'RRULE:FREQ=WEEKLY;COUNT=4',
      'EXDATE;TZID=Our clock:20260608T100000',
      'SUMMARY:Group',
    )
    const moved = event(
      'UID:w',
      'RECURRENCE-ID;TZID=Our clock:20260615T100000',
      'DTSTART;TZID=Our clock:20260616T120000',
      'DURATION:PT1H',
      'SUMMARY:Group',
    )
    const { body } = await look(calendar(zone, weekly, moved))
    expect(body.entries.map(({ startAt }) => new Date(startAt).toISOString()).sort()).toEqual([
      '2026-06-01T07:00:00.000Z',
      '2026-06-16T09:00:00.000Z',
      '2026-06-22T07:00:00.000Z',
    ])
  })

  test.each([
    ['nothing', '', 'Line 1: the file is empty.'],
    ['another kind of file', 'name,start\r\nBo,10', 'Line 1: a calendar begins with BEGIN:VCALENDAR.'],
    [
      'a line that is none',
      calendar(event('UID:1', 'nonsense')),
      'Line 6: “nonsense” is no line of a calendar',
    ],
    [
      'an end of something else',
      'BEGIN:VCALENDAR\nBEGIN:VEVENT\nEND:VTODO\n',
      'Line 3: “END:VTODO” ends what does not stand open: that is VEVENT, from line 2 on.',
    ],
    [
      'a file that stops',
      'BEGIN:VCALENDAR\nBEGIN:VEVENT\nUID:1\n',
      'Line 2: BEGIN:VEVENT is never ended: the file stops too early.',
    ],
    ['something after its end', `${calendar()}BEGIN:VEVENT`, 'stands outside of a calendar'],
  ])('that is none says in which line: %s', async (_, file, sentence) => {
    const { status, body } = await look(file)
    expect(status).toBe(422)
    expect(body.detail).toContain(sentence)
  })

  test('of 5,000 entries is looked at whole; folded lines and an apostrophe are read', async () => {
    const many = Array.from({ length: 5000 }, (_, index) =>
      event(
        `UID:many-${index}`,
        `DTSTART;TZID=Europe/Berlin:2026${String(6 + Math.floor(index / 1000)).padStart(2, '0')}${String(1 + (index % 28)).padStart(2, '0')}T100000`,
        'DURATION:PT30M',
        `ATTENDEE;CN=Guest ${index} O'Malley-of-the-very-long-house-beside-the-`,
        ` river:mailto:guest${index}@mail.example`,
        'SUMMARY:Kite lesson',
      ),
    )
    const { body } = await look(calendar(...many))
    expect(body.entries).toHaveLength(5000)
    expect(body.entries[17]?.name).toBe("Guest 17 O'Malley-of-the-very-long-house-beside-the-river")
    expect(new Set(body.entries.map(({ state }) => state))).toEqual(new Set(['new']))
  }, 60_000)
})

describe('a table of bookings', () => {
  const fields = ['date', 'time', 'name', 'email', 'partySize', 'service']
  const rowsOf = (...all: string[]) => ['Datum;Uhrzeit;Kunde;E-Mail;Personen;Leistung', ...all].join('\r\n')
  const open = async (text: string) => {
    const base64 = Buffer.from(text).toString('base64')
    const answer = await post('/api/tables', { of: 'bookings', fileName: 'bookings.csv', base64 })
    const opened = answer.body as {
      id: string
      detail: string
      isRemembered: boolean
      columns: { field: string }[]
    }
    return { status: answer.status, ...opened }
  }
  const lookAt = async (id: string, part: object = {}) => {
    const asked = { matching: fields, dateOrder: 'day first', serviceId: exampleService.id, ...part }
    const answer = await post(`/api/tables/${id}/bookings`, asked)
    return { status: answer.status, body: answer.body as { entries: CalendarLook[]; detail: string } }
  }

  test('is matched, looked at by line, and brought in once; nothing starts because of it', async () => {
    const text = rowsOf(
      '01.06.2026;10:00;Oona Siltanen;oona@mail.example;2;Kite lesson',
      '02.06.2026;10:00;Jo Reed;;;',
      '03.06.2026;;Nobody;;;Balloon',
      '01.01.2020;10:00;Long Ago;;;',
    )
    const opened = await open(text)
    expect(opened.columns.map(({ field }) => field)).toEqual(fields)
    const { body } = await lookAt(opened.id)
    expect(body.entries.map(({ name, state, partySize, why }) => [name, state, partySize, why])).toEqual([
      ['Oona Siltanen', 'new', 2, ''],
      ['Jo Reed', 'new', 1, ''],
      [
        'Nobody',
        'unreadable',
        1,
        'Line 4: There is no service “Balloon”. There is no time at which it begins.',
      ],
      ['Long Ago', 'over', 1, 'It has begun already: only what is ahead is brought in.'],
    ])
    const fresh = body.entries.filter(({ state }) => state === 'new')
    expect(await bringIn(fresh)).toEqual({ done: 2, refused: [] })
    expect(rows().map(({ partySize }) => partySize)).toEqual([2, 1])
    expect(followed()).toEqual([0, 0, 0])
    const again = await open(text)
    expect(again.isRemembered).toBe(true)
    const known = (await lookAt(again.id)).body.entries
    expect(known.map(({ state }) => state)).toEqual(['known', 'known', 'unreadable', 'over'])
  })

  test('with more people than seats are left is said to overlap', async () => {
    putService(running.application.store.statements, { ...exampleService, seats: 3 })
    running.application.settings.forget()
    const { id } = await open(rowsOf('01.06.2026;10:00;Oona;;4;'))
    expect((await lookAt(id)).body.entries).toMatchObject([
      { state: 'overlaps', why: 'No seats are left at that time.' },
    ])
  })

  test('is refused where it is none, where columns are the same, or once it is gone', async () => {
    expect((await open(' ')).detail).toBe('The file is empty.')
    const card = 'BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Oona\r\nEND:VCARD\r\n'
    expect((await open(card)).detail).toBe('Cards are clients, not bookings.')
    const { id } = await open(rowsOf('01.06.2026;10:00;Oona;;;'))
    expect((await lookAt(id, { matching: ['date', 'date'] })).body.detail).toMatch('Two columns are the same')
    expect((await lookAt(id, { serviceId: 'sv_nowhere' })).status).toBe(404)
    expect((await lookAt('00000000-0000-4000-8000-000000000000')).status).toBe(404)
  })
})
