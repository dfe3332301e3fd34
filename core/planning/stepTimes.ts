import type { OffsetTiming, Timing, YearlyTiming } from '../model/timing.ts'
import { yearlyOffset } from '../model/timing.ts'
import { spanWords } from '../sequences/span.ts'
import { isSameDateName } from '../sequences/startRules.ts'
import { addToDay } from '../time/arithmetic.ts'
import { isoDateOf, minuteOfDay, yearMonthDayOf, type EpochDay } from '../time/calendar.ts'
import { dayAt, instantAt } from '../time/zones.ts'
import { nextYearlyDay, yearlyDay } from '../time/yearly.ts'
import { anchorWords } from '../sequences/anchorWords.ts'
import { anchorKey, anchorValues, type AnchorValue } from './anchors.ts'
import { endOf, type Done } from './done.ts'
import { beforeSmallMove, notLateByMove } from './pastTimes.ts'
import { planAwaited, planWanted, type PlannedSend, type StepStart } from './planStep.ts'
import { evenings } from './evenings.ts'
import { waitsFor, whyThen } from './reasons.ts'
import { inWords, type StepFacts } from './runFacts.ts'
import { asItStands, type Stored } from './standing.ts'
import { wantedAfter, wantedAt, wantedByOffset } from './wanted.ts'

/** What a step's first occurrence needs beside its facts. */
export interface StepContext {
  readonly facts: StepFacts
  /** When the step before is done. */
  readonly previous: Done
  /** The end of the step's repeat, if it has one. */
  readonly end: StepStart['end']
  readonly stored: Stored
  /** When the arm it stands in was taken; 0: it stands in none. */
  readonly since: number
}

const startless = {
  value: null,
  anchorValue: '',
  againSince: null,
  occurrence: 0,
  isRepeated: false,
} as const

function atOnce({ facts, end, since }: StepContext): PlannedSend {
  const at = Math.max(facts.run.startedAt, since)
  const what = since > facts.run.startedAt ? 'the branch was decided' : 'the sequence started'
  const wanted = wantedAt(at, whyThen.atOnce(what, inWords(facts, at)))
  return planWanted(wanted, { ...startless, since: at, end }, facts)
}

/** Since when what went for an earlier value can be due again: of a booking's times, the last move that counts. */
function againSinceOf({ anchor }: OffsetTiming, { since }: AnchorValue, { booking }: StepFacts): number {
  const isOfTimes = anchor.of === 'booking start' || anchor.of === 'booking end'
  return isOfTimes && booking ? booking.history.dueAgainSince : since
}

function byOffset(timing: OffsetTiming, { facts, end }: StepContext): PlannedSend[] {
  const values = anchorValues(timing.anchor, facts)
  if (values.length === 0) {
    return [planAwaited(facts, 0, waitsFor.anchor(anchorWords(timing.anchor)), null)]
  }
  return values.map((value) => {
    const start = {
      value,
      anchorValue: anchorKey(value),
      againSince: againSinceOf(timing, value, facts),
      occurrence: value.session,
      isRepeated: false,
      since: 0,
      end,
    }
    return planWanted(wantedByOffset(timing, value, facts), start, facts)
  })
}

function afterPrevious(
  timing: Extract<Timing, { kind: 'after previous' }>,
  context: StepContext,
): PlannedSend {
  const { facts, previous, end } = context
  if (!previous.isDone) {
    const estimate = previous.estimateAt === null ? null : wantedAfter(timing, previous.estimateAt, facts)
    return planAwaited(facts, 0, waitsFor.previousStep, estimate)
  }
  const doneAt = Math.max(previous.at, facts.run.startedAt)
  const at = wantedAfter(timing, doneAt, facts)
  if (at === null) return planAwaited(facts, 0, waitsFor.officeHours, null)
  const time = timing.atTime === null ? '' : `, at ${timing.atTime}`
  const why = whyThen.afterPrevious(spanWords(timing), inWords(facts, doneAt), time, inWords(facts, at))
  const since = Math.max(doneAt, previous.knownAt)
  return planWanted(wantedAt(at, why), { ...startless, since, end }, facts)
}

function yearlyOn(timing: YearlyTiming, day: EpochDay, context: StepContext): PlannedSend {
  const { facts, end } = context
  const { amount, unit, direction } = yearlyOffset(timing)
  const target = addToDay(day, amount, unit, direction, facts.officeHours)
  const distance = amount === 0 ? '' : `${spanWords({ amount, unit })} ${direction} `
  if (target === null) {
    return planAwaited(facts, 0, waitsFor.workingDays, null)
  }
  const at = instantAt(facts.stepZone, target, minuteOfDay(timing.atTime))
  const why = whyThen.yearly(distance, timing.label, isoDateOf(day), timing.atTime, inWords(facts, at))
  const value: AnchorValue = { kind: 'date', day, since: 0, session: 0 }
  const { year } = yearMonthDayOf(day)
  const start = { ...startless, value, anchorValue: isoDateOf(day), occurrence: year, since: 0, end }
  return planWanted(wantedAt(at, why), start, facts)
}

/** More years than anybody's dates are looked back on at once. */
const mostYears = 200

/** The first occurrence that is not before the run's start, then the following year once one has ended. */
function yearly(timing: YearlyTiming, context: StepContext): readonly PlannedSend[] {
  const { facts, stored } = context
  const { client, clientZone, run, settings } = facts
  const named = client.namedDates.find(({ label }) => isSameDateName(label, timing.label))
  if (!named) return [planAwaited(facts, 0, waitsFor.yearlyDate(timing.label), null)]
  const { leapDay } = settings.business
  const plans: PlannedSend[] = []
  let day = nextYearlyDay(named.monthDay, dayAt(clientZone, run.startedAt), leapDay)
  while (plans.length < mostYears) {
    const plan = yearlyOn(timing, day, context)
    plans.push(plan)
    if (!endOf(asItStands(plan, facts, stored)).isDone) break
    day = yearlyDay(named.monthDay, yearMonthDayOf(day).year + 1, leapDay)
  }
  return plans
}

function byTiming(context: StepContext): readonly PlannedSend[] {
  const { timing } = context.facts.step
  switch (timing.kind) {
    case 'at once':
      return [atOnce(context)]
    case 'elapsed':
    case 'calendar':
      return byOffset(timing, context)
    case 'after previous':
      return [afterPrevious(timing, context)]
    case 'yearly':
      return yearly(timing, context)
    case 'evening':
      return evenings(timing.atTime, context.facts)
  }
}

/** The plans of a step without its repeats: one, or one for each session of a booking or year. */
export function firstOccurrences(context: StepContext): readonly PlannedSend[] {
  const { facts } = context
  const plans = byTiming(context)
  const earlier = beforeSmallMove(facts.booking)
  if (!facts.booking || !earlier || !('anchor' in facts.step.timing)) return plans
  const before = firstOccurrences({ ...context, facts: { ...facts, booking: earlier } })
  const movedAt = facts.booking.timesSetAt
  return plans.map((plan) => {
    const same = before.find(({ occurrence }) => occurrence === plan.occurrence)
    return notLateByMove(plan, same, movedAt, facts)
  })
}
