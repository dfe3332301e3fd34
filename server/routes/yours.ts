import express, { type Request, type Response, type Router } from 'express'
import { bookableDays } from '#core/booking/freeTimes.ts'
import { refusalWords } from '#core/booking/refusalWords.ts'
import { appointmentOf } from '#core/letters/appointment.ts'
import { escapeHtml } from '#core/letters/html.ts'
import { momentAtPlace } from '#core/letters/bookingWords.ts'
import { dayAt } from '#core/time/zones.ts'
import type { ClientAct } from '#core/model/clientAct.ts'
import { awaitsClient, isOffered } from '#core/model/policy.ts'
import type { Result } from '#core/model/problem.ts'
import { choosingBody } from '../clientPages/choosing.ts'
import { formBody } from '../clientPages/clientForms.ts'
import { alertBox, hidden } from '../clientPages/form.ts'
import {
  actsOf,
  backTo,
  cancelForm,
  confirmForm,
  factsOf,
  owedOf,
  ownBooking,
  stateOf,
  type Nowhere,
  type OwnBooking,
} from '../clientPages/ownBooking.ts'
import { sendClientPage } from '../clientPages/page.ts'
import { monthOf } from '../clientPages/times.ts'
import { addressWith, shownAt, visitOf } from '../clientPages/visit.ts'
import { pageWords } from '../clientPages/words.ts'
import { readPresentClient } from '../db/clientMerges.ts'
import { readRows } from '../db/unreadable.ts'
import { callOf } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { calendarFile } from '../mail/calendarFile.ts'
import { idOfToken } from '../mail/signedLinks.ts'
import { bookingLine } from './lines.ts'

/** A client's own act: pressed twice it is one and the same command. */
const byClient = (name: string, { id, revision }: OwnBooking['booking'], to = '') =>
  callOf(name, `by-client-${name}-${id}-${revision}-${to}`)

/** How pages of one booking are shown. */
interface Showing {
  readonly status?: number
  readonly zone?: string
  readonly isEmbeddable?: boolean
}

function pagesOf(running: RunningApplication) {
  const { application } = running
  const business = () => application.settings.required().business
  const show = (
    response: Response,
    one: OwnBooking | Nowhere,
    body = '',
    { status = 200, zone, isEmbeddable = false }: Showing = {},
  ) => {
    const { language } = one
    sendClientPage(response, {
      status: 'why' in one ? 404 : status,
      language,
      title: pageWords[language].yours,
      heading: business().name,
      body: 'why' in one ? `<p>${pageWords[language][one.why]}</p>` : body,
      isEmbeddable,
      ...(zone === undefined ? {} : { zone }),
    })
  }
  /** The page itself: what was booked, how it stands, what can be done. */
  const showOwn = (
    response: Response,
    token: string,
    act: ClientAct | null = null,
    said = '',
    status = 200,
  ) => {
    const one = ownBooking(running, token, act)
    if ('why' in one) {
      show(response, one)
      return
    }
    const now = application.clock.now()
    const path = pathOf(token)
    const { sentence } = stateOf(one, business(), now)
    const body = `${said}${factsOf(one)}<p>${escapeHtml(sentence)}</p>${actsOf(one, path, business(), now)}${owedOf(one)}`
    // It stands where the public page stood, and nothing on it changes anything.
    show(response, one, body, { status, isEmbeddable: true })
  }
  /** A booking that can still be changed here; else its page is shown, and null. */
  const changeable = (response: Response, token: string, act: ClientAct): OwnBooking | null => {
    const one = ownBooking(running, token, act)
    if (!('why' in one) && stateOf(one, business(), application.clock.now()).closed === null) return one
    showOwn(response, token, act)
    return null
  }
  /** What came of an act: the booking's page, with what went wrong. */
  const after = (response: Response, token: string, act: ClientAct, result: Result<unknown>, done = '') => {
    if (result.ok) showOwn(response, token, act, done)
    else showOwn(response, token, act, alertBox(result.problem.sentence), 409)
  }
  return { business, show, showOwn, changeable, after }
}

