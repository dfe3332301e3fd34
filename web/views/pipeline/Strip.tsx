import type { EnquiryLine } from '#core/api/views.ts'
import { epochDayOf, isoDateOf, weekdayOf, yearMonthDayOf } from '#core/time/calendar.ts'
import { shortDate, dateAndTime, weekdayName } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { markOf } from '../../parts/StateMark.tsx'
import styles from './pipeline.module.css'
import { isLate } from './rows.ts'

/** So many days are shown from today on. */
const days = 22

interface Mark {
  readonly on: string
  readonly kind: 'message' | 'deadline' | 'day0'
  readonly glyph: string
  readonly words: string
}

/** What comes for an enquiry, as marks in the order of time. */
function marksOf(line: EnquiryLine, { zone, year }: ReturnType<typeof useBusiness>): readonly Mark[] {
  const messages = line.coming.map(({ at, state }): Mark => ({
    on: isoDateOf(dayAt(zone, at)),
    kind: 'message',
    glyph: markOf[state].glyph,
    words: `message ${dateAndTime(zone, at, year)}, ${markOf[state].word}`,
  }))
  const dated = (
    on: string | null,
    kind: 'deadline' | 'day0',
    glyph: string,
    words: string,
  ): readonly Mark[] =>
    on === null ? [] : [{ on, kind, glyph, words: `${words} ${shortDate(epochDayOf(on), year)}` }]
  return [
    ...messages,
    ...dated(line.deadlineOn, 'deadline', '▲', 'deadline'),
    ...dated(line.wishedOn, 'day0', '◆', 'day 0'),
  ].sort((one, other) => (one.on < other.on ? -1 : Number(one.on > other.on)))
}

/** The coming three weeks of an enquiry, a cell a day: its messages, its deadline, day 0. */
export function Strip({ line }: { line: EnquiryLine }) {
  const business = useBusiness()
  const today = dayAt(business.zone, business.now)
  const marks = marksOf(line, business)
  const isOverdue = isLate(line, isoDateOf(today))
  const words = marks.length === 0 ? 'Nothing is coming.' : `${marks.map((one) => one.words).join('; ')}.`
  return (
    <span className={styles.strip} role="img" aria-label={words} title={words}>
      {Array.from({ length: days }, (_, index) => {
        const on = isoDateOf(today + index)
        // What is past its day stands at today: it is not over by that.
        const here = marks.filter(
          (one) => one.on === on || (index === 0 && one.on < on && one.kind !== 'day0'),
        )
        const [first] = here.toSorted((one, other) => order[one.kind] - order[other.kind])
        return (
          <i
            key={on}
            data-weekend={weekdayOf(today + index) > 5}
            data-kind={first?.kind}
            data-late={first?.kind === 'deadline' && isOverdue}
          >
            {first?.glyph}
          </i>
        )
      })}
    </span>
  )
}

const order = { day0: 0, deadline: 1, message: 2 } as const

/** The days above the strips, each week's first by its date. */
export function StripHead() {
  const { zone, now } = useBusiness()
  const today = dayAt(zone, now)
  return (
    <span className={styles.strip} aria-hidden>
      {Array.from({ length: days }, (_, index) => (
        <i key={index} data-weekend={weekdayOf(today + index) > 5}>
          {index % 7 === 0 && (
            <small>
              {weekdayName(today + index).slice(0, 2)} {yearMonthDayOf(today + index).day}
            </small>
          )}
        </i>
      ))}
    </span>
  )
}
