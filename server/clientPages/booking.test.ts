import { createHash } from 'node:crypto'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import type { Express } from 'express'
import { pino } from 'pino'
import request from 'supertest'
import { bookingLinks } from '#core/engine/atSending/bookingLinks.ts'
import { clientActPaths, clientActs, type ClientAct } from '#core/model/clientAct.ts'
import type { Service } from '#core/model/business.ts'
import { standardOffer } from '#core/model/offer.ts'
import { linkFields } from '#core/letters/links.ts'
import { fieldValue } from '#core/letters/fields.ts'
import { exampleService } from '#core/rehearsal/exampleBusiness.ts'
import { exampleFacts } from '#core/rehearsal/exampleFacts.ts'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { readBooking } from '../db/clientStore.ts'
import { putService } from '../db/settingsStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { createApp } from '../http/app.ts'
import { signedToken } from '../mail/signedLinks.ts'
import { addBookedClient, clientInput, call, openExample } from '../testing/seed.ts'

let running: RunningApplication
let app: Express
/** Each request from a network of its own: limits are tried apart. */
let networks = 0

const daily = [1, 2, 3, 4, 5, 6, 7]
const lesson: Service = {
  ...exampleService,
  name: 'Kite lesson',
  seats: 10,
  offer: {
    ...standardOffer,
    isPublic: true,
    confirms: 'at once',
    isShared: true,
    horizonDays: 60,
    bufferBeforeMinutes: 30,
    bufferAfterMinutes: 30,
    starts: {
      kind: 'departures',
      departures: [
        { at: '10:00', weekdays: daily, from: '2026-05-01', to: '2026-06-30' },
        { at: '15:00', weekdays: daily, from: '2026-05-01', to: '2026-06-30' },
      ],
      holidays: 'open',
      closedDates: [],
    },
    price: { cents: 5000, per: 'person' },
    cancelling: { freeUntilHours: 96, feePercent: 50 },
    changeUntilHours: 24,
    questions: [
      {
        id: 'qu_swim',
        kind: 'choice',
        label: 'Can you swim?',
        options: ['Yes', 'A little'],
        isRequired: true,
      },
    ],
  },
}

/** Saturday 23 May 2026, 10:00 in Berlin. */
const saturday = Date.UTC(2026, 4, 23, 8)

beforeAll(async () => {
  running = await openExample()
  app = createApp({ ...running, proxy: 'loopback' }, pino({ level: 'silent' }))
})
afterAll(() => running.end())
beforeEach(() => {
  networks += 1
  const { store, settings } = running.application
  store.transaction(() => putService(store.statements, lesson))
  settings.forget()
})

const network = () => `10.0.${Math.floor(networks / 250)}.${networks % 250}`
const get = (path: string) => request(app).get(path).set('X-Forwarded-For', network())

/** When a form was given out, by the server's own signature. */
const stampOf = (ageMs: number) =>
  signedToken('form', String(Date.now() - ageMs), running.application.store.keys)

const form = (part: Readonly<Record<string, string>> = {}) => ({
  at: String(saturday),
  people: '1',
  lang: 'en',
  zone: '',
  stamp: stampOf(5000),
  key: `key-${Math.random()}`,
  firstName: 'Ottilie',
  lastName: 'Farnbusch',
  email: 'ottilie@farnbusch.example',
  phone: '',
  'answers.qu_swim': 'Yes',
  website: '',
  ...part,
})

const post = (fields: Readonly<Record<string, string>>, from = network()) =>
  request(app).post(`/book/${lesson.id}/details`).set('X-Forwarded-For', from).type('form').send(fields)

const bookingsAt = (at: number) =>
  running.application.store.statements
    .all('listBookings', { from: at, to: at + 1 })
    .filter(({ status }) => status !== 'cancelled')

/** Everything that is in the database, as a hash for each table. */
function contents(): Readonly<Record<string, string>> {
  const database = new Sqlite(running.application.store.file, { readonly: true })
  const tables = database.prepare("SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name").all()
  const all = (tables as { name: string }[]).map(({ name }): [string, string] => {
    const rows = JSON.stringify(database.prepare(`SELECT * FROM "${name}" ORDER BY 1`).all())
    return [name, createHash('sha256').update(rows).digest('hex')]
  })
  database.close()
  return Object.fromEntries(all)
}

