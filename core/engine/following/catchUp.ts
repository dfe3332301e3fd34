import { isMessage } from '../../model/step.ts'
import type { Send } from '../../model/send.ts'
import { isBefore } from '../../model/timing.ts'
import { openTimesOfSend } from '../../planning/lastChance.ts'
import { firstMomentUpTo } from '../../planning/lateness.ts'
import { versionOf, type Slice } from '../../planning/slice.ts'
import { findStep } from '../../sequences/steps.ts'
import { hourMs } from '../../time/calendar.ts'
import type { EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { replan } from './replan.ts'
import { missed } from '../commands/sendCommands.ts'

/*
 * After the machine was off: what is late within its tolerance goes by itself, at most one message a client and
 * booking; the rest is missed and listed.
 */

const catchUpOrder: readonly (readonly Send['purpose'][])[] = [
  ['change', 'cancellation'],
  ['confirmation'],
  ['reminder'],
]

function rank({ purpose }: Send): number {
  const index = catchUpOrder.findIndex((purposes) => purposes.includes(purpose))
  return index < 0 ? catchUpOrder.length : index
}

/** How long after its time a message may still go by itself once the machine is back, in milliseconds. */
function toleranceMs({ purpose }: Send): number {
  return ['confirmation', 'change', 'cancellation'].includes(purpose) ? 12 * hourMs : 2 * hourMs
}

function stepOf({ sequenceId, sequenceVersion, stepId }: Send, { settings }: Slice) {
  return findStep(versionOf(settings, sequenceId, sequenceVersion), stepId)
}

/** When something late may still go by itself; null: it may not. */
function catchUpMoment(send: Send, slice: Slice, now: number): number | null {
  const step = stepOf(send, slice)
  const isBounded = step !== undefined && isBefore(step.timing) && send.notAfter !== null
  if (!isBounded && now - (send.dueAt ?? now) > toleranceMs(send)) return null
  const openTimes = openTimesOfSend(send, slice)
  return openTimes && firstMomentUpTo(openTimes, now, send.notAfter)
}

function putOff(send: Send, at: number, now: number): readonly Effect[] {
  if (at === now) return []
  const sentence = 'It fell due while Vorfreude was not running: it goes at the first open moment.'
  const line = { rule: 'downtime', before: send.dueAt, after: at, code: 'first open moment', sentence }
  return [{ kind: 'put send', send: { ...send, dueAt: at, trace: [...send.trace, line] } }]
}

/** One client's sends that fell due while the machine was off: which of them still go, and when. */
export function catchUp(overdue: readonly Send[], slice: Slice, context: EngineContext): readonly Effect[] {
  const { now } = context
  const ordered = [...overdue].sort(
    (one, other) => rank(one) - rank(other) || (one.dueAt ?? 0) - (other.dueAt ?? 0),
  )
  const served = new Set<string>()
  const effects = ordered.flatMap((send): readonly Effect[] => {
    // What writes to nobody is done late, and takes no message's place.
    const step = stepOf(send, slice)
    if (step && !isMessage(step)) return []
    const at = served.has(send.subject.id) ? null : catchUpMoment(send, slice, now)
    if (at === null) return missed(send, 'It fell due while Vorfreude was not running.', context)
    served.add(send.subject.id)
    return putOff(send, at, now)
  })
  if (effects.length === 0) return []
  return [...effects, ...replan({ ...slice, facts: withEffects(slice.facts, effects) }, context)]
}
