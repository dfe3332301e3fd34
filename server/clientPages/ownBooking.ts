import { refusalWords } from '#core/booking/refusalWords.ts'
import { closedToClient } from '#core/engine/commands/clientBooking.ts'
import { bookingRows, momentAtPlace } from '#core/letters/bookingWords.ts'
import { escapeHtml } from '#core/letters/html.ts'
import { longDateIn, moneyIn } from '#core/letters/language.ts'
import type { Booking } from '#core/model/booking.ts'
import type { ClientAct } from '#core/model/clientAct.ts'
import type { Business, Service } from '#core/model/business.ts'
import type { Invoice } from '#core/model/dealings.ts'
import { awaitsClient, cancellingFee, freeUntil, isOffered, openOf, priceOf } from '#core/model/policy.ts'
import type { Language } from '#core/model/values.ts'
import { placeZone, serviceOf } from '#core/planning/slice.ts'
import { dayMs, epochDayOf } from '#core/time/calendar.ts'
import type { Zone } from '#core/time/zones.ts'
import { readBooking } from '../db/clientStore.ts'
import { focusOn } from '../db/livingStore.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { idOfToken } from '../mail/signedLinks.ts'
import { hidden } from './form.ts'
import { pageWords } from './words.ts'

/** A booking by the link of its client. */
export interface OwnBooking {
  readonly booking: Booking
  readonly service: Service
  readonly zone: Zone
  /** Null: not known. */
  readonly readerZone: Zone | null
  readonly language: Language
  readonly invoices: readonly Invoice[]
  /** Where an invoice is paid. */
  readonly payUrl: (invoiceId: string) => string
  /** Where this page is. */
  readonly bookingUrl: string
  /** Null: the link opens all that can be done with the booking; else only this. */
  readonly only: ClientAct | null
}

/** So long after a booking is over its link leads to it. */
const lastsMs = 90 * dayMs

/** A link that leads to no booking, and why. */
export interface Nowhere {
  readonly why: 'unknown' | 'ended'
  readonly language: Language
}
const unknown: Nowhere = { why: 'unknown', language: 'en' }

/** Which booking a link opens, and what of it. */
function opened({ application }: RunningApplication, token: string, act: ClientAct | null) {
  const { keys } = application.store
  const whole = idOfToken('booking', token, keys)
  return whole !== null || act === null
    ? { id: whole, only: null }
    : { id: idOfToken(act, token, keys), only: act }
}

/** The booking a link leads to. `act`: what it is to be opened for; a link for another act does not lead there. */
export function ownBooking(
  running: RunningApplication,
  token: string,
  act: ClientAct | null = null,
): OwnBooking | Nowhere {
  const { application } = running
  const { id, only } = opened(running, token, act)
  const booking = id === null ? null : readBooking(application.store.statements, id)
  const slice = booking ? application.sliceOf(booking.clientId, focusOn(booking.id)) : null
  if (!slice || !booking) return unknown
  const { client } = slice.facts
  const { language } = client
  if (application.clock.now() > booking.endAt + lastsMs) return { why: 'ended', language }
  const { settings } = slice
  const service = serviceOf(settings, booking.serviceId)
  return {
    booking,
    service,
    zone: placeZone(settings, service),
    readerZone: client.zone === null ? null : settings.zones.zone(client.zone),
    language,
    invoices: slice.facts.invoices.filter(({ bookingId }) => bookingId === booking.id),
    payUrl: settings.clientLinks.pay,
    bookingUrl: settings.clientLinks.booking(booking.id),
    only,
  }
}

/** A fact with its name; nothing where there is none. */
export const row = (label: string, value: string) =>
  value === '' ? '' : `<dt>${escapeHtml(label)}</dt><dd>${escapeHtml(value)}</dd>`

/** What was booked. */
export function factsOf({ booking, service, zone, readerZone, language }: OwnBooking): string {
  const words = pageWords[language]
  const price = priceOf(service, booking)
  const rows = bookingRows(booking, service, { zone, readerZone }, language).map(({ label, value }) =>
    row(label, value),
  )
  const directions =
    service.offer.directions === '' || booking.status === 'cancelled'
      ? ''
      : `<p class="quiet">${words.howToGetThere}: ${escapeHtml(service.offer.directions)}</p>`
  return `<dl>${rows.join('')}${price === null ? '' : row(words.price, moneyIn(language, price))}</dl>${directions}`
}