describe('the public page', () => {
  test('leads from what is offered over a month and a day to the form', async () => {
    const offers = await get('/book')
    expect(offers.text).toContain('Kite lesson')
    expect(offers.text).toContain('2 h · South beach · €50.00 a person')
    const month = await get(`/book/${lesson.id}?people=2&month=2026-05`)
    expect(month.text).toContain('aria-label="Saturday 23 May 2026, 2 times"')
    const day = await get(`/book/${lesson.id}?people=2&day=2026-05-23`)
    expect(day.text).toContain('10:00 – 12:00')
    const chosen = await get(`/book/${lesson.id}?people=2&at=${saturday}`)
    expect([chosen.status, chosen.headers['location']]).toEqual([303, expect.stringContaining('/details?')])
    const details = await get(`/book/${lesson.id}/details?people=2&at=${saturday}`)
    expect(details.text).toContain('Saturday 23 May 2026, 10:00 – 12:00')
    expect(details.text).toContain('€100.00')
    // A time that cannot be had is said before anything is typed for it, with others in its place.
    const gone = await get(`/book/${lesson.id}/details?people=2&at=0`)
    expect(gone.text).toContain('This time is past.')
    expect(gone.text).toMatch(/type="radio" name="at"/)
  })

  test('shows times on the clock of the place and on the reader’s, in their language', async () => {
    const page = await get(`/book/${lesson.id}?day=2026-05-23&zone=Atlantic/Azores&lang=de`)
    expect(page.text).toContain('10:00 – 12:00 (08:00 Ihre Zeit)')
    expect(page.text).toContain('Zeiten am Samstag, 23. Mai 2026')
    expect(page.text).toContain('<html lang="de"')
    const unknown = await get(`/book/${lesson.id}?day=2026-05-23&zone=Mars/Olympus`)
    expect(unknown.text).toContain('10:00 – 12:00<small>')
  })

  test('books: the client is known by the address from then on, and never twice', async () => {
    const at = saturday + 7 * hourMs - 2 * hourMs
    const fields = form({ at: String(at) })
    const done = await post(fields)
    expect([done.status, done.headers['location']]).toEqual([303, expect.stringMatching(/^\/yours\/bk_/)])
    const again = await post(fields)
    expect(again.headers['location']).toBe(done.headers['location'])
    const other = await post(form({ at: String(at), email: 'Ottilie@Farnbusch.example', firstName: 'Otti' }))
    expect(other.status).toBe(303)
    const found = bookingsAt(at)
    expect([found.length, new Set(found.map(({ clientId }) => clientId)).size]).toEqual([2, 1])
    expect(found[0]).toMatchObject({ clientName: 'Ottilie Farnbusch', status: 'confirmed' })
    const page = await get(done.headers['location'] ?? '')
    expect(page.text).toContain('Your booking is confirmed.')
    const booking = running.application.sliceOf(String(found[0]?.['clientId']), 'everything')?.facts
      .bookings[0]
    expect(booking?.answers).toEqual([{ question: 'Can you swim?', answer: 'Yes' }])
  })

  test('a request is one until the business confirms it', async () => {
    const { store, settings } = running.application
    store.transaction(() =>
      putService(store.statements, { ...lesson, offer: { ...lesson.offer, confirms: 'on request' } }),
    )
    settings.forget()
    const done = await post(form({ at: String(saturday + 2 * dayMs), email: 'asks@mail.example' }))
    const page = await get(done.headers['location'] ?? '')
    expect(page.text).toContain('We have your request')
    expect(bookingsAt(saturday + 2 * dayMs)).toMatchObject([{ status: 'requested' }])
  })

  test.each<[string, Readonly<Record<string, string>>, number, string]>([
    ['nothing', { firstName: '', email: '', 'answers.qu_swim': '' }, 422, 'Please give your name.'],
    ['no address', { email: 'ottilie' }, 422, 'Please give an e-mail address'],
    ['no answer', { 'answers.qu_swim': '' }, 422, 'Please answer: Can you swim?'],
    [
      'an answer that is no option',
      { 'answers.qu_swim': 'Like a fish' },
      422,
      'Please choose one of the options.',
    ],
    ['a time at which nothing begins', { at: String(saturday + 60_000) }, 422, 'does not begin at that time'],
    ['no time at all', { at: 'soon' }, 422, 'This time is past.'],
    ['the past', { at: String(saturday - 30 * dayMs) }, 422, 'This time is past.'],
    ['too soon', { at: String(Date.UTC(2026, 4, 14, 8)) }, 422, 'until 24 hours before it begins'],
    ['too far', { at: String(saturday + 60 * dayMs) }, 422, 'up to 60 days ahead'],
    ['too many people', { people: '11' }, 422, 'There is room for 10, not for 11.'],
    ['the trap', { website: 'https://buy.example' }, 422, 'leave the field that says so empty'],
    ['a form filled in at once', { stamp: '' }, 422, 'This page has been open for long.'],
    ['in German', { lang: 'de', at: String(saturday + 60_000) }, 422, 'beginnt nicht zu dieser Zeit'],
  ])('%s is told, and what was typed stays', async (_, part, status, sentence) => {
    const before = bookingsAt(saturday).length
    const answer = await post(form({ lastName: '<b>Farn & Busch</b>', ...part }))
    expect([answer.status, answer.text]).toEqual([status, expect.stringContaining(sentence)])
    expect(answer.text).toContain('value="&lt;b&gt;Farn &amp; Busch&lt;/b&gt;"')
    expect(bookingsAt(saturday)).toHaveLength(before)
  })

  test('a form that comes back within two seconds, and one that was signed by nobody', async () => {
    expect((await post(form({ stamp: stampOf(0) }))).text).toContain('That was very quick.')
    expect((await post(form({ stamp: `${Date.now() - 5000}.forged` }))).text).toContain('open for long')
  })

  test('many bookings from one network, or for one address, have to wait; what was typed stays', async () => {
    const own = network()
    const at = (index: number) =>
      String(saturday + (20 + Math.floor(index / 2)) * dayMs + (index % 2) * 5 * hourMs)
    const answers: number[] = []
    for (let index = 0; index < 21; index += 1) {
      // Mistakes do not count.
      await post(form({ firstName: '', email: `p${index}@mail.example` }), own)
      answers.push((await post(form({ at: at(index), email: `p${index}@mail.example` }), own)).status)
    }
    expect(answers).toEqual([...Array.from({ length: 20 }, () => 303), 429])
    const ofOne: string[] = []
    for (let index = 0; index < 7; index += 1) {
      const answer = await post(form({ at: at(index), email: 'one@mail.example' }), `10.9.0.${index}`)
      ofOne.push(`${answer.status} ${answer.text.includes('value="Farnbusch"')}`)
    }
    expect(ofOne).toEqual([...Array.from({ length: 6 }, () => '303 false'), '429 true'])
  })

  test('what is not offered leads to what is', async () => {
    expect((await get('/book/sv_gone')).status).toBe(404)
    const { store, settings } = running.application
    store.transaction(() =>
      putService(store.statements, { ...lesson, offer: { ...lesson.offer, isPublic: false } }),
    )
    settings.forget()
    const page = await get(`/book/${lesson.id}`)
    expect([page.status, page.text]).toEqual([
      404,
      expect.stringContaining('Nothing can be booked here at present.'),
    ])
    expect((await post(form())).status).toBe(404)
  })

  test('50 clients for 10 seats: 10 get one, 40 are told and see the nearest free times', async () => {
    const at = saturday + 3 * dayMs
    const answers = await Promise.all(
      Array.from({ length: 50 }, (_, index) =>
        post(
          form({ at: String(at), email: `racer${index}@mail.example`, firstName: `Racer ${index}` }),
          `10.7.1.${index}`,
        ),
      ),
    )
    const statuses = answers.map(({ status }) => status)
    expect([
      statuses.filter((one) => one === 303).length,
      statuses.filter((one) => one === 409).length,
    ]).toEqual([10, 40])
    const told = answers.find(({ status }) => status === 409)?.text ?? ''
    expect(told).toContain('Tuesday 26 May 2026, 10:00 has just been taken.')
    expect(told).toMatch(/type="radio" name="at"/)
    expect(told).toContain('Tuesday 26 May 2026, 15:00')
    expect(told).toMatch(/value="Racer \d+"/)
    const seats = bookingsAt(at).reduce((sum, { partySize }) => sum + Number(partySize), 0)
    expect(seats).toBe(10)
  }, 120_000)
})

