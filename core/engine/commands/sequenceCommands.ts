import { z } from 'zod'
import { done, refused, type Result } from '../../model/problem.ts'
import { startRule, stopRule, type Run, type Sequence, type SequenceVersion } from '../../model/sequence.ts'
import type { Send } from '../../model/send.ts'
import { stepDoneStates } from '../../model/sendState.ts'
import { isMessage, step, type Step } from '../../model/step.ts'
import { versionOf, type Settings, type Slice } from '../../planning/slice.ts'
import { stepsFault } from '../../sequences/span.ts'
import { unrealRecipient } from '../../sequences/recipients.ts'
import { starterDesigns } from '../../sequences/starterDesigns.ts'
import { starterLetters } from '../../sequences/starterLetters.ts'
import { findStep, plainSteps } from '../../sequences/steps.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { settingsWithEffects, withEffects, type Effect } from '../effects.ts'
import { replan } from '../following/replan.ts'

/** What a version of a sequence is made of. */
export const sequenceDraft = z
  .object({
    start: startRule,
    steps: z.array(step).max(100, 'At most 100 steps.'),
    stops: z.array(stopRule).max(20),
  })
  .strict()
export type SequenceDraft = z.infer<typeof sequenceDraft>

type Decided = Result<readonly Effect[]>

function findSequence({ sequences }: Settings, sequenceId: string): Result<Sequence> {
  const sequence = sequences.find(({ id }) => id === sequenceId)
  return sequence ? done(sequence) : refused('not found', 'There is no such sequence.')
}

/** Why the steps of a sequence cannot be used with these settings; null when they can. */
function draftFault({ steps }: SequenceDraft, sequenceId: string, settings: Settings) {
  const { letters, sequences } = settings
  if (steps.length === 0) return 'A sequence needs a step.'
  const fault = stepsFault(steps)
  if (fault !== null) return fault
  for (const one of plainSteps(steps)) {
    const unreal = isMessage(one) ? unrealRecipient(one.recipients, settings) : null
    if (unreal !== null) return unreal
    if (one.kind === 'mail' && !letters.some(({ id }) => id === one.letterId)) {
      return `The letter ${one.letterId} of the step ${one.id} is not there.`
    }
    if (one.kind === 'sequence' && !sequences.some(({ id }) => id === one.sequenceId)) {
      return `The sequence ${one.sequenceId} of the step ${one.id} is not there.`
    }
    if (one.kind === 'sequence' && one.starts && one.sequenceId === sequenceId) {
      return `The step ${one.id} would start its own sequence again and again.`
    }
  }
  return null
}

/** A live sequence edited: a new version. Running runs keep theirs until they are moved. */
export function changeSequence(
  settings: Settings,
  sequenceId: string,
  draft: SequenceDraft,
  context: EngineContext,
): Decided {
  const found = findSequence(settings, sequenceId)
  if (!found.ok) return found
  const fault = draftFault(draft, sequenceId, settings)
  if (fault !== null) return refused('invalid', fault, 'steps')
  // A draft has never run: its version is written over.
  const version = found.value.currentVersion + (found.value.state === 'draft' ? 0 : 1)
  const sentence = `Sequence “${found.value.name}” was changed: version ${version}.`
  return done([
    { kind: 'put sequence version', version: { sequenceId, version, ...draft } },
    { kind: 'put sequence', sequence: { ...found.value, currentVersion: version } },
    appendEvent(context, 'sequence changed', { name: found.value.name }, sentence),
  ])
}

/** A new sequence, a draft with nothing in effect. */
export function addSequence(name: string, draft: SequenceDraft, context: EngineContext): readonly Effect[] {
  const id = context.newId('sq')
  const sequence: Sequence = { id, name, state: 'draft', liveSince: null, currentVersion: 1 }
  return [
    { kind: 'put sequence', sequence },
    { kind: 'put sequence version', version: { sequenceId: id, version: 1, ...draft } },
    appendEvent(context, 'sequence changed', { name }, `Sequence “${name}” was begun.`),
  ]
}

/** A starter's letter where nobody has it: to be read and published. Its id is taken where one was archived. */
function lettersToAdd(steps: readonly Step[], settings: Settings, context: EngineContext) {
  const wanted = new Set(plainSteps(steps).flatMap((one) => (one.kind === 'mail' ? [one.letterId] : [])))
  return starterLetters
    .filter(({ id }) => wanted.has(id))
    .flatMap((letter) => {
      const present = settings.letters.find(({ id }) => id === letter.id)
      if (present && !present.isArchived) return []
      const id = present ? context.newId('lt') : letter.id
      return [{ from: letter.id, letter: { ...letter, id, isStarter: true, changedAt: context.now } }]
    })
}

/** A new sequence from an example, with the letter of each of its steps: those that are not there yet are added. */
export function addExample(settings: Settings, name: string, context: EngineContext): Decided {
  const example = starterDesigns.find((one) => one.name === name)
  if (!example) return refused('not found', 'There is no such example.')
  const added = lettersToAdd(example.steps, settings, context)
  const letterIds = new Map(added.map(({ from, letter }) => [from, letter.id]))
  const steps = example.steps.map((one) =>
    one.kind === 'mail' ? { ...one, letterId: letterIds.get(one.letterId) ?? one.letterId } : one,
  )
  const { start, stops } = example
  return done([
    ...added.map(({ letter }): Effect => ({ kind: 'put letter', letter, personId: context.personId })),
    ...addSequence(name, { start, steps, stops: [...stops] }, context),
  ])
}

