import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { replan } from '../engine/following/replan.ts'
import type { ClientFacts } from '../planning/slice.ts'
import { dayMs, hourMs } from '../time/calendar.ts'
import { act, type Act } from './acts.ts'
import { plannedFromHistory, stillToCome, unrest } from './history.ts'
import { lifePlan, type LifePlan } from './lives.ts'
import { liveThrough, tried } from './livesPlayed.ts'
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

  test('what is at rest stays as it is, and is not needed for the plan, however the client lives on', () => {
    const counted = { lives: 0, rests: 0 }
    fc.assert(
      fc.property(lifePlan, fc.array(laterAct, { minLength: 1, maxLength: 4 }), (plan, later) => {
        const world = liveThrough(plan, () => {})
        world.advance(world.now() + 40 * dayMs)
        world.carryOut({ ok: true, value: replan(world.slice(), world.context()) })
        const rested = world.facts().resting
        const stored = () => world.facts().sends.filter(({ runId }) => rested.has(runId))
        const before = stored()
        counted.lives += 1
        if (before.length > 0) counted.rests += 1
        later.forEach((one, index) => {
          tried(laterActOf(one, index, world.now()), world)
          world.advance(world.now() + one.afterDays * dayMs)
          expect(stored()).toEqual(before)
          const { settings, facts } = world.slice()
          const living = { settings, facts: withoutResting(facts, rested) }
          expect(unrest(world.slice(), world.now())).toEqual([])
          expect(unrest(living, world.now())).toEqual([])
        })
      }),
      { numRuns, seed },
    )
    expect(counted.rests).toBeGreaterThan(counted.lives / 8)
  })
})

/** What a client does long after: with tags, answers, another booking. */
const laterAct = fc.record({
  did: fc.constantFrom('book' as const, 'tag added', 'tag removed', 'answered', 'list joined', 'opted out'),
  afterDays: fc.integer({ min: 0, max: 20 }),
})

function laterActOf({ did }: { did: string }, index: number, now: number): Act {
  const iso = (at: number) => new Date(at).toISOString()
  const of = { at: iso(now), clientId: 'cl_1' }
  if (did !== 'book')
    return act.parse({ act: 'client', ...of, did, name: did.startsWith('tag') ? 'paid' : '' })
  const times = { start: iso(now + 9 * dayMs), end: iso(now + 9 * dayMs + hourMs) }
  return act.parse({
    act: 'book',
    ...of,
    id: `bk_later-${index}`,
    serviceId: 'sv_1',
    status: 'confirmed',
    ...times,
  })
}

function withoutResting(facts: ClientFacts, rested: ReadonlySet<string>): ClientFacts {
  const runs = facts.runs.filter(({ id }) => !rested.has(id))
  const sends = facts.sends.filter(({ runId }) => !rested.has(runId))
  return { ...facts, runs, sends }
}
