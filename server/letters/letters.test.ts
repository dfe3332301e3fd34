import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import ICAL from 'ical.js'
import { simpleParser } from 'mailparser'
import pino from 'pino'
import request from 'supertest'
import type { Appointment } from '#core/letters/appointment.ts'
import type { OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { contentOf } from '#core/letters/content.ts'
import { words } from '#core/letters/authoring.ts'
import type { Letter, LetterContent } from '#core/model/letter.ts'
import { readFile } from '../db/letterStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { createApp } from '../http/app.ts'
import { calendarFile, type Attendee } from '../mail/calendarFile.ts'
import { composeMessage } from '../mail/compose.ts'
import { idOfToken, signedToken } from '../mail/signedLinks.ts'
import { openApplication } from '../engine/runningApplication.ts'
import { addBookedClient, testFolder } from '../testing/seed.ts'

const png = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
)

let running: RunningApplication
let app: ReturnType<typeof createApp>
let cookie = ''
let csrf = ''
let clientId = ''
let bookingId = ''
let commands = 0

beforeAll(async () => {
  running = await openApplication({
    folder: testFolder(),
    isDemo: true,
    smtpUrl: null,
    onFault: (fault) => {
      throw fault
    },
  })
  app = createApp(running, pino({ level: 'silent' }))
  const answer = await request(app)
    .post('/api/first-run')
    .send({
      word: running.firstRunWord,
      businessName: 'Kiteworks',
      zone: 'Europe/Berlin',
      senderAddress: 'hello@kiteworks.example',
      postalAddress: 'Dune Road 1, 00000 Sandby',
      phone: '0123 45',
      personName: 'Ada Windermeer',
      personEmail: 'ada@kiteworks.example',
      password: 'a long enough one',
      service: { name: 'Kite lesson', place: 'South beach', durationMinutes: 120, seats: 4 },
    })
  cookie = answer.headers['set-cookie']?.[0]?.split(';')[0] ?? ''
  csrf = (answer.body as { csrfToken: string }).csrfToken
  const serviceId = running.application.settings.required().services[0]?.id
  bookingId = addBookedClient(
    running.application,
    running.commands,
    'Oona',
    'oona@brackwater.example',
    5,
    serviceId,
  )
  const audience = (await get('/api/audience')).body as { rows: { clientId: string }[] }
  clientId = audience.rows[0]?.clientId ?? ''
})

afterAll(() => running.end())

const get = (path: string) => request(app).get(path).set('Cookie', cookie)
const change = (method: 'post' | 'put' | 'delete', path: string, body: object) =>
  request(app)[method](path).set('Cookie', cookie).set('X-CSRF-Token', csrf).send(body)
const tell = (method: 'post' | 'put' | 'delete', path: string, body: object = {}) =>
  change(method, path, { commandId: `command-${String((commands += 1)).padStart(6, '0')}`, ...body })

const letters = () => running.application.settings.required().letters
function letterNamed(name: string): Letter {
  const letter = letters().find((one) => one.name === name)
  if (!letter) throw new Error(`no letter ${name}`)
  return letter
}

async function addLetter(part: Partial<LetterContent> = {}): Promise<string> {
  const content = { ...contentOf(letterNamed('See you soon')), name: 'A new one', ...part }
  const answer = await tell('post', '/api/letters', { content })
  expect(answer.status).toBe(200)
  return (answer.body as { id: string }).id
}

