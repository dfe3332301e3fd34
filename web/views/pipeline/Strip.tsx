import { memo } from 'react'
import type { EnquiryLine } from '#core/api/enquiryViews.ts'
import { epochDayOf, isoDateOf, weekdayOf, yearMonthDayOf, type EpochDay } from '#core/time/calendar.ts'
import { shortDate, dateAndTime, weekdayName } from '#core/time/format.ts'
import { dayAt, type Zone } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { markOf } from '../../parts/StateMark.tsx'
import styles from './pipeline.module.css'

/** So many days are shown from today on. */
const days = 22

/** Where a day begins on the strip. */
const placeOf = (index: number) => `${(100 * index) / days}%`

/** The background of all strips: a hairline before each day, weekends hatched. One image instead of a cell a day. */
export function stripDays(today: EpochDay): string {
  const weekends = Array.from({ length: days }, (_, index) => index)
    .filter((index) => weekdayOf(today + index) > 5)
    .map(
      (index) =>
        `linear-gradient(to right, transparent ${placeOf(index)}, var(--hatch) ${placeOf(index)} ${placeOf(index + 1)}, transparent ${placeOf(index + 1)})`,
    )
  const lines = `repeating-linear-gradient(to right, var(--hairline) 0 1px, transparent 1px ${100 / days}%)`
  return [lines, ...weekends].join(', ')
}

interface Mark {
  readonly on: string
  readonly kind: 'message' | 'deadline' | 'day0'
  readonly glyph: string
  readonly words: string
}

/** What stands in front where several fall on one day. */
const order = { day0: 0, deadline: 1, message: 2 } as const

/** What comes for an enquiry, as marks in the order of time. */
function marksOf(line: EnquiryLine, zone: Zone, year: number): readonly Mark[] {
  const messages = line.coming.map(({ at, state }): Mark => ({
    on: isoDateOf(dayAt(zone, at)),
    kind: 'message',
    glyph: markOf[state].glyph,
    words: `message ${dateAndTime(zone, at, year)}, ${markOf[state].word}`,
  }))
  const dated = (on: string | null, kind: Mark['kind'], glyph: string, words: string): readonly Mark[] =>
    on === null ? [] : [{ on, kind, glyph, words: `${words} ${shortDate(epochDayOf(on), year)}` }]
  return [
    ...messages,
    ...dated(line.deadlineOn, 'deadline', '▲', 'deadline'),
    ...dated(line.wishedOn, 'day0', '◆', 'day 0'),
  ].sort((one, other) => (one.on < other.on ? -1 : Number(one.on > other.on)))
}

/** The mark of each day that has one, by its place; what is past its day stands at today: it is not over by that. */
function shownMarks(marks: readonly Mark[], today: EpochDay): ReadonlyMap<number, Mark> {
  const shown = new Map<number, Mark>()
  for (const mark of marks) {
    const index = epochDayOf(mark.on) - today
    if (index >= days || (index < 0 && mark.kind === 'day0')) continue
    const place = Math.max(0, index)
    const there = shown.get(place)
    if (!there || order[mark.kind] < order[there.kind]) shown.set(place, mark)
  }
  return shown
}

interface StripProps {
  readonly line: EnquiryLine
  readonly isLate: boolean
}

/** The coming three weeks of an enquiry: its messages, its deadline, day 0. */
export const Strip = memo(function Strip({ line, isLate }: StripProps) {
  const { zone, now, year } = useBusiness()
  const marks = marksOf(line, zone, year)
  // What sleeps longer than the strip reaches says when it wakes.
  const [next] = marks.filter(({ kind }) => kind === 'message')
  const later = next && epochDayOf(next.on) - dayAt(zone, now) >= days ? next : undefined
  const words = marks.length === 0 ? 'Nothing is coming.' : `${marks.map((one) => one.words).join('; ')}.`
  return (
    <span className={styles.strip} role="img" aria-label={words} title={words}>
      {[...shownMarks(marks, dayAt(zone, now))].map(([place, { kind, glyph }]) => (
        <i
          key={place}
          data-kind={kind}
          data-late={kind === 'deadline' && isLate}
          style={{ left: placeOf(place) }}
        >
          {glyph}
        </i>
      ))}
      {later !== undefined && <small data-later>→ {shortDate(epochDayOf(later.on), year)}</small>}
    </span>
  )
})

/** The days above the strips, each week's first by its date. */
export function StripHead() {
  const { zone, now } = useBusiness()
  const today = dayAt(zone, now)
  return (
    <span className={styles.strip} aria-hidden>
      {[0, 7, 14, 21].map((index) => (
        <small key={index} style={{ left: placeOf(index) }}>
          {weekdayName(today + index).slice(0, 2)} {yearMonthDayOf(today + index).day}
        </small>
      ))}
    </span>
  )
}
