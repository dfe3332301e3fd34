import { rulesOf } from '../sequences/purposes.ts'
import { firstOpenFrom } from '../time/openTimes.ts'
import type { Bounds } from './bounds.ts'
import { dropped, moved, type Moment } from './moment.ts'
import { inWords, type StepFacts } from './stepFacts.ts'

const rule = 'lateness'

function firstMoment({ notBefore, notAfter }: Bounds, facts: StepFacts): number | null {
  const ignoresHours = rulesOf(facts.step).sendingHours === 'ignore'
  const open = ignoresHours ? notBefore : firstOpenFrom(facts.sendingHours, notBefore)
  return open === null || (notAfter !== null && open > notAfter) ? null : open
}

/** Rule 6: a moment that was already past when the facts arose. `wantedAt` is the time before rule 4. */
export function applyLateness(moment: Moment, wantedAt: number, bounds: Bounds, facts: StepFacts): Moment {
  const { notBefore } = bounds
  if (moment.dropped || moment.at >= notBefore) return moment
  const wasAhead = wantedAt >= notBefore
  if (!wasAhead && rulesOf(facts.step).ifLate === 'drop') {
    const sentence = `${inWords(facts, wantedAt)} was already past when this was settled (${inWords(facts, notBefore)}).`
    return dropped(moment, rule, 'late', sentence)
  }
  const open = firstMoment(bounds, facts)
  if (open === null) {
    const sentence = `No open moment is left from ${inWords(facts, notBefore)} on.`
    return dropped(moment, rule, 'no open moment', sentence)
  }
  const sentence = `${inWords(facts, moment.at)} was already past: the first open moment is ${inWords(facts, open)}.`
  return moved(moment, rule, open, 'first open moment', sentence)
}
