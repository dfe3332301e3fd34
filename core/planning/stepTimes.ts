import type { Send } from '../model/send.ts'
import type { OffsetTiming, Timing } from '../model/timing.ts'
import { spanWords } from '../sequences/span.ts'
import { isoDateOf, minuteOfDay, yearMonthDayOf } from '../time/calendar.ts'
import { dayAt, instantAt } from '../time/zones.ts'
import { nextYearlyDay, yearlyDay } from '../time/yearly.ts'
import { anchorWords } from '../sequences/anchorWords.ts'
import { anchorKey, anchorValues } from './anchors.ts'
import { endOf, type Done } from './done.ts'
import { planAwaited, planWanted, type PlannedSend, type StepStart } from './planStep.ts'
import { evenings } from './evenings.ts'
import { inWords, type StepFacts } from './runFacts.ts'
import { wantedAfter, wantedAt, wantedByOffset } from './wanted.ts'

/** What a step's first occurrence needs beside its facts. */
export interface StepContext {
  readonly facts: StepFacts
  /** When the step before is done. */
  readonly previous: Done
  /** The end of the step's repeat, if it has one. */
  readonly end: StepStart['end']
  /** The stored sends of this step for one contact. */
  readonly own: readonly Send[]
  readonly now: number
  /** When the arm it stands in was taken; 0: it stands in none. */
  readonly since: number
}

const startless = { value: null, anchorValue: '', occurrence: 0 } as const

function atOnce({ facts, end, since }: StepContext): PlannedSend {
  const at = Math.max(facts.run.startedAt, since)
  const what = since > facts.run.startedAt ? 'the branch was decided' : 'the sequence started'
  const wanted = wantedAt(at, 'at once', `At once: ${what} ${inWords(facts, at)}.`)
  return planWanted(wanted, { ...startless, since: at, end }, facts)
}

function byOffset(timing: OffsetTiming, { facts, end }: StepContext): PlannedSend[] {
  const values = anchorValues(timing.anchor, facts)
  if (values.length === 0) {
    return [planAwaited(facts, 0, 'no value yet', `Waits for ${anchorWords(timing.anchor)}.`, null)]
  }
  return values.map((value) => {
    const start = { value, anchorValue: anchorKey(value), occurrence: value.session, since: 0, end }
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
    return planAwaited(facts, 0, 'previous step', 'Waits until the step before is done.', estimate)
  }
  const doneAt = Math.max(previous.at, facts.run.startedAt)
  const at = wantedAfter(timing, doneAt, facts)
  if (at === null)
    return planAwaited(facts, 0, 'no open moment', 'There are no office hours to count in.', null)
  const time = timing.atTime === null ? '' : `, at ${timing.atTime}`
  const sentence = `${spanWords(timing)} after the step before was done (${inWords(facts, doneAt)})${time}: ${inWords(facts, at)}.`
  return planWanted(wantedAt(at, 'after previous', sentence), { ...startless, since: doneAt, end }, facts)
}

/** The first occurrence that is not before the run's start, then the following year once one has ended. */
function yearly(timing: Extract<Timing, { kind: 'yearly' }>, context: StepContext): PlannedSend {
  const { facts, own, now } = context
  const { client, clientZone, run, settings } = facts
  const named = client.namedDates.find(({ label }) => label === timing.label)
  if (!named) return planAwaited(facts, 0, 'no value yet', `Waits for the date “${timing.label}”.`, null)
  const { leapDay } = settings.business
  let day = nextYearlyDay(named.monthDay, dayAt(clientZone, run.startedAt), leapDay)
  for (;;) {
    const { year } = yearMonthDayOf(day)
    const at = instantAt(clientZone, day - timing.daysBefore, minuteOfDay(timing.atTime))
    const sentence = `Every year on “${timing.label}” (${isoDateOf(day)}), at ${timing.atTime}: ${inWords(facts, at)}.`
    const start = { value: null, anchorValue: isoDateOf(day), occurrence: year, since: 0, end: null }
    const plan = planWanted(wantedAt(at, 'yearly', sentence), start, facts)
    const stored = own.find(
      ({ anchorValue, occurrence }) => anchorValue === plan.anchorValue && occurrence === year,
    )
    if (!stored || !endOf(stored, plan, now).isDone) return plan
    day = yearlyDay(named.monthDay, year + 1, leapDay)
  }
}

/** The plans of a step without its repeats: one, or one for each session of a booking. */
export function firstOccurrences(context: StepContext): readonly PlannedSend[] {
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
      return [yearly(timing, context)]
    case 'evening':
      return evenings(timing.atTime, context.facts)
  }
}
