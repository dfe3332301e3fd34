import { type Router } from 'express'
import { bookingRows } from '#core/letters/bookingWords.ts'
import { appointmentOf } from '#core/letters/appointment.ts'
import { escapeHtml } from '#core/letters/html.ts'
import type { Language } from '#core/model/values.ts'
import type { Booking } from '#core/model/booking.ts'
import type { Service } from '#core/model/business.ts'
import { placeZone, serviceOf } from '#core/planning/slice.ts'
import { dayMs } from '#core/time/calendar.ts'
import type { Zone } from '#core/time/zones.ts'
import { readBooking } from '../db/clientStore.ts'
import { callOf } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { sendClientPage } from '../http/clientPage.ts'
import { calendarFile } from '../mail/calendarFile.ts'
import { idOfToken } from '../mail/signedLinks.ts'
import { focusOn } from '../db/livingStore.ts'

const words = {
  en: {
    title: 'Your booking',
    calendar: 'Add to your calendar',
    cancel: 'Cancel the booking…',
    really: 'Do you really want to cancel this booking?',
    yes: 'Yes, cancel it',
    no: 'No, keep it',
    isCancelled: 'This booking is cancelled.',
    isOver: 'This booking lies in the past.',
    change: 'To move it, answer the message or call',
    unknown: 'This link is not valid.',
    ended: 'This link has ended. Answer our message or call us.',
  },
  de: {
    title: 'Ihre Buchung',
    calendar: 'In den Kalender eintragen',
    cancel: 'Buchung absagen …',
    really: 'Wollen Sie diese Buchung wirklich absagen?',
    yes: 'Ja, absagen',
    no: 'Nein, behalten',
    isCancelled: 'Diese Buchung ist abgesagt.',
    isOver: 'Diese Buchung liegt in der Vergangenheit.',
    change: 'Zum Verschieben antworten Sie auf die Nachricht oder rufen an:',
    unknown: 'Dieser Link ist nicht gültig.',
    ended: 'Dieser Link gilt nicht mehr. Antworten Sie auf unsere Nachricht oder rufen Sie an.',
  },
} as const

interface Found {
  readonly booking: Booking
  readonly service: Service
  readonly zone: Zone
  /** Null: not known. */
  readonly readerZone: Zone | null
  readonly language: Language
  /** Where this page is. */
  readonly bookingUrl: string
}

/** So long after a booking is over its link leads to it. */
const lastsMs = 90 * dayMs

/** A link that leads to no booking, and why. */
interface Nowhere {
  readonly why: 'unknown' | 'ended'
  readonly language: Language
}
const unknown: Nowhere = { why: 'unknown', language: 'en' }

function found({ application }: RunningApplication, token: string): Found | Nowhere {
  const id = idOfToken('booking', token, application.store.keys)
  const booking = id === null ? null : readBooking(application.store.statements, id)
  const slice = booking ? application.sliceOf(booking.clientId, focusOn(booking.id)) : null
  if (!slice || !booking) return unknown
  const { language } = slice.facts.client
  if (application.clock.now() > booking.endAt + lastsMs) return { why: 'ended', language }
  const service = serviceOf(slice.settings, booking.serviceId)
  const { client } = slice.facts
  const readerZone = client.zone === null ? null : slice.settings.zones.zone(client.zone)
  const bookingUrl = slice.settings.clientLinks.booking(booking.id)
  return { booking, service, zone: placeZone(slice.settings, service), readerZone, language, bookingUrl }
}

function factsOf({ booking, service, zone, readerZone, language }: Found): string {
  const rows = bookingRows(booking, service, { zone, readerZone }, language)
  return `<dl>${rows.map(({ label, value }) => `<dt>${label}</dt><dd>${escapeHtml(value)}</dd>`).join('')}</dl>`
}

function stateOf({ booking, language }: Found, now: number): string | null {
  if (booking.status === 'cancelled') return words[language].isCancelled
  return booking.startAt <= now || booking.status === 'completed' || booking.status === 'missed'
    ? words[language].isOver
    : null
}

/** A client's own cancelling: pressed twice it is one and the same command. */
const byClient = ({ id, revision }: Found['booking']) =>
  callOf('cancelBooking', `by-client-${id}-${revision}`)

/** The page of one booking for its client: what was booked, into the calendar, cancel. No sign-in, a signed link. */
export function yoursRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const business = () => application.settings.required().business
  const page = (response: Parameters<typeof sendClientPage>[0], one: Found | Nowhere, body = '') => {
    const { language } = one
    sendClientPage(response, {
      status: 'why' in one ? 404 : 200,
      language,
      title: words[language].title,
      heading: business().name,
      body: 'why' in one ? `<p>${words[language][one.why]}</p>` : factsOf(one) + body,
    })
  }

  router.get('/yours/:token', (request, response) => {
    const one = found(running, request.params.token)
    if ('why' in one) {
      page(response, one)
      return
    }
    const own = words[one.language]
    const state = stateOf(one, application.clock.now())
    const { phone } = business()
    const acts =
      `<p><a class="act first" href="/yours/${encodeURIComponent(request.params.token)}/appointment.ics">${own.calendar}</a></p>` +
      `<p><a class="act" href="/yours/${encodeURIComponent(request.params.token)}/cancel">${own.cancel}</a></p>` +
      `<p>${own.change} ${escapeHtml(phone)}</p>`
    page(response, one, state === null ? acts : `<p>${state}</p>`)
  })

  router.get('/yours/:token/appointment.ics', (request, response) => {
    const one = found(running, request.params.token)
    const appointment = 'why' in one ? null : appointmentOf({ ...one, business: business() })
    if (!appointment) {
      page(response, 'why' in one ? one : unknown)
      return
    }
    response
      .set('Cache-Control', 'no-store')
      .attachment('appointment.ics')
      .type('text/calendar')
      .send(calendarFile(appointment, application.clock.now()))
  })

  router.get('/yours/:token/cancel', (request, response) => {
    const one = found(running, request.params.token)
    const state = 'why' in one ? null : stateOf(one, application.clock.now())
    const own = words[one.language]
    const back = `/yours/${encodeURIComponent(request.params.token)}`
    const question = `<p>${own.really}</p><form method="post"><button>${own.yes}</button></form><p><a class="act" href="${back}">${own.no}</a></p>`
    page(response, one, state === null ? question : `<p>${state}</p>`)
  })

  router.post('/yours/:token/cancel', (request, response) => {
    const one = found(running, request.params.token)
    if (!('why' in one) && stateOf(one, application.clock.now()) === null) {
      const { id, revision } = one.booking
      commands.cancelBooking(byClient(one.booking), id, revision)
    }
    const after = found(running, request.params.token)
    page(response, after, 'why' in after ? '' : `<p>${stateOf(after, application.clock.now()) ?? ''}</p>`)
  })
}
