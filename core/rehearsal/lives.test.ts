import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { withEffects } from '../engine/effects.ts'
import { hypothetical } from '../engine/consequences.ts'
import { replan } from '../engine/replan.ts'
import { undecided, type Send } from '../model/send.ts'
import { hasEnded, hasGone, isOpen } from '../planning/answers.ts'
import type { Slice } from '../planning/slice.ts'
import { dayMs } from '../time/calendar.ts'
import type { Act } from './acts.ts'
import { lifePlan, type LifePlan } from './lives.ts'
import { liveThrough } from './livesPlayed.ts'
import type { World } from './world.ts'

const numRuns = Number(
  process.env['VORFREUDE_LIVES'] ?? (process.env['VORFREUDE_FULL'] === 'yes' ? 20_000 : 500),
)
const seed = 20260514

/** What of a stored send planning anew would change. */
function changedParts(before: Send | undefined, after: Send) {
  const parts = Object.keys(after) as (keyof Send)[]
  const isOther = (part: keyof Send) => JSON.stringify(before?.[part]) !== JSON.stringify(after[part])
  return parts.filter(isOther).map((part) => [after.stepId, part, before?.[part], after[part]])
}

/** What planning anew would change now; nothing has happened in between. */
function unrest(slice: Slice, now: number) {
  return replan(slice, hypothetical(now)).flatMap((effect) => {
    if (effect.kind === 'put run') return [[effect.run.id]]
    if (effect.kind !== 'put send') return []
    return changedParts(
      slice.facts.sends.find(({ id }) => id === effect.send.id),
      effect.send,
    )
  })
}

/** What a rule of the queue or a change without a moment of its own has put off stands where it was put. */
const putOffBy = ['crowding', 'changed']

/**
 * What of the stored sends is history: what went, what ended, what was put before a person or decided by one, what is
 * overdue because something holds it back, and what was put off. The rest follows from the facts.
 */
function isHistory(send: Send, now: number): boolean {
  const { decision } = send
  if (isOpen(send) && send.trace.some(({ rule }) => putOffBy.includes(rule))) return true
  const isDecided = JSON.stringify(decision) !== JSON.stringify(undecided)
  const isOverdue = isOpen(send) && send.dueAt !== null && send.dueAt <= now
  if (hasGone(send) || hasEnded(send)) return true
  if (send.state === 'cancelled') return decision.isEndedAtSending
  return (isOpen(send) && isDecided) || send.state === 'waiting' || send.state === 'approved' || isOverdue
}

const told = ({ stepId, occurrence, recipientId, anchorValue, state, dueAt, wantedAt, reason }: Send) => ({
  message: [stepId, occurrence, recipientId, anchorValue].join(' '),
  state,
  dueAt,
  wantedAt,
  reason: reason?.code ?? null,
})

const byMessage = (one: { message: string }, other: { message: string }) =>
  one.message < other.message ? -1 : 1

/** What is still to come, as it is stored, and as planning once from the history gives it. */
function stillToCome(sends: readonly Send[]) {
  return sends.filter(isOpen).map(told).sort(byMessage)
}

function plannedFromHistory({ settings, facts }: Slice, now: number) {
  const history = { ...facts, sends: facts.sends.filter((send) => isHistory(send, now)) }
  const effects = replan({ settings, facts: history }, hypothetical(now))
  return stillToCome(withEffects(history, effects).sends)
}

const lines = (acts: readonly Act[]) => acts.map((one) => JSON.stringify(one)).join('\n')

/** A check at each rest of a life; where it fails, the life is told up to there. */
function looked(plan: LifePlan, check: (world: World) => void) {
  return (world: World, acts: readonly Act[]) => {
    try {
      check(world)
    } catch (fault) {
      const at = new Date(world.now()).toISOString()
      const rules = JSON.stringify(plan.bundle.sequences)
      if (fault instanceof Error) fault.message += `\nAt ${at} after\n${lines(acts)}\nof ${rules}`
      throw fault
    }
  }
}

describe('whatever happens in the life of a booking', () => {
  test('planning once from the history gives what planning act by act gave', () => {
    fc.assert(
      fc.property(lifePlan, (plan) => {
        const look = looked(plan, (world) => {
          const slice = world.slice()
          expect(plannedFromHistory(slice, world.now())).toEqual(stillToCome(slice.facts.sends))
        })
        liveThrough(plan, look)
      }),
      { numRuns, seed },
    )
  })

  test('planning again without a new fact changes nothing, then and as time goes on', () => {
    fc.assert(
      fc.property(lifePlan, fc.array(fc.integer({ min: 1, max: 20 }), { maxLength: 4 }), (plan, days) => {
        const look = looked(plan, (world) => expect(unrest(world.slice(), world.now())).toEqual([]))
        const world = liveThrough(plan, look)
        for (const some of days) {
          world.advance(world.now() + some * dayMs)
          look(world, [])
        }
      }),
      { numRuns, seed },
    )
  })
})
