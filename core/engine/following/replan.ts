import { domainOf } from '../../model/values.ts'
import type { Run } from '../../model/sequence.ts'
import type { Send } from '../../model/send.ts'
import { isBranch } from '../../model/step.ts'
import { groupedBy } from '../../planning/groupedBy.ts'
import { lastChanceOf } from '../../planning/lastChance.ts'
import { isAtRest } from '../../planning/atRest.ts'
import { clientPlan, type PlannedSend } from '../../planning/planClient.ts'
import type { OpenBranch } from '../../planning/planRun.ts'
import { planKey } from '../../planning/planStep.ts'
import { reconcile, type ReconcileContext } from '../../planning/reconcile.ts'
import { aboutOf } from '../../planning/about.ts'
import { businessDate, versionOf, type Settings, type Slice } from '../../planning/slice.ts'
import { reachedOn } from '../../sequences/recipients.ts'
import { plainSteps } from '../../sequences/steps.ts'
import { changedFacts, keptWords } from '../atSending/approval.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { foreseen } from '../atSending/foresight.ts'

/** RFC 5322 Message-ID of what goes out: made from its id, so every attempt carries the same. */
export function messageIdOf(settings: Settings, id: string): string {
  return `<${id}@${domainOf(settings.business.senderAddress)}>`
}

/** The send a Message-ID was made from, whatever the domain was then; null: it is of none. */
export const sendIdIn = (messageId: string): string | null =>
  /^<(sd_[\w-]{1,80})@/.exec(messageId)?.[1] ?? null

/** The same of an answer that the team wrote. */
export const writtenAnswerIdIn = (messageId: string): string | null =>
  /^<(wa_[\w-]{1,60})@/.exec(messageId)?.[1] ?? null

/** What waits for a person goes stale once its last chance has passed. */
export function staleMoment(send: Send, slice: Slice): readonly Effect[] {
  if (send.state !== 'waiting') return []
  const { id: key, clientId } = send
  const lastChance = lastChanceOf(send, slice)
  if (lastChance === null) return [{ kind: 'clear due moment', moment: { kind: 'goes stale', key } }]
  return [{ kind: 'set due moment', moment: { kind: 'goes stale', key, clientId, at: lastChance + 1 } }]
}

function decided({ run, step, holds }: OpenBranch, context: EngineContext): readonly Effect[] {
  const arm = holds ? 'yes' : 'no'
  const next: Run = { ...run, branches: [...run.branches, { stepId: step.id, arm, at: context.now }] }
  const sentence = holds
    ? 'The condition of a branch holds.'
    : 'The condition of a branch did not hold in time.'
  const about = { clientId: run.clientId, subject: run.subject, name: step.id }
  return [{ kind: 'put run', run: next }, appendEvent(context, 'branch decided', about, sentence)]
}

interface Planning {
  readonly effects: readonly Effect[]
  readonly present: Slice
  readonly planned: readonly PlannedSend[]
  /** Runs that stand at a branch. */
  readonly atBranches: ReadonlySet<string>
}

/** Plans, and decides every branch whose condition holds or whose latest moment has come, and watches the others. */
function planWithBranches(slice: Slice, context: EngineContext): Planning {
  let effects: readonly Effect[] = []
  for (;;) {
    const facts = effects.length === 0 ? slice.facts : withEffects(slice.facts, effects)
    const present: Slice = { settings: slice.settings, facts }
    const { planned, branches: open } = clientPlan(present, context.now)
    const ripe = open.find(({ holds, latestAt }) => holds || (latestAt !== null && latestAt <= context.now))
    if (!ripe) {
      const watched = open.flatMap(({ run, step, latestAt }): Effect[] => {
        if (latestAt === null) return []
        const key = `${run.id}|${step.id}`
        const moment = { kind: 'branch decides', key, clientId: run.clientId, at: latestAt } as const
        return [{ kind: 'set due moment', moment }]
      })
      const atBranches = new Set(open.map(({ run }) => run.id))
      return { effects: [...effects, ...watched], present, planned, atBranches }
    }
    effects = [...effects, ...decided(ripe, context)]
  }
}

/** What waits for a fact is left out when its moment has come without it: planning is asked again then. */
function conditionMoment(planned: PlannedSend, { now }: EngineContext): readonly Effect[] {
  const { awaits, estimateAt, run } = planned
  if (awaits?.code !== 'awaits condition' || estimateAt === null || estimateAt <= now) return []
  const moment = { kind: 'condition decides', key: planKey(planned), clientId: run.clientId } as const
  return [{ kind: 'set due moment', moment: { ...moment, at: estimateAt } }]
}

/** What is noted of runs that have come to rest, or have something to come again. */
function restingEffects({ present, planned, atBranches }: Planning, changed: readonly Send[], now: number) {
  const { facts } = present
  const ofRun = groupedBy(planned, (one) => one.run.id)
  const stored = groupedBy([...facts.sends, ...changed], ({ runId }) => runId)
  return facts.runs.flatMap((run): readonly Effect[] => {
    const own = { planned: ofRun.get(run.id) ?? [], rows: stored.get(run.id) ?? [] }
    const rests = isAtRest(run, { ...own, isAtBranch: atBranches.has(run.id) }, present, now)
    return rests === facts.resting.has(run.id) ? [] : [{ kind: 'rest run', runId: run.id, isAtRest: rests }]
  })
}

/** Brings the outbox of one client up to the present facts. */
export function replan(slice: Slice, context: EngineContext): readonly Effect[] {
  const { settings } = slice
  const planning = planWithBranches(slice, context)
  const { effects: decisions, present, planned } = planning
  const { facts } = present
  const reconcileContext: ReconcileContext = {
    now: context.now,
    newSendId: () => context.newId('sd'),
    messageIdOf: (sendId) => messageIdOf(settings, sendId),
    bookingOf: ({ subject }) => aboutOf(subject, facts).booking,
    changedFacts: (send) => changedFacts(send, present, context.now),
    reached: (recipient, at) =>
      at === null ? recipient : reachedOn(recipient, settings.people, () => businessDate(settings, at)),
    keptWords: (send) => keptWords(send, present),
    foreseen: (planned, letterId, words) => foreseen(planned, letterId, words, present),
  }
  const ofRun = groupedBy(planned, (one) => one.run.id)
  const stored = groupedBy(facts.sends, ({ runId }) => runId)
  const changes = facts.runs.flatMap((run) => {
    const own = ofRun.get(run.id) ?? []
    return reconcile(run, own, stored.get(run.id) ?? [], reconcileContext).flatMap((send) => [
      { kind: 'put send', send } as const,
      ...staleMoment(send, present),
    ])
  })
  const changed = changes.flatMap((effect) => (effect.kind === 'put send' ? [effect.send] : []))
  return [
    ...decisions,
    ...changes,
    ...planned.flatMap((one) => conditionMoment(one, context)),
    ...restingEffects(planning, changed, context.now),
  ]
}

/** Whether something in a message's sequence is planned only once the message has ended. */
export function isAwaited({ sequenceId, sequenceVersion }: Send, settings: Settings): boolean {
  const { steps } = versionOf(settings, sequenceId, sequenceVersion)
  return (
    steps.some(isBranch) ||
    plainSteps(steps).some(
      ({ timing, repeat }) =>
        repeat !== null || ['after previous', 'yearly', 'evening'].includes(timing.kind),
    )
  )
}
