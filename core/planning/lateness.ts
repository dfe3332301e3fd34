import { firstOpenFrom, type OpenTimes } from '../time/openTimes.ts'
import type { Bounds } from './bounds.ts'
import { dropped, moved, type Moment } from './moment.ts'
import { whyLeftOut, whyThen } from './reasons.ts'
import { inWords, type StepFacts } from './runFacts.ts'

export const latenessRule = 'lateness'

/** The first open moment from an instant that is not beyond a bound; null: none is left. */
export function firstMomentUpTo(openTimes: OpenTimes, from: number, notAfter: number | null): number | null {
  const open = firstOpenFrom(openTimes, from)
  return open === null || (notAfter !== null && open > notAfter) ? null : open
}

/** Rule 6: a moment that was already past when the facts arose. `wantedAt` is the time before rule 4. */
export function applyLateness(moment: Moment, wantedAt: number, bounds: Bounds, facts: StepFacts): Moment {
  const { notBefore, notAfter } = bounds
  if (moment.dropped || moment.at >= notBefore) return moment
  const wasAhead = wantedAt >= notBefore
  if (!wasAhead && facts.rules.ifLate === 'drop') {
    const why = whyLeftOut.wasPast(inWords(facts, wantedAt), inWords(facts, notBefore))
    return dropped(moment, latenessRule, why)
  }
  const open = firstMomentUpTo(facts.openTimes, notBefore, notAfter)
  if (open === null) {
    return dropped(moment, latenessRule, whyLeftOut.noneLeftFrom(inWords(facts, notBefore)))
  }
  return moved(moment, latenessRule, open, whyThen.wasPast(inWords(facts, moment.at), inWords(facts, open)))
}