describe('letters over HTTP', () => {
  test('a first run brings starters for every moment; none of them is read, so nobody gets any', () => {
    expect(letters().filter(({ isStarter }) => !isStarter)).toEqual([])
    const { sequences } = running.application.settings.required()
    expect(sequences.map(({ state }) => state)).toEqual(['draft'])
    expect(new Set(letters().map(({ moment }) => moment)).size).toBe(7)
  })

  test('a letter is written, published with its version, listed with its problems, and deleted', async () => {
    const id = await addLetter({ subject: words`See you tomorrow` })
    const { letter } = (await get(`/api/letters/${id}`)).body as { letter: Letter }
    const writing = { version: 1, revision: 0, content: contentOf(letter) }
    const draft = await tell('put', `/api/letters/${id}/draft`, writing)
    expect(draft.body).toEqual({ id, revision: 1 })
    const unseen = await tell('post', `/api/letters/${id}/publish`, writing)
    expect(unseen.status).toBe(409)
    const saved = await tell('post', `/api/letters/${id}/publish`, { ...writing, revision: 1 })
    expect(saved.body).toEqual({ id, version: 2 })
    const late = await tell('put', `/api/letters/${id}/draft`, writing)
    expect(late.status).toBe(409)
    expect((late.body as { code: string }).code).toBe('changed meanwhile')
    const list = (await get('/api/letters')).body as { letters: { id: string; problems: number }[] }
    expect(list.letters.find((one) => one.id === id)?.problems).toBe(1)
    expect((await tell('delete', `/api/letters/${id}`)).status).toBe(200)
    expect((await get(`/api/letters/${id}`)).status).toBe(404)
  })

  test('texts of one person published shortly after each other are one version of the history', async () => {
    const id = await addLetter()
    const content = contentOf(letterNamed('A new one'))
    for (const version of [1, 2, 3])
      await tell('post', `/api/letters/${id}/publish`, { version, revision: 0, content })
    const { versions } = (await get(`/api/letters/${id}`)).body as { versions: { version: number }[] }
    expect(versions.map(({ version }) => version)).toEqual([4, 1])
    await tell('delete', `/api/letters/${id}`)
  })

  test('a letter in use is not deleted, and says why', async () => {
    const answer = await tell('delete', `/api/letters/${letterNamed('See you soon').id}`)
    expect(answer.status).toBe(409)
    expect((answer.body as { detail: string }).detail).toMatch('Sequences still send it')
  })

  test('an own word is known from then on', async () => {
    await tell('post', '/api/own-words', { word: 'kiting' })
    const id = letterNamed('See you soon').id
    const { context } = (await get(`/api/letters/${id}`)).body as { context: { ownWords: string[] } }
    expect(context.ownWords).toContain('kiting')
  })

  test('a written mail (.eml) comes in as a letter', async () => {
    const text = 'Subject: =?utf-8?q?Gr=C3=BC=C3=9Fe?=\r\n\r\nDear Oona,\r\n\r\nsee you.\r\n'
    const { content } = (await change('post', '/api/letter-files', { name: 'x.eml', text })).body as {
      content: LetterContent
    }
    expect(content.subject).toEqual([{ kind: 'text', text: 'Grüße' }])
    expect(content.sections).toHaveLength(1)
    const empty = await change('post', '/api/letter-files', { name: 'x.eml', text: 'Subject: x\r\n\r\n' })
    expect((empty.body as { detail: string }).detail).toBe('There is no text in this mail.')
  })
})

