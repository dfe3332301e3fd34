import { bookableDays, freeTimes, type FreeTime } from '#core/booking/freeTimes.ts'
import { escapeHtml } from '#core/letters/html.ts'
import { longDateIn } from '#core/letters/language.ts'
import type { Service } from '#core/model/business.ts'
import { placeZone } from '#core/planning/slice.ts'
import { addMonths, epochDayOf, yearMonthDayOf, type EpochDay } from '#core/time/calendar.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import type { Application } from '../engine/application.ts'
import { diaryBetween } from '../engine/diaries.ts'
import { monthNav, monthTable, timeList, timeWords, type Shown } from './times.ts'
import type { Visit } from './visit.ts'
import { pageWords } from './words.ts'

const nearestShown = 4

/** The free times of some days of the place. */
function freeOn(
  application: Application,
  service: Service,
  days: { readonly fromDay: EpochDay; readonly toDay: EpochDay },
  partySize: number,
  exceptBookingId: string | null = null,
): readonly FreeTime[] {
  const settings = application.settings.required()
  const zone = placeZone(settings, service)
  const from = instantAt(zone, days.fromDay, 0)
  const to = instantAt(zone, days.toDay + 1, 0)
  const diary = diaryBetween(application, from, to, exceptBookingId)
  return freeTimes(settings, service, diary, { ...days, now: application.clock.now(), partySize })
}

/** The free times nearest to one, the nearest first. */
export function nearestTo(application: Application, service: Service, at: number, partySize: number) {
  const settings = application.settings.required()
  const { fromDay, toDay } = bookableDays(settings, service, application.clock.now())
  const day = dayAt(placeZone(settings, service), at)
  const around = { fromDay: Math.max(fromDay, day - 14), toDay: Math.min(toDay, day + 14) }
  const near = freeOn(application, service, around, partySize)
  const all = near.length > 0 ? near : freeOn(application, service, { fromDay, toDay }, partySize)
  return all
    .toSorted((one, other) => Math.abs(one.startAt - at) - Math.abs(other.startAt - at))
    .slice(0, nearestShown)
    .toSorted((one, other) => one.startAt - other.startAt)
}

function clocksLine({ language, zone, readerZone }: Shown): string {
  const words = pageWords[language]
  const isOther = readerZone !== null && readerZone.name !== zone.name
  const line = isOther ? words.bothClocks(readerZone.name) : words.placeClock(zone.name)
  return `<p class="quiet">${escapeHtml(line)}</p>`
}

interface Choosing {
  readonly application: Application
  readonly visit: Pick<Visit, 'asked' | 'settings' | 'now'>
  readonly service: Service
  readonly shown: Shown
  readonly partySize: number
  readonly exceptBookingId: string | null
}

/** A month with its free times, and those of the chosen day. */
export function choosingBody({
  application,
  visit,
  service,
  shown,
  partySize,
  exceptBookingId,
}: Choosing): string {
  const { settings, now } = visit
  const { month, day: chosenDate } = visit.asked
  const words = pageWords[shown.language]
  const { fromDay, toDay } = bookableDays(settings, service, now)
  const chosen = chosenDate === undefined ? null : epochDayOf(chosenDate)
  const ofMonth = (day: EpochDay) => {
    const first = day - yearMonthDayOf(day).day + 1
    const range = { fromDay: Math.max(first, fromDay), toDay: Math.min(addMonths(first, 1) - 1, toDay) }
    return freeOn(application, service, range, partySize, exceptBookingId)
  }
  const wanted = month === undefined ? (chosen ?? fromDay) : epochDayOf(`${month}-01`)
  const here = Math.min(Math.max(wanted, fromDay), toDay)
  const free = ofMonth(here)
  const table = `${monthNav(shown, here, fromDay, toDay)}${monthTable(shown, here, free, chosen)}${clocksLine(shown)}`
  if (chosen !== null) return `${table}${timeList(shown, chosen, free, service.offer.isShared)}`
  if (free.length > 0) return table
  const [next] = freeOn(application, service, { fromDay, toDay }, partySize, exceptBookingId)
  if (!next) return `${table}<p>${words.noneAtAll}</p>`
  const href = shown.href({ at: String(next.startAt) })
  const when = `${longDateIn(shown.language, dayAt(shown.zone, next.startAt))}, ${timeWords(shown, next)}`
  return `${table}<p>${words.noneThen} ${words.nextFree}</p><p><a class="act" href="${escapeHtml(href)}">${escapeHtml(when)}</a></p>`
}