/** Takes away a draft that never ran and that nothing starts. */
export function removeSequence(settings: Settings, sequenceId: string, runs: number): Decided {
  const found = findSequence(settings, sequenceId)
  if (!found.ok) return found
  if (found.value.state !== 'draft' || runs > 0) {
    return refused('not allowed now', 'This sequence has run: its history stays. Pause it instead.')
  }
  const user = settings.sequences.find(
    ({ id, currentVersion }) =>
      id !== sequenceId &&
      plainSteps(versionOf(settings, id, currentVersion).steps).some(
        (one) => one.kind === 'sequence' && one.sequenceId === sequenceId,
      ),
  )
  if (user) return refused('not allowed now', `“${user.name}” has a step that starts or stops this sequence.`)
  return done([{ kind: 'remove sequence', id: sequenceId }])
}

/** Lets a sequence go live. Only acts after this moment start runs; those there already can be included. */
export function goLive(settings: Settings, sequenceId: string, context: EngineContext): Decided {
  const found = findSequence(settings, sequenceId)
  if (!found.ok) return found
  const sequence = found.value
  if (sequence.state === 'live') return refused('not allowed now', 'This sequence is live already.')
  const fault = draftFault(versionOf(settings, sequenceId, sequence.currentVersion), sequenceId, settings)
  if (fault !== null) return refused('invalid', fault, 'steps')
  const isFirst = sequence.state === 'draft'
  // Acts at this very instant come after it: those before it have been asked about already.
  const liveSince = isFirst ? context.now - 1 : sequence.liveSince
  const words = isFirst ? 'went live' : 'goes on'
  return done([
    { kind: 'put sequence', sequence: { ...sequence, state: 'live', liveSince } },
    appendEvent(
      context,
      isFirst ? 'sequence went live' : 'sequence resumed',
      { name: sequence.name },
      `Sequence “${sequence.name}” ${words}.`,
    ),
  ])
}

/** Holds a sequence back: its runs go on being planned, and nothing of it goes. */
export function pauseSequence(settings: Settings, sequenceId: string, context: EngineContext): Decided {
  const found = findSequence(settings, sequenceId)
  if (!found.ok) return found
  if (found.value.state !== 'live') return refused('not allowed now', 'Only a live sequence can be paused.')
  const sentence = `Sequence “${found.value.name}” was paused.`
  return done([
    { kind: 'put sequence', sequence: { ...found.value, state: 'paused' } },
    appendEvent(context, 'sequence paused', { name: found.value.name }, sentence),
  ])
}

function isStepDone(stepId: string, own: readonly Send[]): boolean {
  const sends = own.filter((send) => send.stepId === stepId)
  return sends.length > 0 && sends.every(({ state }) => state === 'dropped' || stepDoneStates.includes(state))
}

/** Steps of a new version that come before what a run has already done: they are not run. */
function passedOver(run: Run, from: SequenceVersion, to: SequenceVersion, sends: readonly Send[]) {
  const own = sends.filter(({ runId }) => runId === run.id)
  const steps = plainSteps(to.steps)
  const lastDone = steps.findLastIndex(({ id }) => isStepDone(id, own))
  return steps.slice(0, Math.max(0, lastDone)).filter(({ id }) => findStep(from, id) === undefined)
}

/** A run in another version: steps match by their ids, and a new or changed timing counts from now. */
export function inVersion(
  run: Run,
  from: SequenceVersion,
  to: SequenceVersion,
  sends: readonly Send[],
  now: number,
): Run {
  const retimed = plainSteps(to.steps).filter(({ id, timing, lead }) => {
    const old = findStep(from, id)
    // A new step counts from now, too: it is not late from a time when it was not there.
    return !old || JSON.stringify([old.timing, old.lead]) !== JSON.stringify([timing, lead])
  })
  return {
    ...run,
    version: to.version,
    timingSetAt: { ...run.timingSetAt, ...Object.fromEntries(retimed.map(({ id }) => [id, now])) },
    passedOver: [...run.passedOver, ...passedOver(run, from, to, sends).map(({ id }) => id)],
  }
}

/** Moves one client's running runs of a sequence to its current version, and plans anew. */
export function moveRuns(slice: Slice, sequenceId: string, context: EngineContext): readonly Effect[] {
  const { settings, facts } = slice
  const sequence = settings.sequences.find(({ id }) => id === sequenceId)
  if (!sequence) return []
  const to = versionOf(settings, sequenceId, sequence.currentVersion)
  const moved = facts.runs
    .filter((run) => run.state === 'running' && run.sequenceId === sequenceId && run.version !== to.version)
    .flatMap((run): Effect[] => {
      const from = versionOf(settings, sequenceId, run.version)
      const about = { clientId: run.clientId, subject: run.subject }
      const sentence = `Sequence “${sequence.name}” goes on in version ${to.version}.`
      return [
        { kind: 'put run', run: inVersion(run, from, to, facts.sends, context.now) },
        appendEvent(context, 'run moved', about, sentence),
      ]
    })
  if (moved.length === 0) return []
  return [...moved, ...replan({ settings, facts: withEffects(facts, moved) }, context)]
}

/** One client's slice under changed settings, planned anew. */
export function underSettings(
  slice: Slice,
  changes: readonly Effect[],
  context: EngineContext,
): readonly Effect[] {
  return replan({ ...slice, settings: settingsWithEffects(slice.settings, changes) }, context)
}
