import type { FreeTime } from '#core/booking/freeTimes.ts'
import { escapeHtml } from '#core/letters/html.ts'
import { longDateIn, monthIn, weekdayIn } from '#core/letters/language.ts'
import type { Language } from '#core/model/values.ts'
import { addMonths, isoDateOf, weekdayOf, yearMonthDayOf, type EpochDay } from '#core/time/calendar.ts'
import { clockTime } from '#core/time/format.ts'
import { dayAt, offsetAt, type Zone } from '#core/time/zones.ts'
import { pageWords } from './words.ts'

/** Where and for whom times are shown. */
export interface Shown {
  readonly language: Language
  readonly zone: Zone
  /** The reader's clock; null: not known. */
  readonly readerZone: Zone | null
  /** An address with some of its parameters changed. */
  readonly href: (changed: Readonly<Record<string, string>>) => string
}

const firstOfMonth = (day: EpochDay) => day - yearMonthDayOf(day).day + 1

/** `2026-05`, the month of a day. */
export const monthOf = (day: EpochDay) => isoDateOf(day).slice(0, 7)

/** Begin and end on the clock of the place, and on the reader's where that shows another time. */
export function timeWords({ language, zone, readerZone }: Shown, { startAt, endAt }: FreeTime): string {
  const isOther = readerZone !== null && offsetAt(readerZone, startAt) !== offsetAt(zone, startAt)
  const own = `${clockTime(zone, startAt)} – ${clockTime(zone, endAt)}`
  if (!isOther) return own
  const isOtherDay = dayAt(readerZone, startAt) !== dayAt(zone, startAt)
  const day = isOtherDay ? `${weekdayIn(language, dayAt(readerZone, startAt))} ` : ''
  return `${own} (${day}${clockTime(readerZone, startAt)} ${pageWords[language].yourTime})`
}

function dayCell(shown: Shown, day: EpochDay, count: number, chosen: EpochDay | null): string {
  const { day: number } = yearMonthDayOf(day)
  if (count === 0) return `<td>${number}</td>`
  const { language, href } = shown
  const words = pageWords[language].times(count)
  const current = day === chosen ? ' aria-current="date"' : ''
  const label = `${longDateIn(language, day)}, ${words}`
  return `<td><a href="${escapeHtml(href({ day: isoDateOf(day) }))}#times" aria-label="${escapeHtml(label)}"${current}>${number}<small aria-hidden="true">${count}×</small></a></td>`
}

/** One month, each day with the number of its times; those that have some lead to them. */
export function monthTable(
  shown: Shown,
  month: EpochDay,
  free: readonly FreeTime[],
  chosen: EpochDay | null,
): string {
  const { language, zone } = shown
  const first = firstOfMonth(month)
  const length = addMonths(first, 1) - first
  const counts = new Map<EpochDay, number>()
  for (const { startAt } of free) {
    const day = dayAt(zone, startAt)
    counts.set(day, (counts.get(day) ?? 0) + 1)
  }
  const empty = Array.from({ length: weekdayOf(first) - 1 }, () => '<td></td>')
  const cells = Array.from({ length }, (_, index) =>
    dayCell(shown, first + index, counts.get(first + index) ?? 0, chosen),
  )
  const all = [...empty, ...cells]
  const rows = Array.from({ length: Math.ceil(all.length / 7) }, (_, row) => {
    const week = all.slice(row * 7, row * 7 + 7)
    return `<tr>${week.join('')}${'<td></td>'.repeat(7 - week.length)}</tr>`
  })
  // Monday 1 January 2024 and the six days after it.
  const monday = 19_723
  const heads = Array.from({ length: 7 }, (_, index) => {
    const name = weekdayIn(language, monday + index)
    return `<th scope="col"><abbr title="${name}">${name.slice(0, 2)}</abbr></th>`
  })
  return `<table><thead><tr>${heads.join('')}</tr></thead><tbody>${rows.join('')}</tbody></table>`
}

/** The way to the months beside one, as far as something can be booked there. */
export function monthNav(shown: Shown, month: EpochDay, from: EpochDay, to: EpochDay): string {
  const { language, href } = shown
  const words = pageWords[language]
  const first = firstOfMonth(month)
  const link = (day: EpochDay, word: string, arrow: string) =>
    `<a href="${escapeHtml(href({ month: monthOf(day), day: '' }))}" aria-label="${word}: ${monthIn(language, day)}">${arrow}</a>`
  const before = first > from ? link(first - 1, words.earlier, '←') : '<span></span>'
  const after = addMonths(first, 1) <= to ? link(addMonths(first, 1), words.later, '→') : '<span></span>'
  return `<nav class="months">${before}<b>${monthIn(language, first)}</b>${after}</nav>`
}

/** The times of one day, each leading on. */
export function timeList(shown: Shown, day: EpochDay, free: readonly FreeTime[], isShared: boolean): string {
  const { language, zone, href } = shown
  const words = pageWords[language]
  const items = free
    .filter(({ startAt }) => dayAt(zone, startAt) === day)
    .map((one) => {
      const seats = isShared ? `<small>${words.seatsLeft(one.seatsLeft)}</small>` : ''
      return `<li><a class="act" href="${escapeHtml(href({ at: String(one.startAt) }))}">${escapeHtml(timeWords(shown, one))}${seats}</a></li>`
    })
  const list = items.length === 0 ? `<p>${words.noneThen}</p>` : `<ul class="times">${items.join('')}</ul>`
  return `<h2 id="times">${escapeHtml(words.timesOn(longDateIn(language, day)))}</h2>${list}`
}

/** Free times to choose from in a form, with their dates; the first is chosen. */
export function timeChoices(shown: Shown, free: readonly FreeTime[]): string {
  return free
    .map((one, index) => {
      const words = `${longDateIn(shown.language, dayAt(shown.zone, one.startAt))}, ${timeWords(shown, one)}`
      const checked = index === 0 ? ' checked' : ''
      return `<label class="choice"><input type="radio" name="at" value="${one.startAt}"${checked}>${escapeHtml(words)}</label>`
    })
    .join('')
}
