import { rulesOf } from '../sequences/purposes.ts'
import { minuteOfDay } from '../time/calendar.ts'
import {
  firstOpenFrom,
  isClosedOn,
  lastOpenUpTo,
  nearestOpenDay,
  nearestOpenOn,
  type OpenTimes,
} from '../time/openTimes.ts'
import { dayAt } from '../time/zones.ts'
import { dropped, moved, type Moment } from './moment.ts'
import { inWords, type StepFacts } from './stepFacts.ts'

const rule = 'sending hours'

function setTimeOfDay({ step: { timing } }: StepFacts): string | null {
  return timing.kind === 'calendar' ? timing.atTime : null
}

/** A closed day with a set time of day moves to the nearest open day on that side, at that time or nearest to it. */
function onNearestOpenDay(
  times: OpenTimes,
  at: number,
  timeOfDay: string,
  side: 'earlier' | 'later',
): number | null {
  const day = nearestOpenDay(times, dayAt(times.zone, at), side)
  return day === null ? null : nearestOpenOn(times, day, minuteOfDay(timeOfDay))
}

function openMoment(facts: StepFacts, at: number, side: 'earlier' | 'later'): number | null {
  const times = facts.sendingHours
  const timeOfDay = setTimeOfDay(facts)
  if (timeOfDay !== null && isClosedOn(times, dayAt(times.zone, at))) {
    return onNearestOpenDay(times, at, timeOfDay, side)
  }
  return side === 'earlier' ? lastOpenUpTo(times, at) : firstOpenFrom(times, at)
}

/** Rule 4: sending hours, each purpose in its own direction. */
export function applySendingHours(moment: Moment, facts: StepFacts): Moment {
  const side = rulesOf(facts.step).sendingHours
  if (side === 'ignore' || moment.dropped) return moment
  const open = openMoment(facts, moment.at, side)
  if (open === null) return dropped(moment, rule, 'no open moment', 'No open moment within 60 days.')
  if (open === moment.at) return moment
  const words = `${inWords(facts, moment.at)} is outside the sending hours: ${side}, ${inWords(facts, open)}.`
  return moved(moment, rule, open, `moved ${side}`, words)
}
