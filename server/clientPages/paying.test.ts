import { createHmac } from 'node:crypto'
import { createServer } from 'node:http'
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals'
import type { Express } from 'express'
import { pino } from 'pino'
import request from 'supertest'
import type { Service } from '#core/model/business.ts'
import { standardOffer } from '#core/model/offer.ts'
import { openOf } from '#core/model/policy.ts'
import { exampleService } from '#core/rehearsal/exampleBusiness.ts'
import { asInvoice, readBooking } from '../db/clientStore.ts'
import { putService } from '../db/settingsStore.ts'
import { startPaymentsHere } from '../standins/payments/start.ts'
import { linkToPay, type AskedPayment } from '../standins/payments/asking.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { createApp } from '../http/app.ts'
import { signedToken } from '../mail/signedLinks.ts'
import { addBookedClient, call, openExample } from '../testing/seed.ts'

/* A client pays, on the page that came with it, and what that tells. */

const lesson: Service = {
  ...exampleService,
  seats: 100,
  offer: {
    ...standardOffer,
    isPublic: true,
    confirms: 'by the client',
    price: { cents: 10_000, per: 'person' },
    paying: { deposit: { percent: 20, withinDays: 3 }, balanceDaysBefore: 7 },
  },
}

let running: RunningApplication
let app: Express
beforeAll(async () => {
  running = await openExample()
  const { store, settings } = running.application
  store.transaction(() => putService(store.statements, lesson))
  settings.forget()
  app = createApp(running, pino({ level: 'silent' }))
})
afterAll(() => running.end())

let clients = 0
const book = () =>
  addBookedClient(
    running.application,
    running.commands,
    `Payer ${(clients += 1)}`,
    `p${clients}@mail.example`,
    40,
  )
const invoicesOf = (bookingId: string) =>
  running.application.store.statements.all('invoicesOfBooking', { bookingId }).map(asInvoice)
const depositOf = (bookingId: string) => {
  const found = invoicesOf(bookingId).find(({ reason }) => reason === 'deposit')
  if (!found) throw new Error('There is no deposit')
  return found
}
const pathTo = (invoiceId: string) =>
  new URL(running.application.settings.required().clientLinks.pay(invoiceId)).pathname
const told = (body: unknown, key = running.application.store.keys.payments) => {
  const text = typeof body === 'string' ? body : JSON.stringify(body)
  const signature = createHmac('sha256', key).update(text).digest('hex')
  return request(app)
    .post('/hooks/payments')
    .type('application/json')
    .set('Vorfreude-Signature', `sha256=${signature}`)
    .send(text)
}

describe('what is told about a payment', () => {
  test('counts once, however often it is told', async () => {
    const bookingId = book()
    const { id, amountCents } = depositOf(bookingId)
    const body = { about: id, reference: `${id}-0`, cents: amountCents, outcome: 'paid' }
    expect(
      await Promise.all([told(body), told(body)]).then((all) => all.map(({ status }) => status)),
    ).toEqual([204, 204])
    expect((await told(body)).status).toBe(204)
    expect(depositOf(bookingId)).toMatchObject({ payments: [{ cents: amountCents, by: 'page' }] })
    expect(depositOf(bookingId).paidAt).not.toBeNull()
    expect((await request(app).get(pathTo(id))).text).toContain('This is paid. Thank you.')
  })

  test('refused or pending it changes nothing', async () => {
    const bookingId = book()
    const { id, amountCents } = depositOf(bookingId)
    for (const outcome of ['refused', 'pending']) {
      expect((await told({ about: id, reference: 'r', cents: amountCents, outcome })).status).toBe(204)
    }
    expect(openOf(depositOf(bookingId))).toBe(amountCents)
    const page = await request(app).get(`${pathTo(id)}?outcome=refused`)
    expect(page.text).toContain('The payment was refused; nothing was taken.')
  })

  test.each<[string, () => ReturnType<typeof told>, number]>([
    [
      'signed by somebody else',
      () => told({ about: 'in_x', reference: 'r', cents: 1, outcome: 'paid' }, 'other'),
      401,
    ],
    ['that is no JSON', () => told('{'), 400],
    ['of a negative amount', () => told({ about: 'in_x', reference: 'r', cents: -1, outcome: 'paid' }), 400],
    ['about nothing', () => told({ about: 'in_gone', reference: 'r', cents: 1, outcome: 'paid' }), 404],
  ])('%s it is not taken', async (_, tell, status) => {
    const before = running.application.store.statements.all('invoicesToPreview')
    expect((await tell()).status).toBe(status)
    expect(running.application.store.statements.all('invoicesToPreview')).toEqual(before)
  })
})

