import { rulesOf } from '../sequences/purposes.ts'
import { firstOpenFrom, nearestIn, wakingStretch } from '../time/openTimes.ts'
import { dayAt } from '../time/zones.ts'
import type { Bounds } from './bounds.ts'
import { dropped, moved, type Moment } from './moment.ts'
import { inWords, type StepFacts } from './runFacts.ts'

export const latenessRule = 'lateness'

/** The first moment from an instant at which a step may go: at once, in sending hours, or while nobody sleeps. */
function firstAllowed({ step, sendingHours, clientZone }: StepFacts, from: number): number | null {
  const hours = rulesOf(step).sendingHours
  if (hours === 'ignore') return from
  if (hours !== 'any day') return firstOpenFrom(sendingHours, from)
  const day = dayAt(clientZone, from)
  const waking = [day, day + 1].map((date) => wakingStretch(clientZone, date)).filter(({ to }) => to >= from)
  return nearestIn(waking.slice(0, 1), from)
}

function firstMoment({ notBefore, notAfter }: Bounds, facts: StepFacts): number | null {
  const open = firstAllowed(facts, notBefore)
  return open === null || (notAfter !== null && open > notAfter) ? null : open
}

/** Rule 6: a moment that was already past when the facts arose. `wantedAt` is the time before rule 4. */
export function applyLateness(moment: Moment, wantedAt: number, bounds: Bounds, facts: StepFacts): Moment {
  const { notBefore } = bounds
  if (moment.dropped || moment.at >= notBefore) return moment
  const wasAhead = wantedAt >= notBefore
  if (!wasAhead && rulesOf(facts.step).ifLate === 'drop') {
    const sentence = `${inWords(facts, wantedAt)} was already past when this was settled (${inWords(facts, notBefore)}).`
    return dropped(moment, latenessRule, 'late', sentence)
  }
  const open = firstMoment(bounds, facts)
  if (open === null) {
    const sentence = `No open moment is left from ${inWords(facts, notBefore)} on.`
    return dropped(moment, latenessRule, 'no open moment', sentence)
  }
  const sentence = `${inWords(facts, moment.at)} was already past: the first open moment is ${inWords(facts, open)}.`
  return moved(moment, latenessRule, open, 'first open moment', sentence)
}
