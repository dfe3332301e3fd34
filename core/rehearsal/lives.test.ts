import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { dayMs } from '../time/calendar.ts'
import type { Act } from './acts.ts'
import { plannedFromHistory, stillToCome, unrest } from './history.ts'
import { lifePlan, type LifePlan } from './lives.ts'
import { liveThrough } from './livesPlayed.ts'
import type { World } from './world.ts'

const numRuns = Number(
  process.env['VORFREUDE_LIVES'] ?? (process.env['VORFREUDE_FULL'] === 'yes' ? 20_000 : 500),
)
const seed = 20260514

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
