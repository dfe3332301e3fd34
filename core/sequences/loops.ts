import type { Sequence, SequenceVersion, StartRule } from '../model/sequence.ts'
import { isStatusByHand } from '../model/inHouse.ts'
import type { PlainStep } from '../model/step.ts'
import { plainSteps } from './steps.ts'

/** A sequence with its present rules. */
export interface RuledSequence {
  readonly id: string
  readonly name: string
  readonly version: Pick<SequenceVersion, 'start' | 'steps'>
}

/** What a step sets off that can start other sequences; null: nothing. */
function setsOff(step: PlainStep): Pick<StartRule, 'on' | 'name'> | null {
  switch (step.kind) {
    case 'tag':
      return step.adds ? { on: 'tag added', name: step.tag } : null
    case 'list':
      return step.joins ? { on: 'list joined', name: step.list } : null
    case 'stage':
      return { on: 'enquiry stage entered', name: step.stage }
    case 'status':
      return isStatusByHand(step.status)
        ? { on: `booking ${step.status}`, name: null }
        : { on: 'booking status entered', name: step.status }
    case 'mail':
    case 'text message':
    case 'note to staff':
    case 'task':
    case 'date stamp':
    case 'sequence':
    case 'web call':
      return null
  }
}

function starts(step: PlainStep, other: RuledSequence): boolean {
  if (step.kind === 'sequence') return step.starts && step.sequenceId === other.id
  const happens = setsOff(step)
  const { on, name } = other.version.start
  return happens !== null && happens.on === on && (name === null || name === happens.name)
}

const starting = (from: RuledSequence, all: readonly RuledSequence[]) => {
  const steps = plainSteps(from.version.steps).filter(({ isOff }) => !isOff)
  return all.filter((other) => steps.some((step) => starts(step, other)))
}

/** A way by which a sequence sets itself off again, through others or by itself. */
export interface Loop {
  /** Names in order; the last one starts the first again. */
  readonly names: readonly string[]
  /** Whether the start-again rules let it go round for ever. */
  readonly isEndless: boolean
}

/** The shortest loop that leads back to a sequence; null: there is none. */
export function loopThrough(own: RuledSequence, others: readonly RuledSequence[]): Loop | null {
  const all = [own, ...others.filter(({ id }) => id !== own.id)]
  let ways: readonly (readonly RuledSequence[])[] = [[own]]
  const seen = new Set<string>()
  while (ways.length > 0) {
    const longer: (readonly RuledSequence[])[] = []
    for (const way of ways) {
      const last = way.at(-1) ?? own
      for (const next of starting(last, all)) {
        if (next.id === own.id) {
          const isEndless = way.every(({ version }) => version.start.again.kind === 'every time')
          return { names: way.map(({ name }) => name), isEndless }
        }
        if (seen.has(next.id)) continue
        seen.add(next.id)
        longer.push([...way, next])
      }
    }
    ways = longer
  }
  return null
}

/** All sequences with their present rules. */
export function ruledSequences(of: {
  readonly sequences: readonly Sequence[]
  readonly sequenceVersions: readonly SequenceVersion[]
}): readonly RuledSequence[] {
  return of.sequences.flatMap(({ id, name, currentVersion }) => {
    const version = of.sequenceVersions.find((one) => one.sequenceId === id && one.version === currentVersion)
    return version ? [{ id, name, version }] : []
  })
}