/** How a booking stands for its client, and whether anything can be done about it here. */
export function stateOf({ booking, service, language }: OwnBooking, { phone }: Business, now: number) {
  const words = pageWords[language]
  const { isCancelled, isOver } = refusalWords[language]
  const closed = closedToClient(service, booking, now)
  const fee = booking.cancellation?.feeCents ?? 0
  const sentences = {
    cancelled: fee > 0 ? `${isCancelled} ${words.feeDue(moneyIn(language, fee))}` : isCancelled,
    over: isOver,
    late: words.isLate(phone),
  }
  const asked = awaitsClient(service, booking) ? words.statusUnconfirmed : words.statusRequested
  const standing = booking.status === 'requested' ? asked : words.statusConfirmed
  return { closed, sentence: closed === null ? standing : sentences[closed] }
}

const act = (href: string, words: string, isFirst = false) =>
  // Shown within the business's own web site, it leads out of there: what changes something is a page for itself.
  `<p><a class="act${isFirst ? ' first' : ''}" href="${escapeHtml(href)}" target="_top">${words}</a></p>`

/** What is still to be paid, each with its way to do so. */
export function owedOf({ invoices, payUrl, language, only }: OwnBooking): string {
  const words = pageWords[language]
  const open = only === null ? invoices.filter((one) => openOf(one) > 0) : []
  const lines = open.map((one) => {
    const due = one.dueOn === null ? '' : `, ${words.due} ${longDateIn(language, epochDayOf(one.dueOn))}`
    const said = `${words.asksFor[one.reason]}${due}`
    const link = act(new URL(payUrl(one.id)).pathname, words.pay(moneyIn(language, openOf(one))))
    return `<p>${escapeHtml(said)}</p>${link}`
  })
  return lines.length === 0 ? '' : `<h2>${words.toPay}</h2>${lines.join('')}`
}

/** What can be done with a booking, each a page of its own: opening it changes nothing. */
export function actsOf(
  { booking, service, language, only }: OwnBooking,
  path: string,
  { phone }: Business,
  now: number,
): string {
  if (only !== null) return ''
  const words = pageWords[language]
  const closed = closedToClient(service, booking, now)
  // Only what is offered there has times to choose from.
  const hasTimes = isOffered(service)
  if (closed === 'cancelled' || closed === 'over') return hasTimes ? act(`${path}/again`, words.again) : ''
  const awaits = awaitsClient(service, booking)
  const confirm = awaits ? act(`${path}/confirm`, words.confirm, true) : ''
  const calendar = confirm + act(`${path}/appointment.ics`, words.calendar, !awaits)
  if (closed === 'late') return calendar
  const cancel = act(`${path}/cancel`, words.cancel)
  return hasTimes
    ? calendar + act(`${path}/move`, words.move) + cancel
    : `${calendar}${cancel}<p>${escapeHtml(words.toMove(phone))}</p>`
}

/** What cancelling costs now, and until when it costs nothing. */
function policyWords({ booking, service, zone, readerZone, language }: OwnBooking, now: number): string {
  const words = pageWords[language]
  const fee = cancellingFee(service, booking, now)
  if (fee > 0) return words.fee(moneyIn(language, fee))
  const until = freeUntil(service, booking)
  const isLimited = service.offer.cancelling.feePercent > 0 && service.offer.price !== null
  return isLimited && until > now && booking.status !== 'requested'
    ? words.free(momentAtPlace({ zone, readerZone }, until, language))
    : words.freeNow
}

/** The way back to the booking, where the link opens that, too. */
export const backTo = ({ only }: OwnBooking, path: string, words: string) =>
  only === null ? `<p><a class="act" href="${escapeHtml(path)}">${words}</a></p>` : ''

/** The one press that makes a booking count. */
export function confirmForm(own: OwnBooking, path: string): string {
  const words = pageWords[own.language]
  const { revision } = own.booking
  return `<h2>${words.confirmTitle}</h2>${factsOf(own)}<form method="post">${hidden('revision', String(revision))}<button>${words.confirmNow}</button></form>${backTo(own, path, words.keep)}`
}

/** The question before cancelling: what it costs, why, and the one press that does it. */
export function cancelForm(own: OwnBooking, path: string, now: number): string {
  const words = pageWords[own.language]
  const { revision } = own.booking
  return `<h2>${words.cancelTitle}</h2>${factsOf(own)}<p>${escapeHtml(policyWords(own, now))}</p><p>${words.really}</p><form method="post">${hidden('revision', String(revision))}<label for="reason">${words.reason}</label><textarea id="reason" name="reason" rows="3" maxlength="1000"></textarea><button>${words.yesCancel}</button></form>${backTo(own, path, words.noKeep)}`
}