const pathOf = (token: string) => `/yours/${encodeURIComponent(token)}`

/** Choosing another time, and the press that moves the booking there. */
function moveRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { show, showOwn, changeable, after } = pagesOf(running)
  router.get('/yours/:token/move', (request, response) => {
    const { token } = request.params
    const one = changeable(response, token, 'move')
    if (!one) return
    if (!isOffered(one.service)) {
      showOwn(response, token, 'move')
      return
    }
    const words = pageWords[one.language]
    const visit = { ...visitOf(application, request), language: one.language }
    const { service, booking, zone } = one
    const path = `${pathOf(token)}/move`
    const { at, month: asked, day, zone: readerZone } = visit.asked
    const shown = shownAt(visit, zone, addressWith(path, { month: asked, day, zone: readerZone }))
    const reader = shown.readerZone ?? one.readerZone
    const now = momentAtPlace({ zone, readerZone: reader }, booking.startAt, one.language)
    const head = `<h2>${words.moveTitle}</h2><dl><dt>${words.nowAt}</dt><dd>${escapeHtml(now)}</dd>`
    const keep = backTo(one, pathOf(token), words.keep)
    if (at !== undefined) {
      const to = momentAtPlace({ zone, readerZone: reader }, at, one.language)
      const form = `<form method="post">${hidden('at', String(at))}${hidden('revision', String(booking.revision))}<button>${words.moveNow}</button></form>`
      show(
        response,
        one,
        `${head}<dt>${words.newTime}</dt><dd>${escapeHtml(to)}</dd></dl><p>${words.willMove}</p>${form}${keep}`,
      )
      return
    }
    const { fromDay } = bookableDays(visit.settings, service, visit.now)
    const ownDay = dayAt(zone, booking.startAt)
    const month = asked ?? (ownDay >= fromDay ? monthOf(ownDay) : undefined)
    const body = choosingBody({
      application,
      visit: { ...visit, asked: { ...visit.asked, month } },
      service,
      shown: { ...shown, readerZone: reader },
      partySize: booking.partySize,
      exceptBookingId: booking.id,
    })
    show(response, one, `${head}</dl>${body}${keep}`, { zone: zone.name })
  })
  router.post('/yours/:token/move', express.urlencoded({ extended: false }), (request, response) => {
    const token = request.params.token
    const one = changeable(response, token, 'move')
    if (!one) return
    const { at = '', revision = '' } = formBody.parse(request.body)
    const startAt = Number(at)
    const call = byClient('moveByClient', { ...one.booking, revision: Number(revision) }, String(startAt))
    const result = commands.moveByClient(call, one.booking.id, Number(revision), startAt)
    after(response, token, 'move', result, `<p role="status"><b>${pageWords[one.language].moved}</b></p>`)
  })
}

/** What counts only once its client says so, from the mailbox they gave. */
function confirmRoutes(router: Router, running: RunningApplication) {
  const { commands } = running
  const { show, showOwn, after } = pagesOf(running)
  router.get('/yours/:token/confirm', (request, response) => {
    const { token } = request.params
    const one = ownBooking(running, token, 'confirm')
    if ('why' in one || !awaitsClient(one.service, one.booking)) showOwn(response, token, 'confirm')
    else show(response, one, confirmForm(one, pathOf(token)))
  })
  router.post('/yours/:token/confirm', express.urlencoded({ extended: false }), (request, response) => {
    const { token } = request.params
    const one = ownBooking(running, token, 'confirm')
    if ('why' in one || one.booking.status === 'confirmed') {
      showOwn(response, token, 'confirm')
      return
    }
    const revision = Number(formBody.parse(request.body)['revision'] ?? one.booking.revision)
    const call = byClient('confirmByClient', { ...one.booking, revision })
    after(response, token, 'confirm', commands.confirmByClient(call, one.booking.id, revision))
  })
}

