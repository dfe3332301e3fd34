import { z } from 'zod'
import { givenAnswer } from './booking.ts'
import { serviceId } from './business.ts'
import { contactId } from './client.ts'
import { enquiryId } from './enquiry.ts'
import { folded } from './folded.ts'
import { pipelineId } from './pipeline.ts'
import { idOf, instant, language, oneLine, requiredLine, severalLines } from './values.ts'

export const formId = idOf('fm')
export const formFieldId = idOf('fi')
export const formReceiptId = idOf('fr')

export const formFieldKind = z.enum([
  'line',
  'text',
  'choice',
  'several',
  'number',
  'date',
  'time',
  'email',
  'telephone',
  'consent',
])
export type FormFieldKind = z.infer<typeof formFieldKind>

/** What an answer says of the enquiry that is made of it, beside being an answer. */
export const formFill = z.enum(['what', 'wished date', 'people', 'budget', 'source', 'promotional mail'])
export type FormFill = z.infer<typeof formFill>

/** Which kinds of fields can say what of the enquiry. */
export const fillsOf: Readonly<Record<FormFieldKind, readonly FormFill[]>> = {
  line: ['what', 'source'],
  text: [],
  choice: ['what', 'source'],
  several: [],
  number: ['people', 'budget'],
  date: ['wished date'],
  time: [],
  email: [],
  telephone: [],
  consent: ['promotional mail'],
}

/** One of the answers there are; it can choose what service is asked for. */
export const formOption = z
  .object({ words: requiredLine(120, 'An option needs its words.'), serviceId: serviceId.nullable() })
  .strict()
export type FormOption = z.infer<typeof formOption>

/** What a ticked consent counts as. */
export const consentGiven = 'yes'

/** Something a form asks. */
export const formField = z
  .object({
    id: formFieldId,
    kind: formFieldKind,
    label: requiredLine(200, 'A field needs its words.'),
    /** What helps to answer; empty: nothing. */
    help: oneLine(300),
    isRequired: z.boolean(),
    /** Null: it is only an answer. */
    fills: formFill.nullable(),
    /** The answers there are, where one chooses; else empty. */
    options: z.array(formOption).max(40, 'At most 40 options.'),
    /** Shown only once an earlier field has one of these answers; null: always. */
    shownIf: z
      .object({ fieldId: formFieldId, values: z.array(oneLine(120)).min(1, 'With which answer?').max(40) })
      .strict()
      .nullable(),
  })
  .strict()
export type FormField = z.infer<typeof formField>

/** Whether answers to a field are among some that are known beforehand. */
export const isChosen = ({ kind }: Pick<FormField, 'kind'>) => kind === 'choice' || kind === 'several'

/** The answers to a field that others can be shown by. */
export const knownAnswers = (field: FormField): readonly string[] =>
  field.kind === 'consent' ? [consentGiven] : isChosen(field) ? field.options.map(({ words }) => words) : []

const isTwice = (all: readonly string[]) => new Set(all).size !== all.length

type Fault = readonly [path: (string | number)[], message: string]

function faultsOfField(field: FormField, index: number, all: readonly FormField[]): readonly Fault[] {
  const at = (...path: (string | number)[]) => ['fields', index, ...path]
  const faults: Fault[] = []
  const words = field.options.map((one) => folded(one.words))
  if (isChosen(field) && field.options.length < 2) {
    faults.push([at('options'), 'Give at least two options.'])
  }
  if (isTwice(words)) faults.push([at('options'), 'Two options are the same.'])
  if (field.fills !== null && !fillsOf[field.kind].includes(field.fills)) {
    faults.push([at('fills'), 'A field of this kind cannot say that.'])
  }
  const { shownIf } = field
  if (shownIf === null) return faults
  const other = all.slice(0, index).find(({ id }) => id === shownIf.fieldId)
  if (!other) faults.push([at('shownIf'), 'It can only hang on a field that stands before it.'])
  else if (!shownIf.values.every((value) => knownAnswers(other).includes(value))) {
    faults.push([at('shownIf'), `“${other.label}” has no such answer any more.`])
  }
  return faults
}

/** Why the fields of a form do not fit together. */
function faultsOfForm({ fields }: { readonly fields: readonly FormField[] }): readonly Fault[] {
  const faults = fields.flatMap((field, index) => [...faultsOfField(field, index, fields)])
  if (isTwice(fields.map(({ id }) => id))) faults.push([['fields'], 'Two fields have one id.'])
  if (isTwice(fields.map(({ label }) => folded(label)))) {
    faults.push([['fields'], 'Two fields have the same words.'])
  }
  const fills = fields.flatMap(({ fills: one }) => one ?? [])
  if (isTwice(fills)) faults.push([['fields'], 'Two fields say the same of the enquiry.'])
  return faults
}

/** Whether somebody is asked for a telephone number. */
export const asksPhone = z.enum(['no', 'if they like', 'yes'])

const formShape = z
  .object({
    id: formId,
    /** What the team calls it; sequences go by it. */
    name: requiredLine(80, 'A form needs a name.'),
    title: requiredLine(120, 'Give the words that stand above it.'),
    intro: severalLines(2000),
    /** What it is written in. */
    language,
    asksPhone,
    /** Where its enquiries come in. */
    pipelineId,
    /** What is asked for where no answer chooses it; null: nothing is said of that. */
    serviceId: serviceId.nullable(),
    fields: z.array(formField).max(40, 'At most 40 fields.'),
    /** What is read once it has been sent. */
    thanks: severalLines(2000).min(1, 'Say thank you, and what comes next.'),
    isActive: z.boolean(),
    /** Counts its versions: answers belong to the one they were given to. */
    revision: z.number().int().min(1),
  })
  .strict()

const wellMade = (
  form: { readonly fields: readonly FormField[] },
  context: { addIssue: (issue: { code: 'custom'; path: (string | number)[]; message: string }) => void },
) =>
  faultsOfForm(form).forEach(([path, message]) =>
    context.addIssue({ code: 'custom', path: [...path], message }),
  )

/** A form that somebody fills in who asks for something. */
export const form = formShape.superRefine(wellMade)
export type Form = z.infer<typeof form>

/** The same as it is written. */
export const formInput = formShape.omit({ id: true, revision: true }).superRefine(wellMade)
export type FormInput = z.infer<typeof formInput>

/** A fact of somebody who is known that a form says otherwise. */
export const differingFact = z.enum(['firstName', 'lastName', 'phone', 'promotional mail'])
export type DifferingFact = z.infer<typeof differingFact>

export const difference = z
  .object({
    fact: differingFact,
    known: z.string(),
    given: z.string(),
    /** Null: nobody has looked at it yet. */
    decided: z.enum(['taken over', 'left']).nullable(),
  })
  .strict()
export type FormDifference = z.infer<typeof difference>

/** A form that came in. */
export const formReceipt = z
  .object({
    id: formReceiptId,
    formId,
    /** The version it was given to. */
    revision: z.number().int().min(1),
    formName: oneLine(80),
    at: instant,
    enquiryId,
    /** Who of the client's contacts filled it in. */
    contactId,
    /** All that was answered, with the words it was asked in. */
    answers: z.array(givenAnswer),
    differs: z.array(difference),
  })
  .strict()
export type FormReceipt = z.infer<typeof formReceipt>
