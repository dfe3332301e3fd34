import {
  fillsOf,
  formInput,
  isChosen,
  knownAnswers,
  type Form,
  type FormField,
  type FormFieldKind,
  type FormFill,
  type FormInput,
  type FormOption,
} from '#core/model/form.ts'
import { sayFault } from './typed.ts'

/** What a field is for, in the words of who puts a form together. */
export const fillWords: Readonly<Record<FormFill, string>> = {
  what: 'what it is for',
  'wished date': 'the date wished for',
  people: 'how many people',
  budget: 'the budget',
  source: 'where it came from',
  'promotional mail': 'that they take promotional mail',
}

export const fieldKindWords: Readonly<Record<FormFieldKind, string>> = {
  line: 'a line',
  text: 'a longer text',
  choice: 'one of several',
  several: 'some of several',
  number: 'a number',
  date: 'a date',
  time: 'a time of day',
  email: 'an e-mail address',
  telephone: 'a telephone number',
  consent: 'a consent',
}

const newOption = (): FormOption => ({ words: '', serviceId: null })

export const newField = (): FormField => ({
  id: `fi_${crypto.randomUUID()}`,
  kind: 'line',
  label: '',
  help: '',
  isRequired: false,
  fills: null,
  options: [],
  shownIf: null,
})

/** The same field of another kind: what does not go with that goes. */
export const asKind = (field: FormField, kind: FormFieldKind): FormField => ({
  ...field,
  kind,
  fills: field.fills !== null && fillsOf[kind].includes(field.fills) ? field.fills : null,
  options: isChosen({ kind }) ? (field.options.length > 0 ? field.options : [newOption(), newOption()]) : [],
})

/** The fields by whose answers a later one can be shown. */
export const showing = (fields: readonly FormField[], index: number) =>
  fields.slice(0, index).filter((field) => field.label !== '' && knownAnswers(field).some(Boolean))

export const newForm = (pipelineId: string): FormInput => ({
  name: '',
  title: '',
  intro: '',
  language: 'en',
  asksPhone: 'if they like',
  pipelineId,
  serviceId: null,
  fields: [
    { ...newField(), label: 'What is it for?', isRequired: true, fills: 'what' },
    { ...newField(), kind: 'date', label: 'Which day do you think of?', fills: 'wished date' },
    { ...newField(), kind: 'number', label: 'How many will you be?', fills: 'people' },
  ],
  thanks: 'Thank you. We look at it and write back within two working days.',
  isActive: true,
})

export function inputOf(form: Form): FormInput {
  const { name, title, intro, language, asksPhone, pipelineId, serviceId, fields, thanks, isActive } = form
  return { name, title, intro, language, asksPhone, pipelineId, serviceId, fields, thanks, isActive }
}

/** What a draft means, or what is wrong with it, by field. */
export function readDraft(
  draft: FormInput,
): { readonly meant: FormInput } | { readonly faults: Readonly<Record<string, string>> } {
  const parsed = formInput.safeParse(draft)
  if (parsed.success) return { meant: parsed.data }
  const faults: Record<string, string> = {}
  for (const { path, message } of parsed.error.issues) faults[path.join('.')] ??= sayFault(message)
  return { faults }
}
