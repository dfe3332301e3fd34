import type { FieldName, Inline, Section } from '../model/letter.ts'
import { twoDigits, yearMonthDayOf, type EpochDay } from '../time/calendar.ts'
import { monthName } from '../time/format.ts'
import { dayAt } from '../time/zones.ts'
import { freshField } from './fieldList.ts'
import { fieldValue, type MergeFacts } from './fields.ts'
import { longDateIn, shortDateIn } from './language.ts'
import type { Language } from '../model/values.ts'

/** A value of a real booking that stands in a written mail, and the field that gives it. */
export interface FoundValue {
  readonly text: string
  readonly field: FieldName
}

/** Fields whose values are looked for, the longest and most telling first. */
const lookedFor: readonly FieldName[] = [
  'booking.date',
  'contact.fullName',
  'client.name',
  'booking.service',
  'booking.place',
  'business.postalAddress',
  'invoice.amount',
  'invoice.dueDate',
  'booking.shortDate',
  'person.name',
  'business.name',
  'business.phone',
  'contact.firstName',
  'booking.time',
  'booking.endTime',
  'booking.weekday',
]

/** Shorter values would be found in ordinary words. */
const shortest = 3

/** Ways people write a date, the longest first. */
function datesOf(of: EpochDay, language: Language): readonly string[] {
  const { year, month, day } = yearMonthDayOf(of)
  const long = longDateIn(language, of)
  const name = monthName(month)
  return [
    long,
    long.replace(' ', ', '),
    long.replace(/^\S+ /, ''),
    `${name} ${day}, ${year}`,
    `${year}-${twoDigits(month)}-${twoDigits(day)}`,
    `${twoDigits(day)}.${twoDigits(month)}.${year}`,
    `${day}.${month}.${year}`,
    `${twoDigits(day)}/${twoDigits(month)}/${year}`,
  ]
}

function shortDatesOf(of: EpochDay, language: Language): readonly string[] {
  const { month, day } = yearMonthDayOf(of)
  return [shortDateIn(language, of), `${monthName(month)} ${day}`, `${twoDigits(day)}.${twoDigits(month)}.`]
}

/** Ways people write a time of day: 19:00, 19.00, 7:00 pm, 7 pm, 19 Uhr. */
function timesOf(clock: string): readonly string[] {
  const [hour = 0, minute = 0] = clock.split(':').map(Number)
  const half = hour % 12 === 0 ? 12 : hour % 12
  const suffixes = hour < 12 ? ['am', 'a.m.'] : ['pm', 'p.m.']
  const minutes = twoDigits(minute)
  const full = suffixes.flatMap((one) => [`${half}:${minutes} ${one}`, `${half}:${minutes}${one}`])
  const short =
    minute === 0 ? [...suffixes.flatMap((one) => [`${half} ${one}`, `${half}${one}`]), `${hour} Uhr`] : []
  return [...full, ...short, `${clock} Uhr`, clock, `${hour}.${minutes}`]
}

/** Ways people write an amount of money. */
function amountsOf(cents: number): readonly string[] {
  const plain = (cents / 100).toFixed(2)
  const german = plain.replace('.', ',')
  const whole = cents % 100 === 0 ? [String(cents / 100)] : []
  return [plain, german, ...whole].flatMap((one) => [
    `€ ${one}`,
    `€${one}`,
    `${one} €`,
    `EUR ${one}`,
    `${one} EUR`,
  ])
}

function waysOf(field: FieldName, facts: MergeFacts, language: Language): readonly string[] {
  const value = fieldValue(field, facts, language)
  if (value === '') return []
  if ((field === 'booking.date' || field === 'booking.shortDate') && facts.booking) {
    const day = dayAt(facts.zone, facts.booking.startAt)
    return field === 'booking.date' ? datesOf(day, language) : shortDatesOf(day, language)
  }
  if (field === 'booking.time' || field === 'booking.endTime') return timesOf(value)
  if (field === 'invoice.amount' && facts.invoice) return [value, ...amountsOf(facts.invoice.amountCents)]
  return [value]
}

/** Whether a text stands somewhere as whole words. */
function standsIn(text: string, value: string): boolean {
  for (let at = text.indexOf(value); at >= 0; at = text.indexOf(value, at + 1)) {
    const around = `${text.charAt(at - 1)}|${text.charAt(at + value.length)}`
    if (!/[\p{L}\p{N}]\||\|[\p{L}\p{N}]/u.test(around)) return true
  }
  return false
}

/** The values of one client's booking that stand in a mail once written to them, the way they are written there. */
export function valuesIn(text: string, facts: MergeFacts, language: Language): readonly FoundValue[] {
  const found: FoundValue[] = []
  /** What longer values already cover is not found again within them. */
  let left = text
  for (const field of lookedFor) {
    for (const value of waysOf(field, facts, language)) {
      const isNew = !found.some((one) => one.text === value)
      if (value.length < shortest || !isNew || !standsIn(left, value)) continue
      found.push({ field, text: value })
      left = left.replaceAll(value, '\n')
    }
  }
  return found
}

/** Typed words with the chosen values as fields. */
export function withFields(text: string, values: readonly FoundValue[]): Inline[] {
  const [first, ...rest] = values.toSorted((one, other) => other.text.length - one.text.length)
  if (!first) return text === '' ? [] : [{ kind: 'text', text }]
  return text
    .split(first.text)
    .flatMap((part, index): Inline[] => [
      ...(index === 0 ? [] : [freshField(first.field)]),
      ...withFields(part, rest),
    ])
}

/** A written mail as the text section of a letter, with the chosen values as fields. */
export function sectionFromMail(text: string, values: readonly FoundValue[], id: string): Section {
  const paragraphs = text
    .replaceAll('\r\n', '\n')
    .split(/\n{2,}/)
    .map((paragraph) => paragraph.replace(/\s*\n\s*/g, ' ').trim())
    .filter((paragraph) => paragraph !== '')
    .map((paragraph) => withFields(paragraph, values))
  return { id, kind: 'text', paragraphs }
}
