import { randomUUID } from 'node:crypto'
import type { FreeTime } from '#core/booking/freeTimes.ts'
import { escapeHtml } from '#core/letters/html.ts'
import { durationIn, longDateIn, moneyIn } from '#core/letters/language.ts'
import type { Service } from '#core/model/business.ts'
import { isOffered, priceOf } from '#core/model/policy.ts'
import type { Language } from '#core/model/values.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { alertBox, detailFields, hidden, type Typed } from './form.ts'
import { timeChoices, timeWords, type Shown } from './times.ts'
import { address, type Visit } from './visit.ts'
import { pageWords } from './words.ts'

/** So many people at most are to be chosen on the page. */
const mostPeople = 20

/** The same page in the other language. */
export function languageLink(visit: Visit, path: string): string {
  const other = visit.language === 'de' ? 'en' : 'de'
  const href = address(path, visit)({ lang: other })
  return `<a class="lang" href="${escapeHtml(href)}" lang="${other}" hreflang="${other}">${pageWords[visit.language].switchTo}</a>`
}

function priceWords({ offer }: Service, language: Language): string {
  if (!offer.price) return ''
  const { perPerson, perBooking } = pageWords[language]
  return `${moneyIn(language, offer.price.cents)} ${offer.price.per === 'person' ? perPerson : perBooking}`
}

/** How long, where and for how much, in one line. */
const shortFacts = (service: Service, language: Language) =>
  [durationIn(language, service.durationMinutes), service.place, priceWords(service, language)]
    .filter(Boolean)
    .map(escapeHtml)
    .join(' · ')

/** What can be booked. */
export function offersBody(visit: Visit): string {
  const { language, settings } = visit
  const words = pageWords[language]
  const offered = settings.services.filter(isOffered)
  const { phone } = settings.business
  const call = phone === '' ? '' : `<p>${escapeHtml(words.callUs(phone))}</p>`
  if (offered.length === 0) return `<p>${words.nothingPublic}</p>${call}`
  const items = offered.map((service) => {
    const href = address(`/book/${service.id}`, visit)({})
    return `<li><h2>${escapeHtml(service.name)}</h2><p>${escapeHtml(service.offer.forClients)}</p><p class="quiet">${shortFacts(service, language)}</p><p><a class="act" href="${escapeHtml(href)}" aria-label="${escapeHtml(`${words.chooseTime}: ${service.name}`)}">${words.chooseTime}</a></p></li>`
  })
  return `<h2>${words.whatToBook}</h2><ul class="offers">${items.join('')}</ul>`
}

/** For how many. */
export function peopleForm(visit: Visit, service: Service, path: string): string {
  const {
    language,
    asked: { people, month, zone, lang },
  } = visit
  const words = pageWords[language]
  const most = Math.min(service.seats, mostPeople)
  if (most === 1) return ''
  const options = Array.from({ length: most }, (_, index) => index + 1).map(
    (count) => `<option${count === people ? ' selected' : ''}>${count}</option>`,
  )
  const kept = Object.entries({ month, zone, lang }).flatMap(([name, value]) =>
    value === undefined ? [] : [hidden(name, value)],
  )
  return `<form method="get" action="${path}"><label for="people">${words.howMany}</label><div class="row"><select id="people" name="people">${options.join('')}</select><button>${words.showTimes}</button></div>${kept.join('')}</form>`
}

/** What it is that is booked. */
export function serviceHead(service: Service, language: Language): string {
  return `<h2>${escapeHtml(service.name)}</h2><p>${escapeHtml(service.offer.forClients)}</p><p class="quiet">${shortFacts(service, language)}</p>`
}

export interface Details {
  readonly visit: Visit
  readonly service: Service
  readonly shown: Shown
  readonly at: number
  readonly typed: Typed
  readonly stamp: string
  /** Other free times where the chosen one is gone. */
  readonly instead: readonly FreeTime[]
  readonly alert: string | null
}

function chosenTime({ visit, service, shown, at, instead }: Details): string {
  const words = pageWords[visit.language]
  if (instead.length > 0) {
    return `<fieldset><legend>${words.nearest}</legend>${timeChoices(shown, instead)}</fieldset>`
  }
  const endAt = at + service.durationMinutes * minuteMs
  const when = `${longDateIn(visit.language, dayAt(shown.zone, at))}, ${timeWords(shown, { startAt: at, endAt, seatsLeft: 0, personId: null })}`
  const price = priceOf(service, { partySize: visit.asked.people, priceCents: null })
  const costs = price === null ? '' : `<dt>${words.price}</dt><dd>${moneyIn(visit.language, price)}</dd>`
  const other = address(`/book/${service.id}`, visit)({ at: '' })
  return `<dl><dt>${words.chosen}</dt><dd>${escapeHtml(when)}</dd>${costs}</dl><p><a href="${escapeHtml(other)}">${words.otherTime}</a></p>${hidden('at', String(at))}`
}

/** Who books and what the service asks, for a chosen time. */
export function detailsBody(details: Details): string {
  const { visit, service, typed, stamp, alert } = details
  const {
    language,
    asked: { people, zone },
  } = visit
  const words = pageWords[language]
  const { confirms } = service.offer
  const promises = {
    'at once': words.willConfirm,
    'on request': words.willAsk,
    'by the client': words.willMail,
  }
  const said = alert === null ? '' : alertBox(alert)
  const kept = [
    hidden('people', String(people)),
    hidden('zone', zone ?? ''),
    hidden('lang', language),
    hidden('stamp', stamp),
    hidden('key', typed.values['key'] ?? randomUUID()),
  ]
  return `<h2>${escapeHtml(service.name)}</h2>${said}<form method="post" action="/book/${service.id}/details" novalidate>${chosenTime(details)}<h2>${words.yourDetails}</h2>${detailFields(service, words, typed)}${kept.join('')}<p class="quiet">${promises[confirms]}</p><button>${confirms === 'on request' ? words.askNow : words.bookNow}</button></form>`
}
