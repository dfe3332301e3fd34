import { createHash } from 'node:crypto'
import express, { type Request, type RequestHandler, type Response, type Router } from 'express'
import { z } from 'zod'
import type { FreeTime } from '#core/booking/freeTimes.ts'
import { freeForClients } from '#core/engine/commands/clientBooking.ts'
import type { Service } from '#core/model/business.ts'
import { isOffered } from '#core/model/policy.ts'
import type { Problem } from '#core/model/problem.ts'
import { emailAddress, oneLine, requiredLine } from '#core/model/values.ts'
import { placeZone } from '#core/planning/slice.ts'
import { detailsBody, languageLink, offersBody, peopleForm, serviceHead } from '../clientPages/bookPages.ts'
import { choosingBody, nearestTo } from '../clientPages/choosing.ts'
import { formBody, formStamp, paceOf } from '../clientPages/clientForms.ts'
import { nothingTyped, type Typed } from '../clientPages/form.ts'
import { clockScript, sendClientPage } from '../clientPages/page.ts'
import { turnedAway } from '../clientPages/turnedAway.ts'
import { address, asked, shownAt, visitOf, type Visit } from '../clientPages/visit.ts'
import { pageWords, type PageWords } from '../clientPages/words.ts'
import { callOf, type Application } from '../engine/application.ts'
import { diaryBetween } from '../engine/diaries.ts'
import type { Booker } from '../engine/commands/knownClients.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { limitBookingsByAccount, limitBookingsByNetwork } from '../http/rateLimits.ts'

function page(response: Response, visit: Visit, status: number, body: string, zone: string) {
  const { language, settings } = visit
  sendClientPage(response, {
    status,
    language,
    title: pageWords[language].book,
    heading: settings.business.name,
    body,
    zone,
    isEmbeddable: true,
  })
}

const offered = (visit: Visit, id: unknown) =>
  visit.settings.services.find((one) => one.id === id && isOffered(one))

function offers(response: Response, visit: Visit, status: number) {
  const { zone } = visit.settings.business
  page(response, visit, status, languageLink(visit, '/book') + offersBody(visit), zone)
}

/** The form for a chosen time, and what is wrong with what was sent. */
interface Answer {
  readonly status: number
  readonly typed: Typed
  readonly alert: string | null
  /** Other free times where the chosen one is gone. */
  readonly instead: readonly FreeTime[]
}

function details(
  { application }: RunningApplication,
  response: Response,
  visit: Visit,
  service: Service,
  at: number,
  { status, ...said }: Answer,
) {
  const zone = placeZone(visit.settings, service)
  const shown = shownAt(visit, zone, address(`/book/${service.id}`, visit))
  const stamp = formStamp(application.store.keys)
  page(response, visit, status, detailsBody({ visit, service, shown, at, stamp, ...said }), zone.name)
}

const chooseTime =
  ({ application }: RunningApplication): RequestHandler =>
  (request, response) => {
    const visit = visitOf(application, request)
    const service = offered(visit, request.params['id'])
    if (!service) {
      offers(response, visit, 404)
      return
    }
    const path = `/book/${service.id}`
    if (visit.asked.at !== undefined) {
      response.redirect(303, address(`${path}/details`, visit)({}))
      return
    }
    const zone = placeZone(visit.settings, service)
    const shown = shownAt(visit, zone, address(path, visit))
    const { people: partySize } = visit.asked
    const body = choosingBody({ application, visit, service, shown, partySize, exceptBookingId: null })
    const head = languageLink(visit, path) + serviceHead(service, visit.language)
    page(response, visit, 200, head + peopleForm(visit, service, path) + body, zone.name)
  }

/** Whether a chosen time can be had just now, before anything is typed for it. */
function freeNow(application: Application, visit: Visit, service: Service, at: number) {
  const {
    settings,
    now,
    language,
    asked: { people: partySize },
  } = visit
  const diary = diaryBetween(application, at, at)
  return freeForClients({ settings, diary, now, language, preferredId: null }, service, {
    startAt: at,
    partySize,
  })
}

const giveDetails =
  (running: RunningApplication): RequestHandler =>
  (request, response) => {
    const visit = visitOf(running.application, request)
    const service = offered(visit, request.params['id'])
    const { at } = visit.asked
    if (!service) {
      offers(response, visit, 404)
      return
    }
    if (at === undefined) {
      response.redirect(303, address(`/book/${service.id}`, visit)({}))
      return
    }
    const { people: partySize } = visit.asked
    const { application } = running
    const free = freeNow(application, visit, service, at)
    const fresh: Answer = { status: 200, typed: nothingTyped, alert: null, instead: [] }
    if (free.ok) details(running, response, visit, service, at, fresh)
    else {
      const instead = nearestTo(application, service, at, partySize)
      details(running, response, visit, service, at, { ...fresh, alert: free.problem.sentence, instead })
    }
  }

