import type { Condition, ConditionField, Operand, Test } from '../model/condition.ts'
import { isYesNo } from './words.ts'

/** One test as it stands or turned around. */
interface Literal {
  readonly test: Test
  readonly isTrue: boolean
}

type Conjunction = readonly Literal[]

/** More ways than this to make a condition true are not looked through; it is taken to be possible. */
const mostWays = 2000

const product = (one: readonly Conjunction[], other: readonly Conjunction[]): readonly Conjunction[] =>
  one.flatMap((left) => other.map((right) => [...left, ...right]))

class TooMany extends Error {}

function bounded(ways: readonly Conjunction[]): readonly Conjunction[] {
  if (ways.length > mostWays) throw new TooMany()
  return ways
}

/** Every way in which a condition can be true, or false: a disjunction of conjunctions. */
function waysOf(condition: Condition, isTrue: boolean): readonly Conjunction[] {
  const every = (parts: readonly Condition[], each: boolean) =>
    parts.reduce<readonly Conjunction[]>((ways, part) => bounded(product(ways, waysOf(part, each))), [[]])
  const some = (parts: readonly Condition[], each: boolean) =>
    bounded(parts.flatMap((part) => waysOf(part, each)))
  if ('all' in condition) return isTrue ? every(condition.all, true) : some(condition.all, false)
  if ('any' in condition) return isTrue ? some(condition.any, true) : every(condition.any, false)
  if ('none' in condition) return isTrue ? every(condition.none, false) : some(condition.none, true)
  return [[{ test: condition, isTrue }]]
}

/** Fields that can have several values at once. */
const several: readonly ConditionField[] = ['client.tag', 'client.list', 'booking.status ever reached']

interface Range {
  readonly allowed: ReadonlySet<Operand> | null
  readonly forbidden: ReadonlySet<Operand>
  readonly least: number
  readonly most: number
  /** Strictly more and strictly less than these. */
  readonly above: number
  readonly below: number
  /** The field must have a value: a missing fact fails it. */
  readonly isKnown: boolean
}

const anything: Range = {
  allowed: null,
  forbidden: new Set(),
  least: -Infinity,
  most: Infinity,
  above: -Infinity,
  below: Infinity,
  isKnown: false,
}

const valuesOf = ({ value }: Test): readonly Operand[] => (Array.isArray(value) ? value : [value])

function narrowed(range: Range, { test, isTrue }: Literal): Range {
  const values = valuesOf(test)
  const positive = { is: true, 'is one of': true, 'is not': false, 'is none of': false } as const
  if (test.comparison === 'is at least' || test.comparison === 'is at most') {
    const bound = Number(values[0])
    const isLeast = test.comparison === 'is at least'
    // Turned around it also holds where the fact is missing.
    if (!isTrue) {
      return isLeast
        ? { ...range, below: Math.min(range.below, bound) }
        : { ...range, above: Math.max(range.above, bound) }
    }
    return isLeast
      ? { ...range, least: Math.max(range.least, bound), isKnown: true }
      : { ...range, most: Math.min(range.most, bound), isKnown: true }
  }
  if (positive[test.comparison] === isTrue) {
    const before = range.allowed
    const allowed = new Set(before === null ? values : values.filter((one) => before.has(one)))
    return { ...range, allowed, isKnown: true }
  }
  return { ...range, forbidden: new Set([...range.forbidden, ...values]) }
}

function isPossibleRange(range: Range, field: ConditionField): boolean {
  const { allowed, forbidden, least, most, above, below, isKnown } = range
  if (isKnown && (least > most || least >= below || most <= above)) return false
  const isWithin = (one: Operand) =>
    typeof one !== 'number' || (one >= least && one <= most && one > above && one < below)
  if (allowed !== null) return [...allowed].some((one) => !forbidden.has(one) && isWithin(one))
  return !(isKnown && isYesNo(field) && forbidden.has(true) && forbidden.has(false))
}

/** A field with several values: what is wanted and what is excluded must not be the same. */
function isPossibleAmongSeveral(literals: Conjunction): boolean {
  const compares = ({ test }: Literal) => ['is at least', 'is at most'].includes(test.comparison)
  const asked = literals.filter((one) => !compares(one))
  const positive = (one: Literal) =>
    (one.test.comparison === 'is' || one.test.comparison === 'is one of') === one.isTrue
  const excluded = new Set(asked.filter((one) => !positive(one)).flatMap(({ test }) => valuesOf(test)))
  return asked.filter(positive).every(({ test }) => valuesOf(test).some((value) => !excluded.has(value)))
}

function isPossible(conjunction: Conjunction): boolean {
  const fields = [...new Set(conjunction.map(({ test }) => test.field))]
  return fields.every((field) => {
    const own = conjunction.filter(({ test }) => test.field === field)
    return several.includes(field)
      ? isPossibleAmongSeveral(own)
      : isPossibleRange(own.reduce(narrowed, anything), field)
  })
}

/**
 * Whether no facts at all could make a condition hold. Only contradictions are found: `false` does not promise that it
 * will ever hold.
 */
export function neverHolds(condition: Condition): boolean {
  try {
    return !waysOf(condition, true).some(isPossible)
  } catch (fault) {
    if (fault instanceof TooMany) return false
    throw fault
  }
}
