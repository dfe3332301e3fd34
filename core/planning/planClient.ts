import type { Reason } from '../model/send.ts'
import { withoutBursts, withoutTwins } from './among.ts'
import { applyCrowding } from './crowding.ts'
import { firstPass, planRun, type OpenBranch, type Pass } from './planRun.ts'
import { planKey, type PlannedSend } from './planStep.ts'
import type { Slice } from './slice.ts'

export type { PlannedSend } from './planStep.ts'

/** Everything planned for one client, and the branches its runs stand at. */
export interface ClientPlan {
  readonly planned: readonly PlannedSend[]
  readonly branches: readonly OpenBranch[]
}

/** More passes than this are never made: by then what is chained to each other has found its place. */
const mostPasses = 12

/** Which of some planned sends the rules among several dropped, with the reason. */
function lostAmong(
  alone: readonly PlannedSend[],
  ruled: readonly PlannedSend[],
): ReadonlyMap<string, Reason> {
  const lost = new Map<string, Reason>()
  ruled.forEach((one, index) => {
    if (one.dropped && !alone[index]?.dropped) lost.set(planKey(one), one.dropped)
  })
  return lost
}

const isSame = (one: ReadonlyMap<string, Reason>, other: ReadonlyMap<string, Reason>) =>
  one.size === other.size && [...one.keys()].every((key) => other.has(key))

/**
 * Everything planned for one client, all runs together: rules 1 to 7. What the rules among several sends drop can be
 * what a chained step waited for, so it is planned again until nothing more comes of it.
 */
export function clientPlan(slice: Slice, now: number): ClientPlan {
  const { runs, bookings } = slice.facts
  let pass: Pass = firstPass(now)
  for (let count = 1; ; count += 1) {
    const plans = runs.map((run) => planRun(run, slice, pass))
    const alone = plans.flatMap(({ planned }) => planned)
    const ruled = applyCrowding(withoutTwins(withoutBursts(alone), bookings), slice, now)
    const lost = ruled === alone ? pass.lost : lostAmong(alone, ruled)
    const isDone = ruled === alone ? pass.lost.size === 0 : isSame(lost, pass.lost)
    if (isDone || count >= mostPasses) {
      return { planned: ruled, branches: plans.flatMap(({ branches }) => branches) }
    }
    pass = { now, lost: ruled === alone ? new Map() : lost }
  }
}

export function planClient(slice: Slice, now: number): readonly PlannedSend[] {
  return clientPlan(slice, now).planned
}
