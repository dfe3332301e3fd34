import { evaluate, testWords, type ConditionFacts } from '../../conditions/evaluate.ts'
import { factChangeWords, smallestChange } from '../../conditions/smallestChange.ts'
import type { Comparison, Condition, Test } from '../../model/condition.ts'
import type { Sequence } from '../../model/sequence.ts'
import type { Subject } from '../../model/subject.ts'
import type { Slice } from '../../planning/slice.ts'
import { serviceOf, versionOf } from '../../planning/slice.ts'
import { againWords, eventWords } from '../../sequences/eventWords.ts'
import { subjectOfTrigger, whyNotStarted, type Trigger } from '../../sequences/startRules.ts'
import { dateAndTime } from '../../time/format.ts'
import type { Remedy } from './remedies.ts'
import { startFacts } from '../following/startRuns.ts'

/** The first thing that keeps a sequence from running for somebody, the fact, and the smallest change that would remedy it. */
export interface WhyNot {
  readonly code: string
  readonly sentence: string
  readonly change: string
  /** The same for programs; null: nobody can bring it about now. */
  readonly remedy: Remedy | null
}

const opposite: Readonly<Record<Comparison, string>> = {
  is: 'would have to be',
  'is not': 'must not be',
  'is one of': 'would have to be one of',
  'is none of': 'must be none of',
  'is at least': 'would have to be at least',
  'is at most': 'would have to be at most',
}

/** What would have to be otherwise where nobody can bring it about by itself. */
function wishFor(because: Test | null): string {
  if (because === null) return 'One of its parts would have to hold.'
  const { field, comparison, value } = because
  return `${field} ${opposite[comparison]} ${Array.isArray(value) ? value.join(', ') : String(value)}.`
}

/** The first test of a condition that fails, as a reason, with the fewest facts that would have to be different. */
export function byCondition(condition: Condition, asked: ConditionFacts, subject: Subject): WhyNot {
  const answer = evaluate(condition, asked)
  const because = answer.holds ? null : answer.because
  const sentence = because && !answer.holds ? testWords(because, answer.fact) : 'Its condition does not hold.'
  const changes = smallestChange(condition, asked)
  return {
    code: 'condition',
    sentence,
    change: changes ? changes.map(factChangeWords).join(' ') : wishFor(because),
    remedy: changes && { kind: 'facts', subject, changes },
  }
}

function conditionReason(sequence: Sequence, trigger: Trigger, slice: Slice): WhyNot {
  const { start } = versionOf(slice.settings, sequence.id, sequence.currentVersion)
  const { asked } = startFacts(trigger, slice, trigger.at)
  return byCondition(start.onlyIf ?? { all: [] }, asked, subjectOfTrigger(trigger))
}

/** Why a sequence has no run that began with something that happened; null: nothing is in the way. */
export function whyNoRun(sequence: Sequence, trigger: Trigger, slice: Slice): WhyNot | null {
  const { settings, facts } = slice
  const { start } = versionOf(settings, sequence.id, sequence.currentVersion)
  const { asked, serviceId, madeAt } = startFacts(trigger, slice, trigger.at)
  const code = whyNotStarted(sequence, start, { ...trigger, madeAt }, serviceId, facts.runs, asked)
  const zone = settings.zones.zone(settings.business.zone)
  const when = dateAndTime(zone, trigger.at)
  switch (code) {
    case null:
      return null
    case 'not live':
      return {
        code,
        sentence: `“${sequence.name}” is ${sequence.state}.`,
        change: 'It would have to be live.',
        remedy: { kind: 'go live', sequenceId: sequence.id },
      }
    case 'another event': {
      const wanted = eventWords(start)
      const was = eventWords({ on: trigger.on, name: trigger.name === '' ? null : trigger.name })
      return {
        code,
        sentence: `It starts when ${wanted}; here ${was}.`,
        change: `It would have to happen that ${wanted}.`,
        remedy: null,
      }
    }
    case 'before going live':
      return {
        code,
        sentence: `It happened ${when}, not after the sequence went live (${dateAndTime(zone, sequence.liveSince ?? 0)}).`,
        change: 'Include it by hand, or let it happen again.',
        remedy: { kind: 'include', sequenceId: sequence.id, trigger },
      }
    case 'another service': {
      const names = start.serviceIds.map((id) => serviceOf(settings, id).name).join(', ')
      const own = serviceId === null ? 'none' : serviceOf(settings, serviceId).name
      return {
        code,
        sentence: `It is for ${names}; the service is ${own}.`,
        change: `The service would have to be one of ${names}.`,
        remedy: null,
      }
    }
    case 'condition':
      return conditionReason(sequence, trigger, slice)
    case 'has run':
      return {
        code,
        sentence: `It has run already, and starts ${againWords(start)}.`,
        change:
          start.again.kind === 'every time'
            ? 'More time would have to pass.'
            : 'It would have to start every time.',
        remedy: null,
      }
  }
}
