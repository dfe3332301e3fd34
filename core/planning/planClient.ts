import { withoutBursts, withoutTwins } from './among.ts'
import { applyCrowding } from './crowding.ts'
import { planRun } from './planRun.ts'
import type { PlannedSend } from './planStep.ts'
import type { Slice } from './slice.ts'

export type { PlannedSend } from './planStep.ts'

/** Everything planned for one client, all runs together: rules 1 to 7. */
export function planClient(slice: Slice, now: number): readonly PlannedSend[] {
  const { runs, sends } = slice.facts
  const alone = runs.flatMap((run) => planRun(run, slice, now).planned)
  return applyCrowding(withoutTwins(withoutBursts(alone, sends), sends), slice, now)
}
