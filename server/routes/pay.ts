import { createHash } from 'node:crypto'
import express, { type Request, type Router } from 'express'
import { bookingWords } from '#core/engine/following/bookingStatus.ts'
import { escapeHtml } from '#core/letters/html.ts'
import { longDateIn, moneyIn } from '#core/letters/language.ts'
import type { Invoice } from '#core/model/dealings.ts'
import { openOf, paidFor } from '#core/model/policy.ts'
import type { Language } from '#core/model/values.ts'
import { dayMs, epochDayOf } from '#core/time/calendar.ts'
import { row } from '../clientPages/ownBooking.ts'
import { pageWords } from '../clientPages/words.ts'
import { sendClientPage } from '../clientPages/page.ts'
import { readBooking, readClient, readInvoice } from '../db/clientStore.ts'
import { callOf } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { idOfToken } from '../mail/signedLinks.ts'
import { isSigned, linkToPay, toldPayment } from '../standins/payments/asking.ts'

/** So long after it was due the link to pay an invoice leads to it. */
const lastsMs = 365 * dayMs

function rowsOf(invoice: Invoice, language: Language): string {
  const words = pageWords[language]
  const money = (cents: number) => moneyIn(language, cents)
  const paid = paidFor(invoice)
  return [
    row(words.amount, money(invoice.amountCents)),
    ...(paid > 0 ? [row(words.paidSoFar, money(paid)), row(words.open, money(openOf(invoice)))] : []),
    ...(invoice.dueOn === null ? [] : [row(words.due, longDateIn(language, epochDayOf(invoice.dueOn)))]),
  ].join('')
}

/** Where the amount that is open is paid; null: that cannot be done here. The same amount has the same reference. */
function wayToPay(running: RunningApplication, invoice: Invoice, words: string, language: Language) {
  const { application, payments, publicUrl } = running
  if (payments === null) return null
  const back = application.settings.required().clientLinks.pay(invoice.id)
  const asked = {
    about: invoice.id,
    reference: `${invoice.id}-${paidFor(invoice)}-${invoice.amountCents}`,
    cents: openOf(invoice),
    words,
    language,
    back,
    tell: `${publicUrl()}/hooks/payments`,
  }
  return linkToPay(payments.url(), asked, application.store.keys.payments)
}

interface Found {
  readonly invoice: Invoice
  readonly language: Language
  /** What it is for. */
  readonly words: string
}

function foundBy({ application }: RunningApplication, token: string): Found | null {
  const { statements, keys } = application.store
  const id = idOfToken('pay', token, keys)
  const invoice = id === null ? null : readInvoice(statements, id)
  const client = invoice ? readClient(statements, invoice.clientId) : null
  if (!invoice || !client) return null
  const dueAt = invoice.dueOn === null ? invoice.issuedAt : epochDayOf(invoice.dueOn) * dayMs
  if (application.clock.now() > Math.max(dueAt, invoice.issuedAt) + lastsMs) return null
  const settings = application.settings.required()
  const booking = invoice.bookingId === null ? null : readBooking(statements, invoice.bookingId)
  const { language } = client
  const what = [pageWords[language].invoice(invoice.number), pageWords[language].asksFor[invoice.reason]]
  const forWhat = booking ? [bookingWords(settings, booking)] : []
  return { invoice, language, words: [settings.business.name, ...what, ...forWhat].join(' · ') }
}

/** What can be done about an invoice now, and what came of the last try. */
function stateOf(running: RunningApplication, { invoice, language, words }: Found, outcome: unknown): string {
  const said = pageWords[language]
  const { phone } = running.application.settings.required().business
  if (invoice.paidAt !== null) return `<p>${said.isPaid}</p>`
  if (openOf(invoice) === 0) return `<p>${said.isVoid}</p>`
  const tried = { refused: said.payRefused, pending: said.payPending, paid: said.payPending }
  const note = Object.hasOwn(tried, String(outcome)) ? tried[outcome as keyof typeof tried] : null
  const href = wayToPay(running, invoice, words, language)
  const way =
    href === null
      ? `<p>${escapeHtml(said.payByCall(phone))}</p>`
      : `<p><a class="act first" href="${escapeHtml(href)}">${escapeHtml(said.pay(moneyIn(language, openOf(invoice))))}</a></p>`
  return `${note === null ? '' : `<p class="alert" role="status">${note}</p>`}${way}`
}

/** What a text says as JSON; null: it is none. */
function readJson(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}

/**
 * The page of an invoice for its client, and where the page for paying tells what came in. Only what is signed counts,
 * and each payment once.
 */
export function payRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  router.get('/pay/:token', (request: Request<{ token: string }>, response) => {
    const found = foundBy(running, request.params.token)
    const language = found?.language ?? 'en'
    const words = pageWords[language]
    const body = found
      ? `<h2>${escapeHtml(words.invoice(found.invoice.number))}</h2><p>${escapeHtml(found.words)}</p><dl>${rowsOf(found.invoice, language)}</dl>${stateOf(running, found, request.query['outcome'])}`
      : `<p>${words.unknown}</p>`
    sendClientPage(response, {
      status: found ? 200 : 404,
      language,
      title: words.toPay,
      heading: application.settings.required().business.name,
      body,
    })
  })
  router.post('/hooks/payments', (request, response) => {
    const text = typeof request.body === 'string' ? request.body : ''
    const signature = (request.get('vorfreude-signature') ?? '').replace(/^sha256=/, '')
    if (!isSigned(text, signature, application.store.keys.payments)) {
      response.status(401).json({ title: 'The signature is wrong.' })
      return
    }
    const told = toldPayment.safeParse(readJson(text))
    if (!told.success) {
      response.status(400).json({ title: 'This is not what came of a payment.' })
      return
    }
    const { about, reference, cents, outcome } = told.data
    if (outcome === 'paid') {
      const once = createHash('sha256').update(`${about} ${reference}`).digest('hex').slice(0, 40)
      const call = callOf('receivePayment', `payment-${once}`)
      const received = commands.receivePayment(call, about, { reference, cents })
      if (!received.ok) {
        response.status(404).json({ title: received.problem.sentence })
        return
      }
    }
    response.status(204).end()
  })
}

/** What is told about payments is read as it came: its signature is that of the text. */
export const payTold = express.text({ type: () => true, limit: '16kb' })
