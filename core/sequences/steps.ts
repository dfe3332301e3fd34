import type { SequenceVersion } from '../model/sequence.ts'
import { isBranch, isMessage, type BranchStep, type PlainStep, type Step } from '../model/step.ts'

/** All steps that do something, those in the arms of branches included, in the order of reading. */
export function plainSteps(steps: readonly Step[]): readonly PlainStep[] {
  return steps.flatMap((step) =>
    isBranch(step) ? [...plainSteps(step.yes), ...plainSteps(step.no)] : [step],
  )
}

/** The letters that some steps send, those for single kinds of recipients included. */
export function letterIdsOf(steps: readonly Step[]): readonly string[] {
  return plainSteps(steps).flatMap((step) => {
    const own = isMessage(step) ? step.recipients.flatMap(({ letterId }) => letterId ?? []) : []
    return step.kind === 'mail' ? [step.letterId, ...own] : own
  })
}

/** All branches, those within arms included. */
export function branchesOf(steps: readonly Step[]): readonly BranchStep[] {
  return steps.flatMap((step) =>
    isBranch(step) ? [step, ...branchesOf(step.yes), ...branchesOf(step.no)] : [],
  )
}

interface Lookup {
  readonly plain: ReadonlyMap<string, PlainStep>
  readonly indexes: ReadonlyMap<string, number>
}

const lookups = new WeakMap<SequenceVersion, Lookup>()

function lookupOf(version: SequenceVersion): Lookup {
  const known = lookups.get(version)
  if (known) return known
  const steps = plainSteps(version.steps)
  const made = {
    plain: new Map(steps.map((step) => [step.id, step])),
    indexes: new Map(steps.map(({ id }, index) => [id, index])),
  }
  lookups.set(version, made)
  return made
}

/** A step of a version by its id, wherever it stands; undefined: it has none of that id. */
export function findStep(version: SequenceVersion, stepId: string): PlainStep | undefined {
  return lookupOf(version).plain.get(stepId)
}

/** Where a step stands among those of its version, in the order of reading. */
export function stepIndex(version: SequenceVersion, stepId: string): number {
  return lookupOf(version).indexes.get(stepId) ?? -1
}

/** Ids that more than one step of a sequence carries. */
export function repeatedIds(steps: readonly Step[]): readonly string[] {
  const ids = [...plainSteps(steps), ...branchesOf(steps)].map(({ id }) => id)
  return [...new Set(ids.filter((id, index) => ids.indexOf(id) !== index))]
}
