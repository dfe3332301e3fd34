import { neverHolds } from '../conditions/never.ts'
import { conditionWords, type ConditionNames } from '../conditions/words.ts'
import type { Condition } from '../model/condition.ts'
import type { Letter } from '../model/letter.ts'
import type { OwnStatus } from '../model/ownStatus.ts'
import type { Pipeline } from '../model/pipeline.ts'
import type { Sequence, SequenceVersion, StartRule } from '../model/sequence.ts'
import { startTraits } from '../model/startEvent.ts'
import { isStatusByHand } from '../model/inHouse.ts'
import { isBranch, isMessage, type PlainStep, type Step } from '../model/step.ts'
import { loopThrough, ruledSequences } from './loops.ts'
import { stepFault } from './span.ts'
import { branchesOf, letterIdsOf, plainSteps } from './steps.ts'

/** Something in a sequence that would surprise whoever lets it go. */
export interface Surprise {
  /** Null: about the whole sequence. */
  readonly stepId: string | null
  readonly code: string
  readonly sentence: string
}

export interface WarningFacts extends ConditionNames {
  readonly letters: readonly Letter[]
  readonly sequences: readonly Sequence[]
  readonly ownStatuses: readonly Pick<OwnStatus, 'name' | 'isActive'>[]
  readonly pipelines: readonly Pick<Pipeline, 'stages'>[]
  readonly sequenceVersions: readonly SequenceVersion[]
  /** How many problems a letter has. */
  readonly problemsOf: (letterId: string) => number
}

interface Asked {
  readonly id: string
  readonly name: string
  readonly start: StartRule
  readonly steps: readonly Step[]
}

/** What is known of every run: its service is one of those the sequence starts for. */
function knownOf({ serviceIds, on }: StartRule): readonly Condition[] {
  if (serviceIds.length === 0 || startTraits[on].subject !== 'booking') return []
  return [{ field: 'booking.service', comparison: 'is one of', value: [...serviceIds] }]
}

function neverSurprises({ start, steps }: Asked, names: ConditionNames): readonly Surprise[] {
  const known = knownOf(start)
  const say = (stepId: string | null, condition: Condition | null, whose: string): Surprise[] =>
    condition !== null && neverHolds({ all: [...known, condition] })
      ? [
          {
            stepId,
            code: 'never',
            sentence: `${whose} can never hold: ${conditionWords(condition, names)}.`,
          },
        ]
      : []
  return [
    ...say(null, start.onlyIf, 'What it starts under'),
    ...plainSteps(steps).flatMap(({ id, onlyIf, repeat }) => [
      ...say(id, onlyIf, 'Its condition'),
      ...say(id, repeat?.untilCondition ?? null, 'What ends its repeats'),
    ]),
    ...branchesOf(steps).flatMap(({ id, condition }) => say(id, condition, 'The condition of this fork')),
  ]
}

function letterSurprises(step: PlainStep, { letters, problemsOf }: WarningFacts): readonly Surprise[] {
  const about = (letterId: string): Surprise[] => {
    const letter = letters.find(({ id }) => id === letterId)
    const found = (code: string, sentence: string) => [{ stepId: step.id, code, sentence }]
    if (!letter) return found('no letter', 'Its letter is not there.')
    const own = `The letter “${letter.name}”`
    if (letter.isStarter) return found('unread letter', `${own} has not been published yet: it would not go.`)
    const count = problemsOf(letterId)
    if (count === 0) return []
    return found('letter problems', `${own} has ${count === 1 ? '1 problem' : `${count} problems`}.`)
  }
  return letterIdsOf([step]).flatMap(about)
}

function otherSequence(step: PlainStep, { sequences }: WarningFacts): readonly Surprise[] {
  if (step.kind !== 'sequence' || !step.starts) return []
  const other = sequences.find(({ id }) => id === step.sequenceId)
  if (other?.state === 'live') return []
  const sentence = other
    ? `“${other.name}” is ${other.state === 'draft' ? 'not live yet' : 'paused'}: starting it has no effect now.`
    : 'The sequence it starts is not there.'
  return [{ stepId: step.id, code: 'sequence not live', sentence }]
}

/** A status that is named and that no booking can get. */
function statusSurprises({ start, steps }: Asked, { ownStatuses }: WarningFacts): readonly Surprise[] {
  const say = (stepId: string | null, name: string): Surprise[] =>
    ownStatuses.some((one) => one.isActive && one.name === name)
      ? []
      : [{ stepId, code: 'no status', sentence: `There is no status “${name}”: see Set-up.` }]
  return [
    ...(start.on === 'booking status entered' && start.name !== null ? say(null, start.name) : []),
    ...plainSteps(steps).flatMap((step) =>
      step.kind === 'status' && !isStatusByHand(step.status) ? say(step.id, step.status) : [],
    ),
  ]
}

/** A stage that is named and that no pipeline has. */
function stageSurprises({ start, steps }: Asked, { pipelines }: WarningFacts): readonly Surprise[] {
  const say = (stepId: string | null, name: string): Surprise[] =>
    pipelines.some(({ stages }) => stages.some((one) => one.name === name))
      ? []
      : [{ stepId, code: 'no stage', sentence: `No pipeline has a stage “${name}”: see Set-up.` }]
  return [
    ...(start.on === 'enquiry stage entered' && start.name !== null ? say(null, start.name) : []),
    ...plainSteps(steps).flatMap((step) => (step.kind === 'stage' ? say(step.id, step.stage) : [])),
  ]
}

function loopSurprise(asked: Asked, facts: WarningFacts): readonly Surprise[] {
  const { id, name, start, steps } = asked
  const loop = loopThrough({ id, name, version: { start, steps: [...steps] } }, ruledSequences(facts))
  if (!loop) return []
  const way = [...loop.names, loop.names[0] ?? ''].map((one) => `“${one}”`).join(' → ')
  const sentence = loop.isEndless
    ? `It sets itself off again, for ever: ${way}.`
    : `It leads back to itself (${way}); the start-again rule ends that.`
  return [{ stepId: null, code: loop.isEndless ? 'endless loop' : 'loop', sentence }]
}

/** What would surprise about a sequence, whoever it runs for. */
export function surprisesOf(asked: Asked, facts: WarningFacts): readonly Surprise[] {
  const faults = asked.steps.flatMap((step): Surprise[] => {
    const sentence = stepFault(step)
    return sentence === null ? [] : [{ stepId: step.id, code: 'fault', sentence }]
  })
  const chainsOfNothing = plainSteps(asked.steps)
    .filter((step) => isMessage(step) && step.recipients.length === 0)
    .map(({ id }): Surprise => ({ stepId: id, code: 'nobody', sentence: 'Nobody gets it.' }))
  const empty: Surprise[] =
    asked.steps.length === 0 ? [{ stepId: null, code: 'empty', sentence: 'It has no steps yet.' }] : []
  return [
    ...empty,
    ...faults,
    ...chainsOfNothing,
    ...neverSurprises(asked, facts),
    ...plainSteps(asked.steps).flatMap((step) => [
      ...letterSurprises(step, facts),
      ...otherSequence(step, facts),
    ]),
    ...asked.steps
      .filter(isBranch)
      .flatMap(({ id, yes, no }): Surprise[] =>
        yes.length + no.length === 0
          ? [{ stepId: id, code: 'empty fork', sentence: 'Neither way of this fork has a step.' }]
          : [],
      ),
    ...statusSurprises(asked, facts),
    ...stageSurprises(asked, facts),
    ...loopSurprise(asked, facts),
  ]
}
