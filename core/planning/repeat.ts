import { heldSince } from '../conditions/heldSince.ts'
import { setTimeOfDay, type Repeat, type Span } from '../model/timing.ts'
import { spanWords } from '../sequences/span.ts'
import { addExact, addToDay } from '../time/arithmetic.ts'
import { addMonths, hourMs, minuteMs, minuteOfDay, type EpochDay } from '../time/calendar.ts'
import { isClosedOn } from '../time/openTimes.ts'
import { dayAt, instantAt, wallAt } from '../time/zones.ts'
import { anchorValues } from './anchors.ts'
import { hasGone } from './answers.ts'
import { endOfDay } from './bounds.ts'
import { doneAt, endOf, type Done } from './done.ts'
import { standsSince } from './pastTimes.ts'
import { planWanted, type PlannedSend, type StepStart } from './planStep.ts'
import { whyThen } from './reasons.ts'
import { conditionFacts, inWords, type RunFacts, type StepFacts } from './runFacts.ts'
import { asItStands, type Stored } from './standing.ts'
import { wantedAt } from './wanted.ts'

/** The end of a repeat by its anchor; null: it has none, or none yet. */
export function repeatEnd(repeat: Repeat | null, of: RunFacts): StepStart['end'] {
  const anchor = repeat?.untilAnchor
  const value = anchor ? anchorValues(anchor, of).at(0) : undefined
  if (!anchor || !value) return null
  if (value.kind === 'date') return { at: endOfDay(of.zone, value.day), since: value.since }
  const isOfTimes = anchor.of === 'booking start' || anchor.of === 'booking end'
  return { at: value.at, since: isOfTimes && of.booking ? standsSince(of.booking) : value.since }
}

/** Later occurrences of a booking's reminders and preparations also end an hour before its start. */
function laterEnd(end: StepStart['end'], { step, booking }: StepFacts): StepStart['end'] {
  const isAhead = step.purpose === 'reminder' || step.purpose === 'preparation'
  if (!booking || !isAhead) return end
  const start = { at: booking.startAt - hourMs, since: standsSince(booking) }
  return end === null || start.at < end.at ? start : end
}

interface Last {
  readonly plan: PlannedSend
  readonly doneAt: number
  readonly wantedDay: EpochDay
  /** The day the next one counts from. */
  readonly day: EpochDay
}

/** Whether a closed day lies between two days; the one it went on is not counted. */
function isClosedBetween({ openTimes }: StepFacts, wantedDay: EpochDay, wentDay: EpochDay): boolean {
  const side = wentDay > wantedDay ? 1 : -1
  for (let day = wantedDay; day !== wentDay; day += side) if (isClosedOn(openTimes, day)) return true
  return false
}

/**
 * The day the next one counts from: the wanted day, or the day it went if it was late or a closed day lay between. Put
 * off to the next morning by the day's hours alone is neither.
 */
function dayOfLast(facts: StepFacts, wantedDay: EpochDay, { answer }: PlannedSend): EpochDay {
  const { zone } = facts
  if (!answer || !hasGone(answer)) return wantedDay
  const wentDay = dayAt(zone, answer.sentAt ?? answer.stateSince)
  if (wentDay === wantedDay) return wantedDay
  const { wantedAt: wanted, notBefore, dueAt } = answer
  const isLate =
    (notBefore !== null && (wanted ?? 0) < notBefore) || (dueAt !== null && wentDay > dayAt(zone, dueAt))
  return isLate || isClosedBetween(facts, wantedDay, wentDay) ? wentDay : wantedDay
}

/** Months and years: the first date of first + k·N after the last done, clamped. */
function nextMonthly(facts: StepFacts, every: Span, first: PlannedSend, last: Last): EpochDay {
  const firstDay = dayAt(facts.zone, first.wantedAt ?? 0)
  const months = every.amount * (every.unit === 'years' ? 12 : 1)
  const after = Math.max(dayAt(facts.zone, last.doneAt), last.wantedDay)
  let day = addMonths(firstDay, months)
  for (let count = 2; day <= after && months > 0; count += 1) day = addMonths(firstDay, count * months)
  return day
}

