import { isBefore } from '../model/timing.ts'
import { lastOpenUpTo } from '../time/openTimes.ts'
import type { Bounds } from './bounds.ts'
import { dropped, moved, type Moment } from './moment.ts'
import { whyLeftOut, whyThen } from './reasons.ts'
import { inWords, type StepFacts } from './runFacts.ts'

const rule = 'lead'

/**
 * Rule 5: a before-step later than its last moment takes the last open one; any other step, and one that comes again,
 * is dropped.
 */
export function applyLead(
  moment: Moment,
  { notAfter }: Bounds,
  facts: StepFacts,
  isRepeated: boolean,
): Moment {
  if (moment.dropped || notAfter === null || moment.at <= notAfter) return moment
  const limit = inWords(facts, notAfter)
  if (!isBefore(facts.step.timing) || isRepeated) return dropped(moment, rule, whyLeftOut.ofNoUse(limit))
  const open = lastOpenUpTo(facts.openTimes, notAfter)
  if (open === null) return dropped(moment, rule, whyLeftOut.noneBefore(limit))
  return moved(moment, rule, open, whyThen.lastOpen(limit, inWords(facts, open)))
}
