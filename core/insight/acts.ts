/** One fact of a thing that an act has changed, by its path such as `offer.seats`; null: it is not there. */
export interface ChangedFact {
  readonly path: string
  readonly before: string | null
  readonly after: string | null
}

/** A thing that an act has made, changed or removed. */
export interface ChangedThing {
  /** What it is, such as `booking`. */
  readonly what: string
  readonly id: string
  readonly name: string
  readonly facts: readonly ChangedFact[]
}

/** What somebody of the team did. */
export interface Act {
  /** Real time, not business time. */
  readonly at: number
  /** Null: somebody who is not known. */
  readonly personId: string | null
  readonly personName: string
  /** The network address it came from. */
  readonly from: string
  /** What was done, such as `Cancel a booking`. */
  readonly sentence: string
  /** The address it was done at. */
  readonly path: string
  readonly things: readonly ChangedThing[]
}

/** More is not kept of one thing, nor of one fact. */
const mostFacts = 40
const longestValue = 300

/** What counts how often a thing has changed says nothing by itself. */
const uncounted: readonly string[] = ['revision', 'changedAt']

const isObject = (value: unknown): value is Readonly<Record<string, unknown>> =>
  typeof value === 'object' && value !== null

function wordsOf(value: unknown): string | null {
  if (value === undefined || value === null || value === '') return null
  const text = typeof value === 'string' ? value : JSON.stringify(value)
  return text.length > longestValue ? `${text.slice(0, longestValue)} …` : text
}

function walk(path: string, before: unknown, after: unknown): readonly ChangedFact[] {
  if (!isObject(before) && !isObject(after)) {
    const [was, is] = [wordsOf(before), wordsOf(after)]
    return was === is ? [] : [{ path, before: was, after: is }]
  }
  const [was, is] = [isObject(before) ? before : {}, isObject(after) ? after : {}]
  return [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .filter((name) => !uncounted.includes(name))
    .flatMap((name) => walk(path === '' ? name : `${path}.${name}`, was[name], is[name]))
}

/** What is different between a thing before and after; undefined: it was not there, or is not there any more. */
export function changedFacts(before: unknown, after: unknown): readonly ChangedFact[] {
  return walk('', before, after).slice(0, mostFacts)
}
