import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { replan } from '#core/engine/following/replan.ts'
import { isInEffect, sequenceDesign, type SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { missWhileHeldBack } from '#core/engine/commands/sendCommands.ts'
import {
  addExample,
  addSequence,
  goLive,
  pauseSequence,
  removeSequence,
  underSettings,
} from '#core/engine/commands/sequenceCommands.ts'
import { removedVariation, setVariation, varyForClient } from '#core/engine/commands/variationCommands.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Variation } from '#core/model/variation.ts'
import { isBranch, type Step } from '#core/model/step.ts'
import { versionOf, type Settings, type Slice } from '#core/planning/slice.ts'
import { withStep } from '#core/sequences/editing.ts'
import { findStep } from '#core/sequences/steps.ts'
import { fromJson, isSet } from '../../db/columns.ts'
import { readVariation } from '../../db/clientStore.ts'
import { forOverdue, overdueSends } from '../sending/overdue.ts'
import type { CommandCall, Decision, Application } from '../application.ts'
import { heldByItself, intoEffect, underWay, type InEffect } from '../rollouts/intoEffect.ts'
import type { DesignAsk } from '../rollouts/rollouts.ts'
import { endedRollout, inStepsFrom } from '../rollouts/rolloutSteps.ts'
import { rolloutUnderWay } from '../../db/rolloutStore.ts'

/** The slices of all clients with running runs, of one sequence or of any, under the given settings. */
function* runningSlices(
  application: Application,
  sequenceId: string | null,
  settings: Settings,
): Generator<Slice> {
  for (const { id } of application.store.statements.all('clientsWithRunningRuns', { sequenceId })) {
    const slice = application.readableSliceOf(String(id), 'everything')
    if (slice) yield { ...slice, settings }
  }
}

/** Plans all future sends anew: after new data about zones, for instance. Returns how many changed. */
export function planAllAnew(application: Application): number {
  const context = application.context(null)
  let changed = 0
  for (const slice of runningSlices(application, null, application.settings.required())) {
    const effects = replan(slice, context)
    if (effects.length > 0) application.apply(effects)
    changed += effects.filter(({ kind }) => kind === 'put send').length
  }
  return changed
}

function switched(
  application: Application,
  sequenceId: string,
  isOn: boolean,
  settings: Settings,
  context: EngineContext,
): Result<readonly Effect[]> {
  if (!isOn) return pauseSequence(settings, sequenceId, context)
  if (settings.sequences.find(({ id }) => id === sequenceId)?.state === 'draft') {
    return refused('not allowed now', 'A draft goes live from its own page, once what that does was seen.')
  }
  const overdue = overdueSends(application, context.now, sequenceId)
  const live = goLive(settings, sequenceId, context)
  if (!live.ok) return live
  const missed = forOverdue(application, overdue, (own, slice) => missWhileHeldBack(own, slice, context))
  return done([...live.value, ...missed])
}

const countSends = (effects: readonly Effect[]) => effects.filter(({ kind }) => kind === 'put send').length

/** A design in which one step waits for approval. */
function withApproval(design: SequenceDesign, stepId: string): SequenceDesign {
  const waits = (step: Step) => (isBranch(step) ? step : { ...step, needsApproval: true })
  return { ...design, steps: [...withStep(design.steps, stepId, waits)] }
}

function waitsAgain(
  application: Application,
  sequenceId: string,
  stepId: string,
  settings: Settings,
  context: EngineContext,
): Result<Decision<InEffect>> {
  const sequence = settings.sequences.find(({ id }) => id === sequenceId)
  const version = sequence && versionOf(settings, sequenceId, sequence.currentVersion)
  const step = version && findStep(version, stepId)
  if (!sequence || !step) return refused('not found', 'There is no such step any more.')
  if (step.needsApproval) return refused('not allowed now', 'This step waits for approval already.')
  const { start, steps, stops } = version
  const design = withApproval({ name: sequence.name, start, steps, stops }, stepId)
  const { statements } = application.store
  const written = statements.one('readDesign', { sequenceId })
  const rollout = { movesRunning: true, includesExisting: false }
  const result = intoEffect(application, { sequenceId, design, rollout }, null, settings, context)
  if (!result.ok || !written) return result
  const kept = withApproval(sequenceDesign.parse(fromJson(written['designJson'])), stepId)
  const revision = Number(written['revision']) + 1
  const { now: changedAt, personId } = context
  const put: Effect = {
    kind: 'put design',
    design: { sequenceId, design: kept, revision, changedAt, personId },
  }
  return done({ ...result.value, effects: [...result.value.effects, put] })
}

type Decide = (context: EngineContext, settings: Settings) => Result<readonly Effect[]>

/** Clients who have something planned by a sequence: a pause concerns them all. */
const withPlanned = ({ store }: Application, sequenceId: string) =>
  store.statements.all('clientsWithPlanned', { sequenceId }).map(({ id }) => String(id))

function answering(application: Application) {
  return (
    call: CommandCall,
    id: string,
    decide: Decide,
    concernsOf?: () => readonly string[],
  ): Result<InEffect> =>
    application.command(call, (context, settings) => {
      const decided = decide(context, settings)
      if (!decided.ok) return decided
      const answer = { id, sends: countSends(decided.value) }
      const concerns = concernsOf?.() ?? []
      return done({ effects: decided.value, answer, concerns })
    })
}

/** The effects and the id of a sequence that was begun. */
function begun(effects: readonly Effect[]) {
  const id = effects.flatMap((one) => (one.kind === 'put sequence' ? [one.sequence.id] : []))[0] ?? ''
  return done({ effects, answer: { id } })
}

/** What is being written about sequences. It has no effect until it is put into effect. */
function designCommands(application: Application) {
  const { statements } = application.store
  return {
    addSequence: (call: CommandCall, design: SequenceDesign) =>
      application.command(call, (context) => {
        const { name, start, steps, stops } = design
        return begun(addSequence(name, { start, steps, stops }, context))
      }),

    addExample: (call: CommandCall, name: string) =>
      application.command(call, (context, settings) => {
        const decided = addExample(settings, name, context)
        return decided.ok ? begun(decided.value) : decided
      }),

    /** Keeps a design, unless somebody else has kept another one since `revision`. */
    saveDesign: (call: CommandCall, sequenceId: string, revision: number, design: SequenceDesign) => {
      return application.command<{ id: string; revision: number }>(call, (context, settings) => {
        const sequence = settings.sequences.find(({ id }) => id === sequenceId)
        if (!sequence) return refused('not found', 'There is no such sequence.')
        const present = Number(statements.one('readDesign', { sequenceId })?.['revision'] ?? 0)
        if (present !== revision)
          return refused('changed meanwhile', 'This sequence has been changed elsewhere meanwhile.')
        if (sequence.state !== 'draft' && isInEffect(settings, sequence, design)) {
          return done({
            effects: [{ kind: 'remove design', sequenceId }],
            answer: { id: sequenceId, revision: 0 },
          })
        }
        const next = revision + 1
        const { now: changedAt, personId } = context
        const put: Effect = {
          kind: 'put design',
          design: { sequenceId, design, revision: next, changedAt, personId },
        }
        return done({ effects: [put], answer: { id: sequenceId, revision: next } })
      })
    },

    dropDesign: (call: CommandCall, sequenceId: string) =>
      application.command(call, () =>
        done({ effects: [{ kind: 'remove design', sequenceId }], answer: { id: sequenceId } }),
      ),
  }
}

/** What differs for a service or a client, at work on running runs at once. */
function variationCommands(application: Application) {
  const { statements } = application.store
  const answered = answering(application)
  /** For a service at once, or client by client where there are many. */
  const underService = (sequenceId: string, effect: Effect, settings: Settings, context: EngineContext) => {
    const stillGoing = underWay(statements, sequenceId)
    if (stillGoing) return stillGoing
    const clientIds = statements.all('clientsWithRunningRuns', { sequenceId }).map(({ id }) => String(id))
    if (clientIds.length < inStepsFrom) {
      const slices = [...runningSlices(application, sequenceId, settings)]
      return done([effect, ...slices.flatMap((slice) => underSettings(slice, [effect], context))])
    }
    const { now: startedAt, personId } = context
    const of = {
      sequenceId,
      rollout: { plansAnew: true } as const,
      personId,
      startedAt,
      announced: null,
      clientIds,
    }
    return done([effect, { kind: 'begin rollout' as const, begun: { id: context.newId('ro'), ...of } }])
  }
  return {
    vary: (call: CommandCall, variation: Variation) =>
      answered(call, variation.id, (context, settings) => {
        if (variation.scope.of === 'client') {
          const slice = application.sliceOf(variation.scope.clientId, 'everything')
          return slice
            ? varyForClient(slice, variation, context)
            : refused('not found', 'There is no such client.')
        }
        const before = settings.variations.find(({ id }) => id === variation.id)
        const put = setVariation(variation, settings, before, context)
        return put.ok ? underService(variation.sequenceId, put.value, settings, context) : put
      }),

    removeVariation: (call: CommandCall, id: string) =>
      answered(call, id, (context, settings) => {
        const variation = readVariation(statements, id)
        if (!variation) return refused('not found', 'There is no such difference any more.')
        const effect: Effect = { kind: 'remove variation', id }
        if (variation.scope.of === 'service')
          return underService(variation.sequenceId, effect, settings, context)
        const slice = application.sliceOf(variation.scope.clientId, 'everything')
        return slice ? done(removedVariation(slice, id, context)) : done([effect])
      }),
  }
}

/** What a person can do with whole sequences. Each is one transaction, over all clients it concerns. */
export function createSequenceCommands(application: Application) {
  const answered = answering(application)
  return {
    ...designCommands(application),
    ...variationCommands(application),

    /** Live, or held back. What fell due meanwhile is missed and listed when it goes on. */
    switchSequence: (call: CommandCall, id: string, isOn: boolean) =>
      answered(
        call,
        id,
        (context, settings) => switched(application, id, isOn, settings, context),
        () => withPlanned(application, id),
      ),

    /** A design in effect, as it was announced; null: without having been announced. */
    putIntoEffect: (call: CommandCall, ask: DesignAsk, announcementId: string | null) =>
      application.command(heldByItself(call), (context, settings) =>
        intoEffect(application, ask, announcementId, settings, context),
      ),

    /** Who is still ahead of what is going into effect keeps the version before. */
    stopRollout: (call: CommandCall, sequenceId: string) =>
      application.command(call, (context) => {
        const under = rolloutUnderWay(application.store.statements)
        const ended = under?.sequenceId === sequenceId ? endedRollout(under.id, true, context) : []
        return done({ effects: ended, answer: { id: sequenceId } })
      }),

    /** What was stopped goes on with those who were still ahead, held to what was shown for them. */
    takeUpRollout: (call: CommandCall, sequenceId: string): Result<{ id: string }> =>
      application.command<{ id: string }>(call, () => {
        const latest = application.store.statements.one('latestRollout', { sequenceId })
        if (!latest || !isSet(latest['isStopped']))
          return refused('not allowed now', 'Nothing was stopped here that could go on.')
        return done({
          effects: [{ kind: 'take up rollout', id: String(latest['id']) }],
          answer: { id: sequenceId },
        })
      }),

    /** One step waits for approval again, at once and for running ones too; what is being written keeps that. */
    backToApproval: (call: CommandCall, id: string, stepId: string) =>
      application.command(call, (context, settings) =>
        waitsAgain(application, id, stepId, settings, context),
      ),

    removeSequence: (call: CommandCall, id: string) =>
      answered(call, id, (_, settings) => {
        const runs = Number(
          application.store.statements.one('runsOfSequence', { sequenceId: id })?.['count'] ?? 0,
        )
        return removeSequence(settings, id, runs)
      }),
  }
}