describe('files', () => {
  const add = (type: string, bytes: Buffer, name = 'a file') =>
    tell('post', '/api/files', { name, type, base64: bytes.toString('base64') })

  test('a picture and a PDF are kept and given back, to the team alone', async () => {
    const picture = await add('image/png', png)
    const { id } = picture.body as { id: string }
    expect(id).toMatch(/^pc_/)
    const back = await get(`/api/files/${id}`)
    expect(back.headers['content-type']).toBe('image/png')
    expect(Buffer.compare(back.body as Buffer, png)).toBe(0)
    expect((await request(app).get(`/api/files/${id}`)).status).toBe(401)
    const pdf = await add('application/pdf', Buffer.from('%PDF-1.7 x'))
    expect((pdf.body as { id: string }).id).toMatch(/^fl_/)
  })

  test.each([
    ['what only says it is a picture', 'image/png', Buffer.from('<svg onload=alert(1)>'), 400],
    ['a picture too large', 'image/png', Buffer.concat([png, Buffer.alloc(600_001)]), 422],
    ['a kind that is not taken', 'text/html', Buffer.from('<p>'), 422],
  ])('%s is refused', async (_, type, bytes, status) => {
    expect((await add(type, bytes)).status).toBe(status)
  })

  test('go along with a message: a picture within it, a PDF and the appointment beside it', async () => {
    const picture = ((await add('image/png', png, 'map.png')).body as { id: string }).id
    const pdf = ((await add('application/pdf', Buffer.from('%PDF-1.7 x'), 'way.pdf')).body as { id: string })
      .id
    const id = await addLetter({
      sections: [{ id: 'p', kind: 'picture', pictureId: picture, alternative: 'A map' }],
      attachments: [{ kind: 'calendar' }, { kind: 'file', fileId: pdf, name: 'The way.pdf' }],
    })
    const eml = await get(`/api/letters/${id}/message.eml?clientId=${clientId}&bookingId=${bookingId}`)
    const mail = await simpleParser(eml.text)
    expect(mail.attachments.map(({ filename, contentType }) => [filename, contentType])).toEqual([
      ['map.png', 'image/png'],
      // Beside the words for calendars, and once more as a file for people (RFC 6047).
      [undefined, 'text/calendar'],
      ['The way.pdf', 'application/pdf'],
      ['appointment.ics', 'application/ics'],
    ])
    const [inline] = mail.attachments
    // Quoted-printable breaks lines softly (RFC 2045 6.7).
    expect(eml.text.replace(/=\r\n/g, '')).toContain(`cid:${inline?.cid ?? 'none'}`)
    expect(mail.text).toContain('[A map]')
    const entry = new ICAL.Event(
      new ICAL.Component(
        ICAL.parse(mail.attachments[1]?.content.toString() ?? '') as unknown[],
      ).getFirstSubcomponent('vevent') ?? undefined,
    )
    expect(entry.summary).toBe('Kite lesson, Kiteworks')
    expect(entry.uid).toBe(`${bookingId}@kiteworks.example`)
    expect(entry.location).toBe('South beach')
    await tell('delete', `/api/letters/${id}`)
  })
})

