import { announcedOf } from '#core/engine/consequences/announced.ts'
import type { EngineContext } from '#core/engine/context.ts'
import type { Effect } from '#core/engine/effects.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import type { Settings } from '#core/planning/slice.ts'
import { aheadOf, rolloutUnderWay } from '../../db/rolloutStore.ts'
import type { Statements } from '../../db/statements.ts'
import type { Application, CommandCall, Decision } from '../application.ts'
import { changedMeanwhile } from '../considering/announcements.ts'
import { clientRollouts, goingOf, rolloutPlan, type RolloutAsk, type RolloutPlan } from './rollouts.ts'
import { inStepsFrom } from './rolloutSteps.ts'

/** What went into effect. */
export interface InEffect {
  /** Of the sequence, or of the service that was changed; empty: the business. */
  readonly id: string
  /** How many sends changed. */
  readonly sends: number
}

const idOf = ({ sequenceId }: RolloutAsk, before: readonly Effect[]): string =>
  sequenceId ?? before.flatMap((one) => (one.kind === 'put service' ? [one.service.id] : []))[0] ?? ''

/** What was written is in effect now, and what was stopped on its way there is over. */
const replacing = ({ sequenceId }: RolloutAsk): readonly Effect[] =>
  sequenceId === null
    ? []
    : [
        { kind: 'remove design', sequenceId },
        { kind: 'give up rollouts', sequenceId },
      ]

/** In effect at once, and client by client for those it concerns; each is held to what was announced. */
function inSteps(
  application: Application,
  ask: RolloutAsk,
  plan: RolloutPlan,
  announcementId: string | null,
  settings: Settings,
  context: EngineContext,
): Result<Decision<InEffect>> {
  const shown = announcementId === null ? null : application.announcements.of(announcementId)
  if (announcementId !== null && shown === null) return refused('changed meanwhile', changedMeanwhile)
  const { sequenceId } = ask
  const { before, clientIds } = plan
  const { now: startedAt, personId } = context
  const announced = shown && { at: shown.at, all: shown.announced }
  const begun = {
    id: context.newId('ro'),
    sequenceId,
    rollout: goingOf(ask),
    personId,
    startedAt,
    announced,
    clientIds,
  }
  return done({
    effects: [...replacing(ask), ...before, { kind: 'begin rollout', begun }],
    answer: { id: idOf(ask, before), sends: shown?.announced.length ?? 0 },
    concerns: clientIds,
    afterwards: (ids) =>
      [
        ...clientRollouts(application.store.statements, settings, { ...plan, clientIds: ids }, ask, context),
      ].flatMap((one) => one?.effects ?? []),
  })
}

/**
 * Why nothing else can go into effect: something of the same sequence still is on its way there, or settings, which
 * concern all sequences. Null: nothing is.
 */
export function underWay(statements: Statements, sequenceId: string | null): Result<never> | null {
  const under = rolloutUnderWay(statements)
  if (!under) return null
  if (under.sequenceId !== null && sequenceId !== null && under.sequenceId !== sequenceId) return null
  const sentence = `The changes before are still going into effect: ${aheadOf(statements, under.id)} clients are ahead. Wait for that, or stop it.`
  return refused('not allowed now', sentence)
}

/** In effect for everybody it concerns, if that is still what was announced. */
export function intoEffect(
  application: Application,
  ask: RolloutAsk,
  announcementId: string | null,
  settings: Settings,
  context: EngineContext,
): Result<Decision<InEffect>> {
  const { statements } = application.store
  const plan = rolloutPlan(statements, settings, ask, context)
  if (!plan.ok) return plan
  const stillGoing = underWay(statements, ask.sequenceId)
  if (stillGoing) return stillGoing
  if (plan.value.clientIds.length >= inStepsFrom)
    return inSteps(application, ask, plan.value, announcementId, settings, context)
  const all = [...clientRollouts(statements, settings, plan.value, ask, context)].filter(
    (one) => one !== null,
  )
  const { letters } = plan.value.after
  const announced = all.flatMap(({ changes }) => changes).map((change) => announcedOf(change, letters))
  if (
    announcementId !== null &&
    !application.announcements.isStillSo(announcementId, announced, context.now)
  ) {
    return refused('changed meanwhile', changedMeanwhile)
  }
  const { before } = plan.value
  const effects = [...replacing(ask), ...before, ...all.flatMap((one) => one.effects)]
  return done({ effects, answer: { id: idOf(ask, before), sends: announced.length } })
}

/** A command that holds itself to what was announced. */
export const heldByItself = (call: CommandCall): CommandCall => ({
  ...call,
  considered: { ...call.considered, announcementId: null },
})