function nextWanted(facts: StepFacts, { every }: Repeat, first: PlannedSend, last: Last): number | null {
  const { stepZone, officeHours, step } = facts
  const { amount, unit } = every
  if (unit === 'minutes' || unit === 'hours' || unit === 'business hours') {
    return addExact(last.doneAt, amount, unit, officeHours)
  }
  const day =
    unit === 'months' || unit === 'years'
      ? nextMonthly(facts, every, first, last)
      : addToDay(last.day, amount, unit, 'after', officeHours)
  const atTime = setTimeOfDay(step.timing)
  const reading = Math.floor(wallAt(stepZone, first.wantedAt ?? 0).msOfDay / minuteMs)
  return day === null ? null : instantAt(stepZone, day, atTime === null ? reading : minuteOfDay(atTime))
}

function following(
  first: PlannedSend,
  last: Last,
  repeat: Repeat,
  end: StepStart['end'],
  facts: StepFacts,
): PlannedSend | null {
  const at = nextWanted(facts, repeat, first, last)
  if (at === null || (end !== null && at > end.at)) return null
  const start = {
    value: null,
    anchorValue: first.anchorValue,
    againSince: first.againSince,
    occurrence: last.plan.occurrence + 1,
    isRepeated: true,
    since: last.doneAt,
    end,
  }
  const plan = planWanted(
    wantedAt(at, whyThen.repeat(spanWords(repeat.every), inWords(facts, at))),
    start,
    facts,
  )
  return plan.dropped?.code === 'too late' ? null : plan
}

/** One recipient's part of a repeat. */
export interface RepeatFor {
  readonly facts: StepFacts
  readonly first: PlannedSend
  readonly stored: Stored
}

/** When a repeat's condition came to hold; null: it does not, or there is none. */
function overSince({ untilCondition }: Repeat, facts: StepFacts, now: number): number | null {
  if (untilCondition === null) return null
  return heldSince(untilCondition, conditionFacts(facts, now))
}

interface Occurrences {
  readonly plans: readonly PlannedSend[]
  readonly done: Done
}

function lastOf(plans: readonly PlannedSend[], facts: StepFacts): Last | null {
  const ends = plans.map((plan) => ({ plan, end: endOf(plan) }))
  let last: Last | null = null
  for (const { plan, end } of ends) {
    if (!end.isDone) return null
    if (last !== null && end.at <= last.doneAt) continue
    // What went for an earlier value was wanted then.
    const wantedDay = dayAt(facts.zone, plan.answer?.wantedAt ?? plan.wantedAt ?? 0)
    last = { plan, doneAt: end.at, wantedDay, day: dayOfLast(facts, wantedDay, plan) }
  }
  return last
}

/** No more occurrences than this are ever looked through. */
const mostOccurrences = 1000

const open = (estimateAt: number | null): Done => ({ isDone: false, estimateAt })

/**
 * A repeating step for all its recipients: every occurrence that is there already and the next one. The copies of one
 * occurrence go together, and the next counts from the last of them. Nothing more comes once the condition holds, the
 * maximum is reached or the end has passed. `from`: when what it counts from was done.
 */
export function occurrences(all: readonly RepeatFor[], repeat: Repeat, from: Done, now: number): Occurrences {
  const facts = all[0]?.facts
  if (!facts) return { plans: [], done: from }
  const over = overSince(repeat, facts, now)
  const end = laterEnd(repeatEnd(repeat, facts), facts)
  const plans: PlannedSend[] = []
  let present: readonly PlannedSend[] = all.map(({ first, facts: own, stored }) =>
    asItStands(first, own, stored),
  )
  let doneSoFar = from
  for (let count = 1; ; count += 1) {
    // The condition is tested before each: what is still to come is void.
    const kept = over === null ? present : present.filter(({ answer }) => answer !== null && hasGone(answer))
    plans.push(...kept)
    if (over !== null && kept.length < present.length) {
      return { plans, done: doneSoFar.isDone ? doneAt(Math.max(doneSoFar.at, over)) : doneSoFar }
    }
    const last = lastOf(present, facts)
    if (last === null) return { plans, done: open(estimateOf(present)) }
    doneSoFar = doneAt(last.doneAt)
    if (count >= (repeat.atMost ?? mostOccurrences)) return { plans, done: doneSoFar }
    const next = all.map((one) => {
      const plan = following(one.first, last, repeat, end, one.facts)
      return plan && asItStands(plan, one.facts, one.stored)
    })
    present = next.filter((plan) => plan !== null)
    if (present.length === 0) return { plans, done: doneSoFar }
  }
}

function estimateOf(plans: readonly PlannedSend[]): number | null {
  const estimates = plans.map(({ dueAt, estimateAt }) => dueAt ?? estimateAt).filter((at) => at !== null)
  return estimates.length === 0 ? null : Math.max(...estimates)
}
