import { waitsFor, whyThen } from './reasons.ts'
import type { Enquiry, Tick } from '../model/enquiry.ts'
import { isoDateOf, minuteOfDay, type EpochDay } from '../time/calendar.ts'
import { isClosedOn, openSearchDays } from '../time/openTimes.ts'
import { dayAt, instantAt } from '../time/zones.ts'
import { planAwaited, planWanted, type PlannedSend } from './planStep.ts'
import { inWords, type RunFacts, type StepFacts } from './runFacts.ts'
import { wantedAt } from './wanted.ts'

/** A ticked line the client is to hear of, and the day of the letter that tells it. */
interface ToldLine {
  readonly tick: Tick
  readonly day: EpochDay
}

/** The first day on or after a date that is not closed. Sending hours do not matter here, closed days do. */
function openDayFrom({ sendingHours }: RunFacts, from: EpochDay): EpochDay | null {
  for (let day = from; day <= from + openSearchDays; day += 1) if (!isClosedOn(sendingHours, day)) return day
  return null
}

/** The day of the letter that tells a line ticked at a moment: the cut-off itself belongs to the next one. */
function letterDay(of: RunFacts, tickedAt: number, atTime: string): EpochDay | null {
  const day = dayAt(of.zone, tickedAt)
  const isBefore = tickedAt < instantAt(of.zone, day, minuteOfDay(atTime))
  return openDayFrom(of, isBefore ? day : day + 1)
}

function toldLines(enquiry: Enquiry, atTime: string, of: RunFacts): readonly ToldLine[] {
  const { evening, ticks } = enquiry
  if (!evening) return []
  return ticks.flatMap((tick) => {
    if (tick.at === null || tick.sentence === null || tick.toldAt !== null) return []
    if (tick.at < evening.onAt && !evening.tellsEarlier) return []
    const day = letterDay(of, Math.max(tick.at, evening.onAt), atTime)
    return day === null ? [] : [{ tick, day }]
  })
}

/** A date as the number of a letter: 2026-05-14 is 20260514. */
const numberOf = (day: EpochDay) => Number(isoDateOf(day).replaceAll('-', ''))

/** The lines that the letter of a date tells, in the order they were ticked. */
export function linesOfLetter(occurrence: number, atTime: string, of: RunFacts): readonly Tick[] {
  if (!of.enquiry) return []
  return toldLines(of.enquiry, atTime, of)
    .filter(({ day }) => numberOf(day) === occurrence)
    .map(({ tick }) => tick)
    .toSorted((one, other) => (one.at ?? 0) - (other.at ?? 0) || (one.lineId < other.lineId ? -1 : 1))
}

/** The evening letters of an enquiry that have something to tell. */
export function evenings(atTime: string, facts: StepFacts): readonly PlannedSend[] {
  const { enquiry } = facts
  if (!enquiry?.evening) {
    return [planAwaited(facts, 0, waitsFor.eveningsOn, null)]
  }
  const lines = toldLines(enquiry, atTime, facts)
  if (lines.length === 0) return [planAwaited(facts, 0, waitsFor.tick, null)]
  return [...new Set(lines.map(({ day }) => day))]
    .sort((one, other) => one - other)
    .map((day) => {
      const at = instantAt(facts.zone, day, minuteOfDay(atTime))
      const count = lines.filter((line) => line.day === day).length
      const start = {
        value: null,
        anchorValue: '',
        againSince: null,
        occurrence: numberOf(day),
        isRepeated: false,
        since: 0,
        end: null,
      }
      return planWanted(wantedAt(at, whyThen.evening(count, inWords(facts, at))), start, facts)
    })
}
