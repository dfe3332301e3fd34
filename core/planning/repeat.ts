import { evaluate, type ConditionFacts } from '../conditions/evaluate.ts'
import type { Send } from '../model/send.ts'
import { setTimeOfDay, type Repeat, type Span } from '../model/timing.ts'
import { spanWords } from '../sequences/span.ts'
import { addExact, addToDay } from '../time/arithmetic.ts'
import { addMonths, hourMs, minuteMs, minuteOfDay, type EpochDay } from '../time/calendar.ts'
import { dayAt, instantAt, wallAt } from '../time/zones.ts'
import { anchorValues } from './anchors.ts'
import { endOfDay } from './bounds.ts'
import { endOf, hasGone, type Done } from './done.ts'
import { planWanted, type PlannedSend, type StepStart } from './planStep.ts'
import { inWords, type RunFacts, type StepFacts } from './runFacts.ts'
import { answeringRow } from './stored.ts'
import { wantedAt } from './wanted.ts'

/** The facts of a run as conditions are asked about them. */
export function conditionFacts(of: RunFacts, now: number): ConditionFacts {
  const { client, booking, enquiry, invoice, run, facts } = of
  const { bookings, happenings } = facts
  return { now, runStartedAt: run.startedAt, client, booking, enquiry, invoice, bookings, happenings }
}

/** The end of a repeat by its anchor; null: it has none, or none yet. */
export function repeatEnd(repeat: Repeat | null, of: RunFacts): StepStart['end'] {
  const value = repeat?.untilAnchor ? anchorValues(repeat.untilAnchor, of).at(0) : undefined
  if (!value) return null
  const at = value.kind === 'instant' ? value.at : endOfDay(of.zone, value.day)
  return { at, since: value.since }
}

/** Later occurrences of a booking's reminders and preparations also end an hour before its start. */
function laterEnd(end: StepStart['end'], { step, booking }: StepFacts): StepStart['end'] {
  const isAhead = step.purpose === 'reminder' || step.purpose === 'preparation'
  if (!booking || !isAhead) return end
  const start = { at: booking.startAt - hourMs, since: booking.timesSetAt }
  return end === null || start.at < end.at ? start : end
}

interface Last {
  readonly plan: PlannedSend
  readonly doneAt: number
  /** The day it went, or was wanted. */
  readonly day: EpochDay
}

/** The day the next one counts from: the wanted day, or the day it went where that is another. */
function dayOfLast({ zone }: StepFacts, send: Send | undefined, plan: PlannedSend): EpochDay {
  const went = send?.sentAt ?? null
  return dayAt(zone, went ?? plan.wantedAt ?? 0)
}

function nextMonthly(facts: StepFacts, every: Span, first: PlannedSend, last: Last): EpochDay {
  const firstDay = dayAt(facts.zone, first.wantedAt ?? 0)
  const months = every.amount * (every.unit === 'years' ? 12 : 1)
  const doneDay = dayAt(facts.zone, last.doneAt)
  let day = firstDay
  for (let count = 1; day <= Math.max(doneDay, last.day); count += 1)
    day = addMonths(firstDay, count * months)
  return day
}

function nextWanted(facts: StepFacts, { every }: Repeat, first: PlannedSend, last: Last): number | null {
  const { zone, officeHours, step } = facts
  const { amount, unit } = every
  if (unit === 'minutes' || unit === 'hours' || unit === 'business hours') {
    return addExact(last.doneAt, amount, unit, officeHours)
  }
  const day =
    unit === 'months' || unit === 'years'
      ? nextMonthly(facts, every, first, last)
      : addToDay(last.day, amount, unit, 'after', officeHours)
  const atTime = setTimeOfDay(step.timing)
  const reading = Math.floor(wallAt(zone, first.wantedAt ?? 0).msOfDay / minuteMs)
  return day === null ? null : instantAt(zone, day, atTime === null ? reading : minuteOfDay(atTime))
}

/**
 * A repeating step for one contact: every occurrence that is there already and the next one. Nothing more comes
 * once the condition holds, the maximum is reached or the end has passed.
 */
export function occurrences(
  first: PlannedSend,
  facts: StepFacts,
  own: readonly Send[],
  now: number,
): { readonly plans: readonly PlannedSend[]; readonly done: Done } {
  const { repeat } = facts.step
  const threshold = facts.settings.business.moveThresholdMinutes
  const stored = (plan: PlannedSend) => answeringRow(plan, own, facts.booking, threshold)
  if (repeat === null) return { plans: [first], done: endOf(stored(first), first, now) }
  const isOver =
    repeat.untilCondition !== null && evaluate(repeat.untilCondition, conditionFacts(facts, now)).holds
  const end = laterEnd(repeatEnd(repeat, facts), facts)
  const plans: PlannedSend[] = []
  let plan: PlannedSend | null = first
  let doneAt = facts.run.startedAt
  while (plan !== null) {
    const send = stored(plan)
    if (isOver && !hasGone(send)) {
      return { plans, done: { isDone: true, at: Math.max(doneAt, send?.stateSince ?? now) } }
    }
    const ended = endOf(send, plan, now)
    if (!ended.isDone) return { plans: [...plans, plan], done: ended }
    plans.push(plan)
    doneAt = ended.at
    const last: Last = { plan, doneAt, day: dayOfLast(facts, send, plan) }
    const isLast = repeat.atMost !== null && plans.length >= repeat.atMost
    plan = isLast ? null : following(first, last, repeat, end, facts)
  }
  return { plans, done: { isDone: true, at: doneAt } }
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
  const sentence = `Again ${spanWords(repeat.every)} after the last one: ${inWords(facts, at)}.`
  const start = {
    value: null,
    anchorValue: first.anchorValue,
    occurrence: last.plan.occurrence + 1,
    since: last.doneAt,
    end,
  }
  const plan = planWanted(wantedAt(at, 'repeat', sentence), start, facts)
  return plan.dropped?.code === 'too late' ? null : plan
}
