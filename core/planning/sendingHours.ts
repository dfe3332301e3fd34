import { setTimeOfDay } from '../model/timing.ts'
import { rulesOf } from '../sequences/purposes.ts'
import { minuteOfDay } from '../time/calendar.ts'
import {
  firstOpenFrom,
  isClosedOn,
  lastOpenUpTo,
  nearestIn,
  nearestOpenDay,
  nearestOpenOn,
  wakingStretch,
} from '../time/openTimes.ts'
import { dayAt, instantAt } from '../time/zones.ts'
import { dropped, moved, type Moment } from './moment.ts'
import { inWords, type StepFacts } from './runFacts.ts'

const rule = 'sending hours'

/** A closed day with a set time of day moves to the nearest open day on that side, at that time or nearest to it. */
function onNearestOpenDay(
  facts: StepFacts,
  at: number,
  timeOfDay: string,
  side: 'earlier' | 'later',
): number | null {
  const times = facts.sendingHours
  const day = nearestOpenDay(times, dayAt(times.zone, at), side)
  return day === null ? null : nearestOpenOn(times, day, instantAt(facts.zone, day, minuteOfDay(timeOfDay)))
}

function openMoment(facts: StepFacts, at: number, side: 'earlier' | 'later'): number | null {
  const times = facts.sendingHours
  const timeOfDay = setTimeOfDay(facts.step.timing)
  if (timeOfDay !== null && isClosedOn(times, dayAt(times.zone, at))) {
    return onNearestOpenDay(facts, at, timeOfDay, side)
  }
  return side === 'earlier' ? lastOpenUpTo(times, at) : firstOpenFrom(times, at)
}

/** A wish on the day itself: the date's nearest moment at which nobody is woken. */
function wakingMoment({ clientZone }: StepFacts, at: number): number | null {
  return nearestIn([wakingStretch(clientZone, dayAt(clientZone, at))], at)
}

/** Rule 4: sending hours, each purpose in its own direction. Later occurrences of a repeat never go earlier. */
export function applySendingHours(moment: Moment, facts: StepFacts, isRepeated: boolean): Moment {
  // An evening letter has looked for an open day already and keeps to its hour.
  const own = facts.step.timing.kind === 'evening' ? 'ignore' : rulesOf(facts.step).sendingHours
  const side = isRepeated && own === 'earlier' ? 'later' : own
  if (side === 'ignore' || moment.dropped) return moment
  const open = side === 'any day' ? wakingMoment(facts, moment.at) : openMoment(facts, moment.at, side)
  if (open === null) return dropped(moment, rule, 'no open moment', 'No open moment within 60 days.')
  if (open === moment.at) return moment
  const direction = open < moment.at ? 'earlier' : 'later'
  const sentence = `${inWords(facts, moment.at)} is outside the sending hours: ${direction}, ${inWords(facts, open)}.`
  return moved(moment, rule, open, `moved ${direction}`, sentence)
}