describe('the page of an invoice', () => {
  test('says what is open and leads to where that is paid, by a link nobody can change', async () => {
    const { id, number } = depositOf(book())
    const page = await request(app).get(pathTo(id))
    expect(page.text).toContain(`Invoice ${number ?? ''}`)
    expect(page.text).toContain('Pay €20.00')
    const href = (/class="act first" href="([^"]+)"/.exec(page.text)?.[1] ?? '').replaceAll('&amp;', '&')
    const paying = await (await fetch(href)).text()
    expect(paying).toContain('€20.00')
    const altered = await fetch(href.replace('cents=2000', 'cents=20'))
    expect([altered.status, await altered.text()]).toEqual([
      400,
      expect.stringContaining('changed on its way'),
    ])
  })

  test('of another client, forged, or for another purpose is not shown', async () => {
    const bookingId = book()
    const { id } = depositOf(bookingId)
    const { links } = running.application.store.keys
    const own = { links, formerLinks: null }
    expect((await request(app).get(`/pay/${signedToken('booking', id, own)}`)).status).toBe(404)
    expect((await request(app).get(`${pathTo(id).slice(0, -2)}xx`)).status).toBe(404)
  })

  test('is reached from the booking, and says so once nothing is to be paid any more', async () => {
    const bookingId = book()
    const { id } = depositOf(bookingId)
    const own = new URL(running.application.settings.required().clientLinks.booking(bookingId)).pathname
    expect((await request(app).get(own)).text).toContain(pathTo(id))
    running.commands.voidInvoice(call('voidInvoice'), id)
    expect((await request(app).get(pathTo(id))).text).toContain('There is nothing to pay here any more.')
    expect((await request(app).get(own)).text).not.toContain(pathTo(id))
  })
})

describe('the page for paying', () => {
  test.each([
    ['once', 1],
    ['twice', 2],
    ['never', 0],
  ])('tells it %s, and leads back', async (way, times) => {
    const heard: string[] = []
    const listener = createServer((asked, answer) => {
      let body = ''
      asked.on('data', (part: Buffer) => (body += part.toString()))
      asked.on('end', () => {
        heard.push(`${String(asked.headers['vorfreude-signature'])} ${body}`)
        answer.writeHead(204).end()
      })
    }).listen(0, '127.0.0.1')
    await new Promise((resolve) => listener.once('listening', resolve))
    const { port } = listener.address() as { port: number }
    const standIn = await startPaymentsHere('key')
    try {
      const asked: AskedPayment = {
        about: 'in_1',
        reference: `in_1-${way}`,
        cents: 2_000,
        words: 'Kiteworks',
        language: 'en',
        back: 'http://127.0.0.1:1/pay/x',
        tell: `http://127.0.0.1:${port}/hooks/payments`,
      }
      const url = linkToPay(standIn.url(), asked, 'key')
      const press = () =>
        fetch(url, {
          method: 'POST',
          redirect: 'manual',
          headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
          body: `outcome=paid&told=${way}`,
        })
      expect((await press()).headers.get('location')).toBe('http://127.0.0.1:1/pay/x?outcome=paid')
      // Pressed again, by a reload or a second tab, nothing is taken twice.
      await press()
      const text = JSON.stringify({ about: 'in_1', reference: `in_1-${way}`, cents: 2_000, outcome: 'paid' })
      const signature = createHmac('sha256', 'key').update(text).digest('hex')
      expect(heard).toEqual(Array.from({ length: times }, () => `sha256=${signature} ${text}`))
      expect(await (await fetch(url)).text()).toContain('This has been paid.')
    } finally {
      await standIn.stop()
      listener.close()
    }
  })
})

test('a client confirms a booking from the mailbox: opening changes nothing, one press does it, a second does no harm', async () => {
  const bookingId = book()
  const { commands, application } = running
  const { clientId } = readBooking(application.store.statements, bookingId) ?? { clientId: '' }
  const made = commands.makeBooking(call('makeBooking'), {
    clientId,
    serviceId: lesson.id,
    startLocal: '2026-07-10T19:00',
    endLocal: '2026-07-10T21:00',
    partySize: 1,
    status: 'requested',
    personInChargeId: null,
  })
  if (!made.ok) throw new Error(made.problem.sentence)
  const statusOf = () => readBooking(application.store.statements, made.value.id)?.status
  const path = new URL(application.settings.required().clientLinks.booking(made.value.id)).pathname
  expect((await request(app).get(path)).text).toContain('Your booking counts once you confirm it.')
  expect((await request(app).get(`${path}/confirm`)).text).toContain('Yes, confirm it')
  expect(statusOf()).toBe('requested')
  const press = (revision: number) =>
    request(app)
      .post(`${path}/confirm`)
      .type('form')
      .send({ revision: String(revision) })
  expect((await press(99)).text).toContain('This booking has been changed meanwhile.')
  expect((await press(1)).text).toContain('Your booking is confirmed.')
  expect(statusOf()).toBe('confirmed')
  expect((await press(1)).status).toBe(200)
  expect(invoicesOf(made.value.id)).toHaveLength(2)
  commands.cancelBooking(call('cancelBooking'), made.value.id, 2)
  expect((await press(3)).text).toContain('does not wait for you to confirm it')
})
