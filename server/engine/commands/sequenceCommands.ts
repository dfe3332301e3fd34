import { announcedOf } from '#core/engine/consequences/announced.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { replan } from '#core/engine/following/replan.ts'
import { isInEffect, sequenceDesign, type SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { missWhileHeldBack } from '#core/engine/commands/sendCommands.ts'
import {
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
import { changedMeanwhile } from '../considering/announcements.ts'
import { forOverdue, overdueSends } from '../sending/overdue.ts'
import type { CommandCall, Decision, Office } from '../office.ts'
import { clientRollouts, rolloutPlan, type RolloutAsk, type RolloutPlan } from '../rollouts/rollouts.ts'
import { endedRollout, inStepsFrom } from '../rollouts/rolloutSteps.ts'
import { aheadOf, rolloutUnderWay } from '../../db/rolloutStore.ts'

/** The slices of all clients with running runs, of one sequence or of any, under the given settings. */
function* runningSlices(office: Office, sequenceId: string | null, settings: Settings): Generator<Slice> {
  for (const { id } of office.store.statements.all('clientsWithRunningRuns', { sequenceId })) {
    const slice = office.readableSliceOf(String(id), 'everything')
    if (slice) yield { ...slice, settings }
  }
}

/** Plans all future sends anew: after new data about zones, for instance. Returns how many changed. */
export function planAllAnew(office: Office): number {
  const context = office.context(null)
  let changed = 0
  for (const slice of runningSlices(office, null, office.settings.required())) {
    const effects = replan(slice, context)
    if (effects.length > 0) office.apply(effects)
    changed += effects.filter(({ kind }) => kind === 'put send').length
  }
  return changed
}

function switched(
  office: Office,
  sequenceId: string,
  isOn: boolean,
  settings: Settings,
  context: EngineContext,
): Result<readonly Effect[]> {
  if (!isOn) return pauseSequence(settings, sequenceId, context)
  if (settings.sequences.find(({ id }) => id === sequenceId)?.state === 'draft') {
    return refused('not allowed now', 'A draft goes live from its own page, once what that does was seen.')
  }
  const overdue = overdueSends(office, context.now, sequenceId)
  const live = goLive(settings, sequenceId, context)
  if (!live.ok) return live
  const missed = forOverdue(office, overdue, (own, slice) => missWhileHeldBack(own, slice, context))
  return done([...live.value, ...missed])
}

export interface SequenceAnswer {
  readonly id: string
  /** How many sends changed. */
  readonly sends: number
}

const countSends = (effects: readonly Effect[]) => effects.filter(({ kind }) => kind === 'put send').length

/** What was written is in effect now, and what was stopped on its way there is over. */
const replacing = (sequenceId: string): readonly Effect[] => [
  { kind: 'remove design', sequenceId },
  { kind: 'give up rollouts', sequenceId },
]

/** A design in effect at once, and client by client for those it concerns; each is held to what was announced. */
function inSteps(
  office: Office,
  ask: RolloutAsk,
  plan: RolloutPlan,
  announcementId: string | null,
  settings: Settings,
  context: EngineContext,
): Result<Decision<SequenceAnswer>> {
  const shown = announcementId === null ? null : office.announcements.of(announcementId)
  if (announcementId !== null && shown === null) return refused('changed meanwhile', changedMeanwhile)
  const { sequenceId, rollout } = ask
  const { before, clientIds } = plan
  const { now: startedAt, personId } = context
  const announced = shown && { at: shown.at, all: shown.announced }
  const begun = { id: context.newId('ro'), sequenceId, rollout, personId, startedAt, announced, clientIds }
  return done({
    effects: [...replacing(sequenceId), ...before, { kind: 'begin rollout', begun }],
    answer: { id: sequenceId, sends: shown?.announced.length ?? 0 },
    concerns: clientIds,
    afterwards: (ids) =>
      [
        ...clientRollouts(office.store.statements, settings, { ...plan, clientIds: ids }, ask, context),
      ].flatMap((one) => one?.effects ?? []),
  })
}

/** A design in effect for everybody it concerns, if that is still what was announced. */
function intoEffect(
  office: Office,
  ask: RolloutAsk,
  announcementId: string | null,
  settings: Settings,
  context: EngineContext,
): Result<Decision<SequenceAnswer>> {
  const { statements } = office.store
  const plan = rolloutPlan(statements, settings, ask, context)
  if (!plan.ok) return plan
  const under = rolloutUnderWay(statements)
  if (under?.sequenceId === ask.sequenceId) {
    const sentence = `The changes before are still going into effect: ${aheadOf(statements, under.id)} clients are ahead. Wait for that, or stop it.`
    return refused('not allowed now', sentence)
  }
  if (plan.value.clientIds.length >= inStepsFrom)
    return inSteps(office, ask, plan.value, announcementId, settings, context)
  const all = [...clientRollouts(statements, settings, plan.value, ask, context)].filter(
    (one) => one !== null,
  )
  const { letters } = plan.value.after
  const announced = all.flatMap(({ changes }) => changes).map((change) => announcedOf(change, letters))
  if (announcementId !== null && !office.announcements.isStillSo(announcementId, announced, context.now)) {
    return refused('changed meanwhile', changedMeanwhile)
  }
  const effects = [...replacing(ask.sequenceId), ...plan.value.before, ...all.flatMap((one) => one.effects)]
  return done({ effects, answer: { id: ask.sequenceId, sends: announced.length } })
}

/** A design in which one step waits for approval. */
function withApproval(design: SequenceDesign, stepId: string): SequenceDesign {
  const waits = (step: Step) => (isBranch(step) ? step : { ...step, needsApproval: true })
  return { ...design, steps: [...withStep(design.steps, stepId, waits)] }
}

function waitsAgain(
  office: Office,
  sequenceId: string,
  stepId: string,
  settings: Settings,
  context: EngineContext,
): Result<Decision<SequenceAnswer>> {
  const sequence = settings.sequences.find(({ id }) => id === sequenceId)
  const version = sequence && versionOf(settings, sequenceId, sequence.currentVersion)
  const step = version && findStep(version, stepId)
  if (!sequence || !step) return refused('not found', 'There is no such step any more.')
  if (step.needsApproval) return refused('not allowed now', 'This step waits for approval already.')
  const { start, steps, stops } = version
  const design = withApproval({ name: sequence.name, start, steps, stops }, stepId)
  const { statements } = office.store
  const written = statements.one('readDesign', { sequenceId })
  const rollout = { movesRunning: true, includesExisting: false }
  const result = intoEffect(office, { sequenceId, design, rollout }, null, settings, context)
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
const withPlanned = ({ store }: Office, sequenceId: string) =>
  store.statements.all('clientsWithPlanned', { sequenceId }).map(({ id }) => String(id))

function answering(office: Office) {
  return (
    call: CommandCall,
    id: string,
    decide: Decide,
    concernsOf?: () => readonly string[],
  ): Result<SequenceAnswer> =>
    office.command(call, (context, settings) => {
      const decided = decide(context, settings)
      if (!decided.ok) return decided
      const answer = { id, sends: countSends(decided.value) }
      const concerns = concernsOf?.() ?? []
      return done({ effects: decided.value, answer, concerns })
    })
}

/** What is being written about sequences. It has no effect until it is put into effect. */
function designCommands(office: Office) {
  const { statements } = office.store
  return {
    addSequence: (call: CommandCall, design: SequenceDesign) =>
      office.command(call, (context) => {
        const { name, start, steps, stops } = design
        const effects = addSequence(name, { start, steps, stops }, context)
        const id = effects.flatMap((one) => (one.kind === 'put sequence' ? [one.sequence.id] : []))[0] ?? ''
        return done({ effects, answer: { id } })
      }),

    /** Keeps a design, unless somebody else has kept another one since `revision`. */
    saveDesign: (call: CommandCall, sequenceId: string, revision: number, design: SequenceDesign) => {
      return office.command<{ id: string; revision: number }>(call, (context, settings) => {
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
      office.command(call, () =>
        done({ effects: [{ kind: 'remove design', sequenceId }], answer: { id: sequenceId } }),
      ),
  }
}

/** What differs for a service or a client, at work on running runs at once. */
function variationCommands(office: Office) {
  const { statements } = office.store
  const answered = answering(office)
  const underService = (sequenceId: string, effect: Effect, settings: Settings, context: EngineContext) => [
    effect,
    ...[...runningSlices(office, sequenceId, settings)].flatMap((slice) =>
      underSettings(slice, [effect], context),
    ),
  ]
  return {
    vary: (call: CommandCall, variation: Variation) =>
      answered(call, variation.id, (context, settings) => {
        if (variation.scope.of === 'client') {
          const slice = office.sliceOf(variation.scope.clientId, 'everything')
          return slice
            ? varyForClient(slice, variation, context)
            : refused('not found', 'There is no such client.')
        }
        const before = settings.variations.find(({ id }) => id === variation.id)
        const put = setVariation(variation, settings, before, context)
        return put.ok ? done(underService(variation.sequenceId, put.value, settings, context)) : put
      }),

    removeVariation: (call: CommandCall, id: string) =>
      answered(call, id, (context, settings) => {
        const variation = readVariation(statements, id)
        if (!variation) return refused('not found', 'There is no such difference any more.')
        const effect: Effect = { kind: 'remove variation', id }
        if (variation.scope.of === 'service')
          return done(underService(variation.sequenceId, effect, settings, context))
        const slice = office.sliceOf(variation.scope.clientId, 'everything')
        return slice ? done(removedVariation(slice, id, context)) : done([effect])
      }),
  }
}

/** A command that holds itself to what was announced. */
const heldByItself = (call: CommandCall): CommandCall => ({
  ...call,
  considered: { ...call.considered, announcementId: null },
})

/** What a person can do with whole sequences. Each is one transaction, over all clients it concerns. */
export function createSequenceCommands(office: Office) {
  const answered = answering(office)
  return {
    ...designCommands(office),
    ...variationCommands(office),

    /** Live, or held back. What fell due meanwhile is missed and listed when it goes on. */
    switchSequence: (call: CommandCall, id: string, isOn: boolean) =>
      answered(
        call,
        id,
        (context, settings) => switched(office, id, isOn, settings, context),
        () => withPlanned(office, id),
      ),

    /** A design in effect, as it was announced; null: without having been announced. */
    putIntoEffect: (call: CommandCall, ask: RolloutAsk, announcementId: string | null) =>
      office.command(heldByItself(call), (context, settings) =>
        intoEffect(office, ask, announcementId, settings, context),
      ),

    /** Who is still ahead of what is going into effect keeps the version before. */
    stopRollout: (call: CommandCall, sequenceId: string) =>
      office.command(call, (context) => {
        const under = rolloutUnderWay(office.store.statements)
        const ended = under?.sequenceId === sequenceId ? endedRollout(under.id, true, context) : []
        return done({ effects: ended, answer: { id: sequenceId } })
      }),

    /** What was stopped goes on with those who were still ahead, held to what was shown for them. */
    takeUpRollout: (call: CommandCall, sequenceId: string): Result<{ id: string }> =>
      office.command<{ id: string }>(call, () => {
        const latest = office.store.statements.one('latestRollout', { sequenceId })
        if (!latest || !isSet(latest['isStopped']))
          return refused('not allowed now', 'Nothing was stopped here that could go on.')
        return done({
          effects: [{ kind: 'take up rollout', id: String(latest['id']) }],
          answer: { id: sequenceId },
        })
      }),

    /** One step waits for approval again, at once and for running ones too; what is being written keeps that. */
    backToApproval: (call: CommandCall, id: string, stepId: string) =>
      office.command(call, (context, settings) => waitsAgain(office, id, stepId, settings, context)),

    removeSequence: (call: CommandCall, id: string) =>
      answered(call, id, (_, settings) => {
        const runs = Number(office.store.statements.one('runsOfSequence', { sequenceId: id })?.['count'] ?? 0)
        return removeSequence(settings, id, runs)
      }),
  }
}
