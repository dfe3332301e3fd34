import type { Client } from '../model/client.ts'
import { isoDate } from '../model/values.ts'

type NamedDate = Client['namedDates'][number]

/** What comes first in dates such as 05/04/2026. */
export type DateOrder = 'day first' | 'month first'

const isoOf = (year: string, month: string, day: string) =>
  `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`

/**
 * A date as tables have it: 2026-05-04 (ISO 8601), 4.5.2026, 05/04/2026; with dots the day is first everywhere. As ISO
 * date; null: it is none.
 */
export function readDate(text: string, order: DateOrder): string | null {
  const asked = text.trim()
  // A time of day behind it says nothing here.
  const iso = /^(\d{4})-(\d{1,2})-(\d{1,2})(?:[T ].*)?$/.exec(asked) ?? /^(\d{4})(\d\d)(\d\d)$/.exec(asked)
  const parted = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4})(?:[ ].*)?$/.exec(asked)
  const found = iso
    ? isoOf(iso[1] ?? '', iso[2] ?? '', iso[3] ?? '')
    : parted && datedBy(parted, parted[2] === '.' ? 'day first' : order)
  return found !== null && isoDate.safeParse(found).success ? found : null
}

function datedBy([, one = '', , other = '', year = '']: RegExpExecArray, order: DateOrder): string {
  return order === 'day first' ? isoOf(year, other, one) : isoOf(year, one, other)
}

/** The two numbers of a date that can be read both ways, in their order; null: it is no such date. */
function partsOf(value: string): readonly [number, number] | null {
  const [, one, other] = /^(\d{1,2})[/-](\d{1,2})[/-]\d{4}/.exec(value.trim()) ?? []
  return one === undefined || other === undefined ? null : [Number(one), Number(other)]
}

/**
 * What the dates of a column begin with: by the first of them that can only be read one way; null: there are some, and none
 * of them tells.
 */
export function dateOrderOf(values: readonly string[]): DateOrder | null {
  const parted = values.map(partsOf).filter((parts) => parts !== null)
  if (parted.length === 0) return 'day first'
  const telling = parted.find((parts) => parts.some((number) => number > 12))
  if (!telling) return null
  return telling[0] > 12 ? 'day first' : 'month first'
}

/** A date that comes back every year as it is written, its year left out where it is not known (RFC 6350 4.3.1). */
export const writtenDate = ({ year, monthDay }: Pick<NamedDate, 'year' | 'monthDay'>) =>
  year === null ? `--${monthDay}` : `${year}-${monthDay}`
