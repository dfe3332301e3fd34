/** How many messages a day has. */
export interface DayCount {
  readonly on: string
  readonly count: number
}

/** A line of the long list: a day's heading, or the message with some place in its day. */
export type Row =
  | { readonly kind: 'day'; readonly day: DayCount }
  | { readonly kind: 'send'; readonly day: DayCount; readonly place: number }

/** The long list without its contents: which line stands at which place, found by bisection. */
export interface Rows {
  readonly count: number
  /** Throws a RangeError outside the list. */
  at(index: number): Row
}

export function rowsOf(days: readonly DayCount[]): Rows {
  const starts: number[] = []
  let count = 0
  for (const day of days) {
    starts.push(count)
    count += 1 + day.count
  }
  return {
    count,
    at(index) {
      let low = 0
      let high = starts.length - 1
      while (low < high) {
        const middle = (low + high + 1) >> 1
        if ((starts[middle] ?? Infinity) <= index) low = middle
        else high = middle - 1
      }
      const day = days[low]
      const start = starts[low]
      if (day === undefined || start === undefined || index < 0 || index >= count) {
        throw new RangeError(`There is no line ${index} of ${count}`)
      }
      return index === start ? { kind: 'day', day } : { kind: 'send', day, place: index - start - 1 }
    },
  }
}

/** A part of a day's messages that is fetched at once. */
export interface Page {
  readonly on: string
  readonly offset: number
}

export const pageSize = 200

/** The parts that hold the lines from one place to another, ends included. */
export function pagesFor(rows: Rows, from: number, to: number): readonly Page[] {
  const pages = new Map<string, Page>()
  let index = Math.max(0, from)
  const last = Math.min(to, rows.count - 1)
  while (index <= last) {
    const row = rows.at(index)
    if (row.kind === 'day') {
      index += 1
      continue
    }
    const offset = Math.floor(row.place / pageSize) * pageSize
    pages.set(`${row.day.on}|${offset}`, { on: row.day.on, offset })
    index += Math.min(offset + pageSize, row.day.count) - row.place
  }
  return [...pages.values()]
}
