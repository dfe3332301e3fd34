import type { Condition, ConditionField, Operand, Test } from '../model/condition.ts'
import { evaluate, type ConditionFacts } from './evaluate.ts'

/** One fact that would have to be different. */
export interface FactChange {
  readonly field: ConditionField
  readonly to: Operand
  /** False: it must not be that; for tags and lists, it must not be among them. */
  readonly has: boolean
}

const happenings = {
  'since the run started: answered': 'answered',
  'since the run started: opened': 'opened',
  'since the run started: followed a link': 'followed a link',
  'since the run started: form received': 'form received',
  'since the run started: signed': 'signed',
} as const

/** What the client would have to do for a fact to hold; null: the fact is of another kind. */
export function happeningOf(field: ConditionField) {
  return field in happenings ? happenings[field as keyof typeof happenings] : null
}

/**
 * The facts of a condition with one of them changed as somebody could bring it about; null: it is as it is, or changes
 * only with time.
 */
export function withFact(facts: ConditionFacts, { field, to, has }: FactChange): ConditionFacts | null {
  const { client, booking, enquiry, invoice, now } = facts
  const happened = (kind: ConditionFacts['happenings'][number]['kind'], name = '') => ({
    ...facts,
    happenings: [...facts.happenings, { kind, name, at: now }],
  })
  const done = happeningOf(field)
  if (done !== null) return to === true && has ? happened(done) : null
  switch (field) {
    case 'client.tag': {
      const others = client.tags.filter((tag) => tag !== to)
      return { ...facts, client: { ...client, tags: has ? [...others, String(to)] : others } }
    }
    case 'client.list':
      return happened(has ? 'list joined' : 'list left', String(to))
    case 'client.language':
      return has && (to === 'en' || to === 'de') ? { ...facts, client: { ...client, language: to } } : null
    case 'client.takes promotional mail':
      return { ...facts, client: { ...client, takesPromotional: has === (to === true) } }
    case 'enquiry.stage':
      return enquiry && has ? { ...facts, enquiry: { ...enquiry, stage: String(to) } } : null
    case 'invoice.paid':
      return invoice && has === (to === true) ? { ...facts, invoice: { ...invoice, paidAt: now } } : null
    case 'booking.status':
      return booking?.status === 'requested' && to === 'confirmed' && has
        ? { ...facts, booking: { ...booking, status: 'confirmed' } }
        : null
    default:
      return null
  }
}

type Alternatives = readonly (readonly FactChange[])[]

/** Enough to find the smallest in the conditions people write; more would only take time. */
const mostAlternatives = 24

const smallestFirst = (all: Alternatives): Alternatives =>
  all.toSorted((one, other) => one.length - other.length).slice(0, mostAlternatives)

const each = (all: readonly Alternatives[]): Alternatives =>
  all.reduce(
    (before: Alternatives, next) =>
      smallestFirst(before.flatMap((one) => next.map((other) => [...one, ...other]))),
    [[]],
  )

const wantedOf = ({ value }: Test): readonly Operand[] => (Array.isArray(value) ? value : [value])

/** Values of a language or a yes-or-no fact that are not among some. */
function othersThan(field: ConditionField, taken: readonly Operand[]): readonly Operand[] {
  if (field === 'client.language') return ['en', 'de'].filter((one) => !taken.includes(one))
  return [true, false].filter((one) => !taken.includes(one))
}

const isOfSeveral = (field: ConditionField) => field === 'client.tag' || field === 'client.list'

/** Ways for a test to come out as it should, each as far as somebody can bring it about. */
function testAlternatives(asked: Test, facts: ConditionFacts, should: boolean): Alternatives {
  const canBe = (changes: readonly FactChange[]) => changes.every((one) => withFact(facts, one) !== null)
  return proposedFor(asked, should).filter(canBe)
}

function proposedFor(asked: Test, should: boolean): Alternatives {
  const { field, comparison } = asked
  const wanted = wantedOf(asked)
  const isPositive = comparison === 'is' || comparison === 'is one of'
  const isNegative = comparison === 'is not' || comparison === 'is none of'
  if (!isPositive && !isNegative) return []
  if (isPositive === should) return wanted.map((to) => [{ field, to, has: true }])
  if (isOfSeveral(field)) return [wanted.map((to) => ({ field, to, has: false }))]
  return othersThan(field, wanted).map((to) => [{ field, to, has: true }])
}

function alternatives(condition: Condition, facts: ConditionFacts, should: boolean): Alternatives {
  if (evaluate(condition, facts).holds === should) return [[]]
  const of = (part: Condition) => alternatives(part, facts, should)
  if ('all' in condition)
    return should ? each(condition.all.map(of)) : smallestFirst(condition.all.flatMap(of))
  if ('any' in condition)
    return should ? smallestFirst(condition.any.flatMap(of)) : each(condition.any.map(of))
  if ('none' in condition) {
    const parts = condition.none.map((part) => alternatives(part, facts, !should))
    return should ? each(parts) : smallestFirst(parts.flat())
  }
  return testAlternatives(condition, facts, should)
}

function withAll(facts: ConditionFacts, changes: readonly FactChange[]): ConditionFacts | null {
  return changes.reduce((before: ConditionFacts | null, change) => before && withFact(before, change), facts)
}

const isSame = (one: FactChange, other: FactChange) => JSON.stringify(one) === JSON.stringify(other)

/**
 * The fewest facts that would have to be different for a condition to hold, each one that somebody can bring about. Null:
 * no such change is known. What is proposed has been tried on the facts.
 */
export function smallestChange(condition: Condition, facts: ConditionFacts): readonly FactChange[] | null {
  const proposed = alternatives(condition, facts, true).map((all) =>
    all.filter((one, index) => all.findIndex((other) => isSame(one, other)) === index),
  )
  const works = smallestFirst(proposed).find((changes) => {
    const after = withAll(facts, changes)
    return after !== null && evaluate(condition, after).holds
  })
  return works ?? null
}

/** A change of a fact as a sentence. */
export function factChangeWords({ field, to, has }: FactChange): string {
  return `${field} ${has ? 'would have to be' : 'must not be'} ${String(to)}.`
}