function cancelRoutes(router: Router, running: RunningApplication) {
  const { application, commands } = running
  const { show, changeable, after } = pagesOf(running)
  router.get('/yours/:token/cancel', (request, response) => {
    const one = changeable(response, request.params.token, 'cancel')
    if (one) show(response, one, cancelForm(one, pathOf(request.params.token), application.clock.now()))
  })
  router.post('/yours/:token/cancel', express.urlencoded({ extended: false }), (request, response) => {
    const token = request.params.token
    const one = changeable(response, token, 'cancel')
    if (!one) return
    const { reason = '', revision } = formBody.parse(request.body)
    const decidedOn = revision === undefined ? one.booking.revision : Number(revision)
    const call = byClient('cancelByClient', { ...one.booking, revision: decidedOn })
    after(
      response,
      token,
      'cancel',
      commands.cancelByClient(call, one.booking.id, decidedOn, reason.slice(0, 1000)),
    )
  })
}

/** So many bookings stand on the page of all of them, the newest first. */
const mostLines = 60

/** All bookings of one client, by a link of its own. */
function allRoutes(router: Router, { application }: RunningApplication) {
  router.get('/all/:token', (request: Request<{ token: string }>, response) => {
    const { statements, keys } = application.store
    const id = idOfToken('all bookings', request.params.token, keys)
    const client = id === null ? null : readPresentClient(statements, id)
    const language = client?.language ?? 'en'
    const words = pageWords[language]
    const settings = application.settings.required()
    const { business, clientLinks, zones } = settings
    const rows = client
      ? statements.all('bookingLinesOfClient', { clientId: client.id, afterId: null, limit: mostLines })
      : []
    const lines = readRows(statements, 'booking', rows, (row) => bookingLine(settings, row)).map(
      ({ id: bookingId, serviceName, placeZone, startAt, status }) => {
        const when = momentAtPlace({ zone: zones.zone(placeZone), readerZone: null }, startAt, language)
        const path = new URL(clientLinks.booking(bookingId)).pathname
        const state = status === 'cancelled' ? ` · ${refusalWords[language].isCancelled}` : ''
        return `<li><a href="${escapeHtml(path)}">${escapeHtml(`${serviceName}, ${when}`)}</a>${state}</li>`
      },
    )
    const list = lines.length === 0 ? `<p>${words.noneYours}</p>` : `<ul class="times">${lines.join('')}</ul>`
    sendClientPage(response, {
      status: client ? 200 : 404,
      language,
      title: words.all,
      heading: business.name,
      body: client ? `<h2>${words.all}</h2>${list}` : `<p>${words.unknown}</p>`,
    })
  })
}

/**
 * The pages of one booking for its client: what was booked, into the calendar, move, cancel, book again. No sign-in, a
 * signed link. Opening any of them changes nothing: scanners of mail follow links.
 */
export function yoursRoutes(router: Router, running: RunningApplication) {
  const { application } = running
  const { business, show, showOwn } = pagesOf(running)
  router.get('/yours/:token', (request, response) => showOwn(response, request.params.token))
  router.get('/yours/:token/again', (request, response) => {
    const one = ownBooking(running, request.params.token, 'again')
    if ('why' in one || !isOffered(one.service)) showOwn(response, request.params.token, 'again')
    else
      response.redirect(303, `/book/${one.service.id}?lang=${one.language}&people=${one.booking.partySize}`)
  })
  router.get('/yours/:token/appointment.ics', (request, response) => {
    const one = ownBooking(running, request.params.token, 'calendar')
    const appointment = 'why' in one ? null : appointmentOf({ ...one, business: business() })
    if (!appointment) {
      show(response, one)
      return
    }
    response
      .set('Cache-Control', 'no-store')
      .attachment('appointment.ics')
      .type('text/calendar')
      .send(calendarFile(appointment, application.clock.now()))
  })
  confirmRoutes(router, running)
  moveRoutes(router, running)
  cancelRoutes(router, running)
  allRoutes(router, running)
}
