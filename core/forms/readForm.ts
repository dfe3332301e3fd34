import type { GivenAnswer } from '../model/booking.ts'
import { consentGiven, isChosen, type Form, type FormField, type FormFill } from '../model/form.ts'
import { emailAddress, isoDate, timeOfDay, type Language } from '../model/values.ts'
import { formWords } from './formWords.ts'

/** What was given to each field, by its id; several where several can be chosen. */
export type GivenToForm = Readonly<Record<string, readonly string[]>>

/** A form as it was filled in. */
export interface FilledForm {
  /** What was answered, with the words it was asked in. */
  readonly answers: readonly GivenAnswer[]
  readonly what: string
  readonly wishedOn: string | null
  readonly partySize: number | null
  readonly budgetCents: number | null
  readonly source: string
  readonly serviceId: string | null
  /** Null: it was not asked. */
  readonly takesPromotional: boolean | null
}

export type ReadForm =
  | { readonly ok: true; readonly filled: FilledForm }
  /** What is wrong, by the id of the field. */
  | { readonly ok: false; readonly faults: Readonly<Record<string, string>> }

const longest = { line: 500, text: 2000 } as const
const mostPeople = 500
const mostCents = 1_000_000_000

/** Whether a field is asked at all, by what was answered before it; one that hangs on a hidden one is hidden, too. */
export function isShown(field: FormField, fields: readonly FormField[], given: GivenToForm): boolean {
  const { shownIf } = field
  if (shownIf === null) return true
  const other = fields.find(({ id }) => id === shownIf.fieldId)
  if (!other || !isShown(other, fields, given)) return false
  return (given[other.id] ?? []).some((value) => shownIf.values.includes(value))
}

const numberIn = (text: string): number | null =>
  /^\d{1,9}([.,]\d{1,2})?$/.test(text) ? Number(text.replace(',', '.')) : null

const isPhone = (text: string) => text.length <= 60 && (text.match(/\d/g)?.length ?? 0) >= 3

const isWhole = (text: string, most: number) => {
  const number = numberIn(text)
  return number !== null && Number.isInteger(number) && number >= 1 && number <= most
}

function numberFault(text: string, fills: FormFill | null, language: Language): string | null {
  const words = formWords[language]
  if (fills === 'people') return isWhole(text, mostPeople) ? null : words.people
  const number = numberIn(text)
  if (number === null) return fills === 'budget' ? words.amount : words.number
  return fills === 'budget' && number * 100 > mostCents ? words.amount : null
}

function lengthFault(text: string, most: number, language: Language): string | null {
  return text.length > most ? formWords[language].long(most, text.length) : null
}

/** What is wrong with what was given to one field; null: nothing. */
function faultOf(
  field: FormField,
  values: readonly string[],
  language: Language,
  today: string,
): string | null {
  const words = formWords[language]
  const [text = ''] = values
  if (values.length === 0) {
    if (!field.isRequired) return null
    return field.kind === 'consent' ? words.consent : words.need
  }
  switch (field.kind) {
    case 'text':
      return lengthFault(text, longest.text, language)
    case 'line':
      return text.includes('\n') ? words.oneLine : lengthFault(text, longest.line, language)
    case 'choice':
    case 'several': {
      const known = field.options.map((one) => one.words)
      const isKnown = values.every((value) => known.includes(value))
      return isKnown && (field.kind === 'several' || values.length === 1) ? null : words.noOption
    }
    case 'number':
      return numberFault(text, field.fills, language)
    case 'date':
      if (!isoDate.safeParse(text).success) return words.date
      return field.fills === 'wished date' && text < today ? words.past : null
    case 'time':
      return timeOfDay.safeParse(text).success ? null : words.time
    case 'email':
      return emailAddress.safeParse(text).success ? null : words.email
    case 'telephone':
      return isPhone(text) ? null : words.phone
    case 'consent':
      return text === consentGiven ? null : words.consent
  }
}

/** A field that is asked, with what was given to it. */
interface Answered {
  readonly field: FormField
  readonly values: readonly string[]
}

const answerWords = ({ field, values }: Answered) =>
  (isChosen(field) ? values : values.slice(0, 1)).join(', ').slice(0, longest.text)

function filledBy(form: Form, answered: readonly Answered[]): FilledForm {
  const textOf = (fill: FormFill) => {
    const found = answered.find(({ field }) => field.fills === fill)
    return found ? (found.values[0] ?? '') : ''
  }
  const [serviceId] = answered.flatMap(({ field, values }) =>
    field.options.flatMap((one) => (values.includes(one.words) ? (one.serviceId ?? []) : [])),
  )
  const asksConsent = form.fields.some(({ fills }) => fills === 'promotional mail')
  const budget = numberIn(textOf('budget'))
  return {
    answers: answered
      .filter(({ values }) => values.length > 0)
      .map((one) => ({ question: one.field.label, answer: answerWords(one) })),
    what: textOf('what').slice(0, 200),
    wishedOn: textOf('wished date') || null,
    partySize: numberIn(textOf('people')),
    budgetCents: budget === null ? null : Math.round(budget * 100),
    source: textOf('source').slice(0, 120),
    serviceId: serviceId ?? form.serviceId,
    takesPromotional: asksConsent ? textOf('promotional mail') === consentGiven : null,
  }
}

/**
 * Reads what was given to a form. What is not asked, because an answer before it hides it, does not count.
 *
 * @param given  texts by the ids of the fields; empty ones count as not given
 * @param today  date of the business, ISO 8601: nobody can wish for a day before it
 */
export function readForm(form: Form, given: GivenToForm, today: string): ReadForm {
  const clean: GivenToForm = Object.fromEntries(
    form.fields.map(({ id }) => [id, (given[id] ?? []).filter((value) => value !== '')]),
  )
  const answered = form.fields
    .filter((field) => isShown(field, form.fields, clean))
    .map((field): Answered => ({ field, values: clean[field.id] ?? [] }))
  const faults = answered.flatMap(({ field, values }) => {
    const fault = faultOf(field, values, form.language, today)
    return fault === null ? [] : [[field.id, fault] as const]
  })
  return faults.length > 0
    ? { ok: false, faults: Object.fromEntries(faults) }
    : { ok: true, filled: filledBy(form, answered) }
}