describe('an appointment as a calendar file (RFC 5545), read by an independent parser', () => {
  const appointment = {
    uid: 'bk_1@kiteworks.example',
    sequence: 3,
    startAt: Date.UTC(2026, 4, 16, 17),
    endAt: Date.UTC(2026, 4, 16, 19),
    summary: 'Kite; lesson, with “Grüße” \\ and\nmore '.repeat(4),
    location: 'South beach, 00000 Sandby',
    description: 'Kiteworks, 0151 000; bring\na towel',
    url: 'https://kiteworks.example/yours/bk_1.abc',
    organizer: { name: 'Kiteworks', email: 'hello@kiteworks.example' },
    zoneName: 'Europe/Berlin',
    state: 'confirmed',
  } as const
  const read = (part: Partial<Appointment> = {}, attendee: Attendee | null = null) => {
    const text = calendarFile({ ...appointment, ...part }, Date.UTC(2026, 4, 14), attendee)
    const calendar = new ICAL.Component(ICAL.parse(text) as unknown[])
    const event = calendar.getFirstSubcomponent('vevent')
    if (!event) throw new Error('no event')
    return { text, calendar, event: new ICAL.Event(event), component: event }
  }

  test('has its times, words and number, whatever stands in them', () => {
    const { event, component, text } = read()
    expect(event.startDate.toJSDate().getTime()).toBe(appointment.startAt)
    expect(event.endDate.toJSDate().getTime()).toBe(appointment.endAt)
    expect(event.summary).toBe(appointment.summary)
    expect(event.location).toBe(appointment.location)
    expect(event.description).toBe(appointment.description)
    expect(component.getFirstPropertyValue('url')).toBe(appointment.url)
    expect(text.endsWith('END:VCALENDAR\r\n')).toBe(true)
    expect(event.sequence).toBe(3)
    expect(component.getFirstPropertyValue('dtstamp')).not.toBeNull()
    // Lines of at most 75 octets, ended by CR LF (RFC 5545 3.1).
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
  })

  test('a cancelled one takes the entry out again', () => {
    const { calendar, component } = read({ state: 'cancelled' })
    expect(calendar.getFirstPropertyValue('method')).toBe('CANCEL')
    expect(component.getFirstPropertyValue('status')).toBe('CANCELLED')
    expect(read().calendar.getFirstPropertyValue('method')).toBe('PUBLISH')
  })

  test('sent to somebody it is a request to them, from the business, with nothing to answer (RFC 5546, 3.2.2)', () => {
    const client = { name: 'Enno "E" Brackwater', address: 'enno@brackwater.example' }
    const { calendar, component } = read({}, client)
    expect(calendar.getFirstPropertyValue('method')).toBe('REQUEST')
    const attendee = component.getFirstProperty('attendee')
    expect(String(attendee?.getFirstValue()).toLowerCase()).toBe('mailto:enno@brackwater.example')
    expect([attendee?.getParameter('partstat'), attendee?.getParameter('rsvp')]).toEqual([
      'ACCEPTED',
      'FALSE',
    ])
    const organizer = component.getFirstProperty('organizer')
    expect(String(organizer?.getFirstValue()).toLowerCase()).toBe('mailto:hello@kiteworks.example')
    const asked = read({ state: 'tentative' }, client).component
    expect(asked.getFirstPropertyValue('status')).toBe('TENTATIVE')
    expect(asked.getFirstProperty('attendee')?.getParameter('partstat')).toBe('TENTATIVE')
    expect(read({ state: 'cancelled' }, client).component.getFirstProperty('attendee')).not.toBeNull()
  })

  test.each([
    // Each with the rules of its zone, which an independent parser reads (RFC 5545, 3.6.5).
    ['Europe/Berlin', Date.UTC(2026, 9, 25, 2, 30), '2026-10-25T03:30:00'],
    ['America/New_York', Date.UTC(2026, 2, 8, 7), '2026-03-08T03:00:00'],
    ['Asia/Kathmandu', Date.UTC(2026, 4, 16, 17), '2026-05-16T22:45:00'],
  ])('its times stand on the clock of its place: %s', (zoneName, startAt, wall) => {
    const { event, calendar } = read({ zoneName, startAt, endAt: startAt + 7_200_000 })
    expect(event.startDate.toString()).toBe(wall)
    expect(event.startDate.zone.tzid).toBe(zoneName)
    expect(calendar.getFirstSubcomponent('vtimezone')?.getFirstPropertyValue('tzid')).toBe(zoneName)
    expect(event.startDate.toJSDate().getTime()).toBe(startAt)
  })

  test('the second time a clock shows the same, it stands in UTC', () => {
    const startAt = Date.UTC(2026, 9, 25, 1, 30)
    expect(read({ startAt, endAt: startAt + 3_600_000 }).event.startDate.toString()).toBe(
      '2026-10-25T01:30:00Z',
    )
  })

  test('in a zone nobody has rules of, its times stand in UTC', () => {
    const { event } = read({ zoneName: 'Nowhere/Atall' })
    expect(event.startDate.toString()).toBe('2026-05-16T17:00:00Z')
  })
})

describe('a test copy', () => {
  test('goes to whoever asks, and is refused where the client’s would be held', async () => {
    const { id, ...letter } = letterNamed('See you soon')
    const content = contentOf({ id, ...letter })
    const answer = await tell('post', `/api/letters/${id}/test-copy`, { content, clientId, bookingId })
    expect(answer.body).toEqual({ address: 'ada@kiteworks.example' })
    const held = await tell('post', `/api/letters/${id}/test-copy`, { content, clientId, bookingId: null })
    expect((held.body as { detail: string }).detail).toMatch('It would be held for this client')
  })
})