type Values = Readonly<Record<string, string>>

const who = z.object({
  firstName: requiredLine(80, ''),
  lastName: requiredLine(80, ''),
  email: emailAddress,
  phone: oneLine(60),
})

/** What is wrong with each field, as the client reads it. */
function faultsOf(error: z.ZodError, words: PageWords): Record<string, string> {
  const { needName, needEmail, needPhone } = words
  const said: Values = { firstName: needName, lastName: needName, email: needEmail, phone: needPhone }
  return Object.fromEntries(
    error.issues.map(({ path }) => [path.join('.'), said[path.join('.')] ?? words.faults]),
  )
}

/** The same form sent twice is one booking; with something else in it, it is another. */
function callOfForm(values: Values) {
  const said = Object.entries(values).filter(([name]) => name !== 'stamp')
  const hash = createHash('sha256').update(JSON.stringify(said.sort())).digest('hex')
  return callOf('bookByClient', `public-${hash.slice(0, 48)}`)
}

/** The reader's clock as a fact of a client: only one that is known and is not the business's anyway. */
function zoneOf({ asked: { zone }, settings }: Visit): string | null {
  const isOther = zone !== undefined && settings.zones.has(zone) && zone !== settings.business.zone
  return isOther ? zone : null
}

/** What a refused form shows: faults at their fields; other times where the chosen one cannot be had. */
function refusal(
  { code, sentence, field }: Problem,
  values: Values,
  nearest: () => readonly FreeTime[],
): Answer {
  const isAboutTime = field === 'startAt' || field === 'partySize'
  return {
    status: code === 'no seats left' ? 409 : 422,
    typed: { values, faults: isAboutTime || field === null ? {} : { [field]: sentence } },
    alert: sentence,
    instead: isAboutTime ? nearest() : [],
  }
}

const bookNow =
  (running: RunningApplication): RequestHandler =>
  (request: Request, response) => {
    const { application, commands } = running
    const values = formBody.parse(request.body)
    const parsed = asked.parse(values)
    const visit: Visit = { ...visitOf(application, request), asked: parsed, language: parsed.lang ?? 'en' }
    const words = pageWords[visit.language]
    const service = offered(visit, request.params['id'])
    if (!service) {
      offers(response, visit, 404)
      return
    }
    const { at = 0, people: partySize } = parsed
    const again = (answer: Answer) => details(running, response, visit, service, at, answer)
    const away = turnedAway(values, response, words, paceOf(values['stamp'] ?? '', application.store.keys))
    const given = who.safeParse(values)
    if (away || !given.success) {
      const faults = given.success ? {} : faultsOf(given.error, words)
      const said = away ?? { status: 422, alert: words.faults }
      again({ ...said, typed: { values, faults: away ? {} : faults }, instead: [] })
      return
    }
    const answers = Object.fromEntries(
      service.offer.questions.map(({ id }) => [id, values[`answers.${id}`] ?? '']),
    )
    const person: Booker = { ...given.data, language: visit.language, zone: zoneOf(visit) }
    const wish = { serviceId: service.id, startAt: at, partySize, answers, language: visit.language }
    const result = commands.bookByClient(callOfForm(values), person, wish)
    if (result.ok) {
      response.redirect(303, new URL(visit.settings.clientLinks.booking(result.value.id)).pathname)
      return
    }
    again(refusal(result.problem, values, () => nearestTo(application, service, at, partySize)))
  }

/** The public page: what can be booked, its free times, who books. No sign-in. */
export function bookRoutes(router: Router, running: RunningApplication) {
  router.get('/book/clock.js', (_, response) => {
    response.type('text/javascript').set('Cache-Control', 'public, max-age=86400').send(clockScript)
  })
  router.get('/book', (request, response) => offers(response, visitOf(running.application, request), 200))
  router.get('/book/:id', chooseTime(running))
  router.get('/book/:id/details', giveDetails(running))
  router.post(
    '/book/:id/details',
    express.urlencoded({ extended: false, limit: '64kb' }),
    limitBookingsByNetwork(),
    limitBookingsByAccount(),
    bookNow(running),
  )
}
