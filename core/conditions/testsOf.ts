import type { Condition, Test } from '../model/condition.ts'

/** Every question a condition asks, in the order of reading. */
export function testsOf(condition: Condition): readonly Test[] {
  if ('all' in condition) return condition.all.flatMap(testsOf)
  if ('any' in condition) return condition.any.flatMap(testsOf)
  if ('none' in condition) return condition.none.flatMap(testsOf)
  return [condition]
}