describe('opting out of promotional mail', () => {
  test('the link is signed: nobody can make one for another', () => {
    const keys = { links: 'secret', formerLinks: null }
    const token = signedToken('opt-out', 'cl_1', keys)
    expect(idOfToken('opt-out', token, keys)).toBe('cl_1')
    expect(idOfToken('opt-out', token, { links: 'another', formerLinks: null })).toBeNull()
    expect(idOfToken('opt-out', token.replace('cl_1', 'cl_2'), keys)).toBeNull()
    expect(idOfToken('opt-out', '', keys)).toBeNull()
    expect(idOfToken('booking', token, keys)).toBeNull()
  })

  test('a press ends it without signing in, twice the same', async () => {
    const url = new URL(running.application.settings.required().clientLinks.optOut(clientId)).pathname
    const asked = await request(app).get(url)
    expect(asked.text).toContain('No news and offers any more')
    expect(running.application.sliceOf(clientId, 'everything')?.facts.client.takesPromotional).toBe(true)
    for (let presses = 0; presses < 2; presses += 1) {
      const done = await request(app).post(url).type('form').send({ 'List-Unsubscribe': 'One-Click' })
      expect(done.status).toBe(200)
      expect(done.text).toContain('Done.')
    }
    expect(running.application.sliceOf(clientId, 'everything')?.facts.client.takesPromotional).toBe(false)
    expect((await request(app).get('/choose/cl_1.forged')).status).toBe(404)
  })

  test('the message has the headers of RFC 2369 3.2 and RFC 8058 3.1', async () => {
    const message: OutgoingMessage = {
      messageId: '<sd_1@kiteworks.example>',
      from: { name: 'Kiteworks', address: 'hello@kiteworks.example' },
      replyTo: null,
      to: { name: 'Oona', address: 'oona@brackwater.example' },
      subject: 'News',
      html: '<p>News</p>',
      text: 'News\n',
      at: 0,
      pictureIds: ['pc_gone'],
      files: [{ id: 'fl_gone', name: 'x.pdf' }],
      appointment: null,
      optOutUrl: 'https://kiteworks.example/choose/x.y',
      told: { booking: null, lines: null },
      toSign: [],
    }
    const source = (
      await composeMessage(message, (id) => readFile(running.application.store.statements, id))
    ).toString()
    expect(source).toMatch(/^List-Unsubscribe: <https:\/\/kiteworks\.example\/choose\/x\.y>\r$/m)
    expect(source).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click\r$/m)
    expect((await simpleParser(source)).attachments).toEqual([])
  })
})

describe('the page of a booking', () => {
  const path = () => new URL(running.application.settings.required().clientLinks.booking(bookingId)).pathname
  const status = () =>
    running.application.sliceOf(clientId, 'everything')?.facts.bookings.find(({ id }) => id === bookingId)
      ?.status

  test('shows what was booked and gives the appointment, without signing in', async () => {
    const page = await request(app).get(path())
    expect(page.text).toMatch(/<dd>Kite lesson<\/dd>.*<dd>South beach<\/dd>/)
    expect(page.text).toContain('To move it, answer the message or call 0123 45')
    const file = await request(app).get(`${path()}/appointment.ics`)
    expect(file.headers['content-type']).toMatch('text/calendar')
    expect(ICAL.parse(file.text)).toBeTruthy()
  })

  test('cancels after asking; twice is once; then it says so', async () => {
    const asked = await request(app).get(`${path()}/cancel`)
    expect(asked.text).toContain('Do you really want to cancel')
    expect(status()).toBe('confirmed')
    for (let presses = 0; presses < 2; presses += 1) {
      const done = await request(app).post(`${path()}/cancel`)
      expect(done.text).toContain('This booking is cancelled.')
    }
    expect(status()).toBe('cancelled')
    expect((await request(app).get(path())).text).not.toContain('Cancel the booking…')
  })

  test.each(['/yours/bk_1.forged', '/yours/x/cancel', '/yours/x/appointment.ics'])(
    '%s is not valid',
    async (url) => {
      const answer = await request(app).get(url)
      expect(answer.status).toBe(404)
      expect(answer.text).toContain('This link is not valid.')
    },
  )
})
