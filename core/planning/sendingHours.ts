import { setTimeOfDay } from '../model/timing.ts'
import { minuteOfDay } from '../time/calendar.ts'
import {
  firstOpenFrom,
  isClosedOn,
  lastOpenUpTo,
  nearestOpenDay,
  nearestOpenOn,
  openSearchDays,
} from '../time/openTimes.ts'
import { dayAt, instantAt } from '../time/zones.ts'
import { dropped, moved, type Moment } from './moment.ts'
import { whyLeftOut, whyThen } from './reasons.ts'
import { inWords, type StepFacts } from './runFacts.ts'

const rule = 'sending hours'

type Side = 'earlier' | 'later'

/** A closed day with a set time of day moves to the nearest open day on that side, at that time or nearest to it. */
function onNearestOpenDay({ openTimes, stepZone }: StepFacts, at: number, timeOfDay: string, side: Side) {
  const day = nearestOpenDay(openTimes, dayAt(openTimes.zone, at), side)
  return day === null ? null : nearestOpenOn(openTimes, day, instantAt(stepZone, day, minuteOfDay(timeOfDay)))
}

function openMoment(facts: StepFacts, at: number, side: Side): number | null {
  const { openTimes, step } = facts
  const timeOfDay = setTimeOfDay(step.timing)
  if (timeOfDay !== null && isClosedOn(openTimes, dayAt(openTimes.zone, at))) {
    return onNearestOpenDay(facts, at, timeOfDay, side)
  }
  return side === 'earlier' ? lastOpenUpTo(openTimes, at) : firstOpenFrom(openTimes, at)
}

/** A wish on the day itself: the date's nearest moment at which nobody is woken. */
function wakingMoment(facts: StepFacts, at: number): number | null {
  const { openTimes } = facts
  const day = dayAt(openTimes.zone, at)
  return isClosedOn(openTimes, day) ? openMoment(facts, at, 'later') : nearestOpenOn(openTimes, day, at)
}

/** On which side a step looks for an open moment; null: every moment will do. Later occurrences never go earlier. */
function sideOf({ rules, step }: StepFacts, isRepeated: boolean): Side | 'any day' | null {
  // An evening letter has looked for an open day already and keeps to its hour.
  const isFree = rules.sendingHours === 'ignore' || step.timing.kind === 'evening'
  if (isFree) return step.onlyDays === null ? null : 'later'
  return isRepeated && rules.sendingHours === 'earlier' ? 'later' : rules.sendingHours
}

/** Rule 4: sending hours and the days a step goes on, each purpose in its own direction. */
export function applySendingHours(moment: Moment, facts: StepFacts, isRepeated: boolean): Moment {
  const side = moment.dropped ? null : sideOf(facts, isRepeated)
  if (side === null) return moment
  const open = side === 'any day' ? wakingMoment(facts, moment.at) : openMoment(facts, moment.at, side)
  if (open === null) return dropped(moment, rule, whyLeftOut.noneWithin(openSearchDays))
  if (open === moment.at) return moment
  const direction = open < moment.at ? 'earlier' : 'later'
  const isOtherDay = facts.step.onlyDays !== null && isOnOtherDay(facts, moment.at)
  const why = whyThen.outsideHours(direction, isOtherDay, inWords(facts, moment.at), inWords(facts, open))
  return moved(moment, rule, open, why)
}

function isOnOtherDay({ openTimes }: StepFacts, at: number): boolean {
  return isClosedOn(openTimes, dayAt(openTimes.zone, at))
}