describe('the pages of a booking', () => {
  const pathOf = (id: string) =>
    new URL(running.application.settings.required().clientLinks.booking(id)).pathname
  const booked = async (email: string, at = saturday + 10 * dayMs) => {
    const done = await post(form({ at: String(at), email, people: '2' }))
    return done.headers['location'] ?? ''
  }
  const revisionIn = (text: string) => /name="revision" value="(\d+)"/.exec(text)?.[1] ?? ''
  const press = (path: string, fields: Readonly<Record<string, string>>) =>
    request(app).post(path).set('X-Forwarded-For', network()).type('form').send(fields)

  test('moves to a free time only, once, and says what was there before the press', async () => {
    const path = await booked('mover@mail.example')
    const to = saturday + 11 * dayMs
    const look = await get(`${path}/move?at=${to}`)
    expect(look.text).toContain('Nothing has changed yet.')
    expect(look.text).toContain('Wednesday 3 June 2026, 10:00')
    const fields = { at: String(to), revision: revisionIn(look.text) }
    expect((await press(`${path}/move`, fields)).text).toContain('Moved. This is your booking now.')
    expect((await press(`${path}/move`, fields)).text).toContain('Wednesday 3 June 2026')
    expect(bookingsAt(to)).toHaveLength(1)
    const nowhere = await press(`${path}/move`, { at: String(to + 60_000), revision: '2' })
    expect([nowhere.status, nowhere.text]).toEqual([
      409,
      expect.stringContaining('does not begin at that time'),
    ])
    const stale = await press(`${path}/move`, { at: String(to + dayMs), revision: '1' })
    expect(stale.text).toContain('This booking has been changed meanwhile.')
  })

  test('cancelling says what it costs, takes the reason, and leads to booking again', async () => {
    const free = await booked('free@mail.example')
    expect((await get(`${free}/cancel`)).text).toContain(
      'Cancelling costs nothing until Friday 29 May 2026, 10:00.',
    )
    // Seventy-four hours ahead it costs half of 2 × €50.
    const dear = await booked('dear@mail.example', Date.UTC(2026, 4, 17, 8))
    const look = await get(`${dear}/cancel`)
    expect(look.text).toContain('Cancelling now costs €50.00.')
    const done = await press(`${dear}/cancel`, { reason: 'The <i>wind</i>', revision: revisionIn(look.text) })
    expect(done.text).toContain('This booking is cancelled. The fee for cancelling is €50.00.')
    const again = await get(`${dear}/again`)
    expect(again.headers['location']).toBe(`/book/${lesson.id}?lang=en&people=2`)
    const [row] = running.application.store.statements.all('listBookings', {
      from: Date.UTC(2026, 4, 17, 8),
      to: Date.UTC(2026, 4, 17, 8) + 1,
    })
    const slice = running.application.sliceOf(String(row?.['clientId']), 'everything')
    expect(slice?.facts.bookings[0]?.cancellation).toEqual({
      by: 'client',
      reason: 'The <i>wind</i>',
      feeCents: 5000,
    })
    // Used after the cancellation, the links say so and do nothing.
    for (const end of ['/move', '/cancel', '/move?at=1']) {
      expect((await get(`${dear}${end}`)).text).toContain('This booking is cancelled.')
    }
    const after = await press(`${dear}/move`, { at: String(saturday + 12 * dayMs), revision: '2' })
    expect(after.text).toContain('This booking is cancelled.')
  })

  test('after the deadline it says whom to call; a service that is not offered is moved by calling', async () => {
    const id = addBookedClient(running.application, running.commands, 'Late', 'late@mail.example', 0)
    const late = await get(pathOf(id))
    expect(late.text).toContain('It is too late to change this booking here. Please call us: +49 000 5550100')
    expect((await press(`${pathOf(id)}/cancel`, { reason: '' })).text).toContain('too late to change')
    const { store, settings } = running.application
    store.transaction(() =>
      putService(store.statements, { ...lesson, offer: { ...lesson.offer, isPublic: false } }),
    )
    settings.forget()
    const other = addBookedClient(running.application, running.commands, 'Calls', 'calls@mail.example', 20)
    const page = await get(pathOf(other))
    expect(page.text).toContain('To move it, answer the message or call +49 000 5550100')
    expect((await get(`${pathOf(other)}/move`)).text).toContain('To move it, answer')
  })

  test('within another web site, booking goes on to the page of the booking; what changes it is never shown there', async () => {
    const path = await booked('framed@mail.example', saturday + 13 * dayMs)
    const policyOf = async (url: string) => (await get(url)).headers['content-security-policy'] ?? ''
    for (const url of ['/book', `/book/${lesson.id}`, path]) {
      expect([url, await policyOf(url)]).toEqual([url, expect.stringContaining('frame-ancestors *')])
      expect((await get(url)).headers['x-frame-options']).toBeUndefined()
    }
    for (const url of [`${path}/move`, `${path}/move?at=${saturday}`, `${path}/cancel`]) {
      expect([url, await policyOf(url)]).toEqual([url, expect.stringContaining("frame-ancestors 'self'")])
      expect((await get(url)).headers['x-frame-options']).toBe('SAMEORIGIN')
    }
    expect((await get(path)).text).toContain('target="_top"')
  })

  test('all bookings of a client stand behind a link of its own; that of one booking does not open it', async () => {
    const added = running.commands.addClient(call('addClient'), clientInput('Nell', 'nell@mail.example'))
    if (!added.ok) throw new Error(added.problem.sentence)
    const { id } = added.value
    const { clientLinks } = running.application.settings.required()
    const path = new URL(clientLinks.all(id)).pathname
    expect((await get(path)).text).toContain('There are no bookings of yours.')
    await post(form({ at: String(saturday + 14 * dayMs), email: 'nell@mail.example' }))
    expect((await get(path)).text).toContain('Kite lesson, Saturday 6 June 2026, 10:00')
    const forged = path.replace('/all/', '/yours/')
    expect((await get(forged)).status).toBe(404)
    expect((await get(`/all/${signedToken('opt-out', id, running.application.store.keys)}`)).status).toBe(404)
  })

  test('a link for one act opens that alone, and the act done it says so without leading any further', async () => {
    const path = await booked('single@mail.example', saturday + 18 * dayMs)
    const [row] = bookingsAt(saturday + 18 * dayMs)
    const { clientLinks } = running.application.settings.required()
    const of = (act: ClientAct) => new URL(clientLinks.act(act, String(row?.['id']))).pathname
    const swapped = (act: ClientAct, end: string) => of(act).replace(/\/[\w.]+$/, end)
    for (const act of clientActs) {
      expect([act, (await get(of(act))).status]).toEqual([act, act === 'again' ? 303 : 200])
      // Nothing else of the booking is open to whom it was passed on to.
      expect((await get(swapped(act, ''))).status).toBe(404)
      for (const other of clientActs.filter((one) => one !== act)) {
        expect((await get(swapped(act, `/${clientActPaths[other]}`))).status).toBe(404)
      }
    }
    expect((await press(swapped('calendar', '/cancel'), { reason: '', revision: '1' })).status).toBe(404)
    const look = await get(of('cancel'))
    expect(look.text).not.toContain('/move')
    const done = await press(of('cancel'), { reason: '', revision: revisionIn(look.text) })
    expect(done.text).toContain('This booking is cancelled.')
    expect(done.text).not.toContain('/again')
    expect((await get(path)).text).toContain('This booking is cancelled.')
  })

  test('every link a letter can carry is opened and asked for three times, and nothing changes', async () => {
    const path = await booked('scanned@mail.example', saturday + 16 * dayMs)
    const { clientLinks } = running.application.settings.required()
    const [row] = bookingsAt(saturday + 16 * dayMs)
    const bookingId = String(row?.['id'])
    const booking = readBooking(running.application.store.statements, bookingId)
    const asked = { amountCents: 5_000, dueOn: null }
    const added = running.commands.addInvoice(call('addInvoice'), bookingId, asked)
    if (!added.ok) throw new Error(added.problem.sentence)
    const facts = {
      ...exampleFacts,
      // What a client confirms themselves has that link as well.
      booking: exampleFacts.booking && { ...exampleFacts.booking, status: 'requested' as const },
      service: { ...lesson, offer: { ...lesson.offer, confirms: 'by the client' as const } },
      payUrl: clientLinks.pay(added.value.id),
      ...bookingLinks(running.application.settings.required(), booking),
      allUrl: clientLinks.all(String(row?.['clientId'])),
      optOutUrl: clientLinks.optOut(String(row?.['clientId'])),
    }
    const links = linkFields.map((name) => new URL(fieldValue(name, facts, 'en')).pathname)
    expect(links.filter((link) => link.startsWith('/yours/'))).toHaveLength(1 + clientActs.length)
    // What was booked is told first.
    await running.pump.advance(running.application.clock.now() + hourMs)
    const before = contents()
    for (const link of [...links, `${path}/move?at=${saturday + 17 * dayMs}`, `/book/${lesson.id}`]) {
      for (let times = 0; times < 3; times += 1) {
        networks += 1
        expect((await get(link)).status).toBeLessThan(400)
        expect((await request(app).head(link).set('X-Forwarded-For', network())).status).toBeLessThan(400)
      }
    }
    expect(contents()).toEqual(before)
  })
})
