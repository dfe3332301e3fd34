import { isBefore } from '../model/timing.ts'
import { lastOpenUpTo } from '../time/openTimes.ts'
import type { Bounds } from './bounds.ts'
import { dropped, moved, type Moment } from './moment.ts'
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
  const limit = `It is of use only until ${inWords(facts, notAfter)}`
  if (!isBefore(facts.step.timing) || isRepeated) return dropped(moment, rule, 'too late', `${limit}.`)
  const open = lastOpenUpTo(facts.openTimes, notAfter)
  if (open === null)
    return dropped(moment, rule, 'no open moment', `${limit}, and no moment before that is open.`)
  return moved(
    moment,
    rule,
    open,
    'last open moment',
    `${limit}: the last open moment is ${inWords(facts, open)}.`,
  )
}
