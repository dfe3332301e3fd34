import { randomUUID } from 'node:crypto'
import { escapeHtml } from '#core/letters/html.ts'
import { consentGiven, knownAnswers, type FormField, type FormInput } from '#core/model/form.ts'
import { askWords } from './askWords.ts'
import { alertBox, field, hidden, trap } from './form.ts'
import { pageWords } from './words.ts'

/** What was given to a form, by the names of its fields, and what is wrong with which. */
export interface TypedIn {
  readonly values: Readonly<Record<string, readonly string[]>>
  readonly faults: Readonly<Record<string, string>>
}

export const nothingTypedIn: TypedIn = { values: {}, faults: {} }

/** More options than these stand in a list to choose from. */
const mostRadios = 6

type Language = FormInput['language']

/** Hides a field until an earlier one has an answer that shows it; without scripts, by style alone. */
function hidingRules(of: FormField, fields: readonly FormField[]): string {
  const rules: string[] = []
  let { shownIf } = of
  while (shownIf !== null) {
    const { fieldId, values } = shownIf
    const other = fields.find(({ id }) => id === fieldId)
    if (!other) break
    const answers = knownAnswers(other)
    const unchosen = values.map((value) => `:not(:has(#${other.id}-${answers.indexOf(value)}:checked))`)
    rules.push(`form${unchosen.join('')} #row-${of.id}{display:none}`)
    shownIf = other.shownIf
  }
  return rules.join('')
}

const inputTypes = {
  line: 'text',
  number: 'text',
  date: 'date',
  time: 'time',
  email: 'email',
  telephone: 'tel',
} as const

interface Drawn {
  readonly label: string
  readonly attributes: string
  /** The help and the fault, beneath it. */
  readonly below: string
}

function drawn(of: FormField, { faults }: TypedIn, language: Language): Drawn {
  const words = pageWords[language]
  const optional = of.isRequired ? '' : ` <span class="quiet">(${words.optional})</span>`
  const fault = faults[of.id]
  const ids = [
    ...(of.help === '' ? [] : [`help-${of.id}`]),
    ...(fault === undefined ? [] : [`fault-${of.id}`]),
  ]
  const described = ids.length === 0 ? '' : ` aria-describedby="${ids.join(' ')}"`
  const help = of.help === '' ? '' : `<p class="quiet" id="help-${of.id}">${escapeHtml(of.help)}</p>`
  return {
    label: `${escapeHtml(of.label)}${optional}`,
    attributes: `${of.isRequired ? ' required' : ''}${fault === undefined ? '' : ' aria-invalid="true"'}${described}`,
    below: `${help}${fault === undefined ? '' : `<p class="fault" id="fault-${of.id}">${escapeHtml(fault)}</p>`}`,
  }
}

/** Choices beside each other, of which one or several are ticked. */
function ticks(
  of: FormField,
  type: 'radio' | 'checkbox',
  given: readonly string[],
  { label, below, attributes }: Drawn,
) {
  const items = knownAnswers(of).map((words, index) => {
    const checked = given.includes(words) ? ' checked' : ''
    const id = `${of.id}-${index}`
    return `<label class="choice" for="${id}"><input type="${type}" id="${id}" name="${of.id}" value="${escapeHtml(words)}"${checked}>${escapeHtml(words)}</label>`
  })
  const described = attributes.replace(' required', '').replace(' aria-invalid="true"', '')
  return `<fieldset${described}><legend>${label}</legend>${items.join('')}${below}</fieldset>`
}

function selectOf(
  of: FormField,
  given: readonly string[],
  { label, attributes, below }: Drawn,
  language: Language,
) {
  const items = of.options.map(({ words }, index) => {
    const selected = given.includes(words) ? ' selected' : ''
    return `<option id="${of.id}-${index}" value="${escapeHtml(words)}"${selected}>${escapeHtml(words)}</option>`
  })
  return `<label for="${of.id}">${label}</label><select id="${of.id}" name="${of.id}"${attributes}><option value="">${pageWords[language].choose}</option>${items.join('')}</select>${below}`
}

function consentField(of: FormField, given: readonly string[], { label, attributes, below }: Drawn) {
  const checked = given.includes(consentGiven) ? ' checked' : ''
  return `<label class="choice" for="${of.id}-0"><input type="checkbox" id="${of.id}-0" name="${of.id}" value="${consentGiven}"${checked}${attributes}>${label}</label>${below}`
}

function fieldHtml(of: FormField, typed: TypedIn, language: Language): string {
  const parts = drawn(of, typed, language)
  const given = typed.values[of.id] ?? []
  const { label, attributes, below } = parts
  const value = escapeHtml(given[0] ?? '')
  switch (of.kind) {
    case 'several':
      return ticks(of, 'checkbox', given, parts)
    case 'choice':
      return of.options.length > mostRadios
        ? selectOf(of, given, parts, language)
        : ticks(of, 'radio', given, parts)
    case 'consent':
      return consentField(of, given, parts)
    case 'text':
      return `<label for="${of.id}">${label}</label><textarea id="${of.id}" name="${of.id}" rows="4"${attributes}>${value}</textarea>${below}`
    default: {
      const numeric = of.kind === 'number' ? ' inputmode="decimal"' : ''
      return `<label for="${of.id}">${label}</label><input id="${of.id}" name="${of.id}" type="${inputTypes[of.kind]}" autocomplete="off" value="${value}"${numeric}${attributes}>${below}`
    }
  }
}

/** Who fills it in. */
function whoFields({ asksPhone, language }: FormInput, { values, faults }: TypedIn): string {
  const words = pageWords[language]
  const first = Object.fromEntries(Object.entries(values).map(([name, [value = '']]) => [name, value]))
  const typed = { values: first, faults }
  const phone =
    asksPhone === 'no'
      ? ''
      : field(
          {
            name: 'phone',
            label: asksPhone === 'yes' ? askWords[language].phone : words.phone,
            type: 'tel',
            autocomplete: 'tel',
            isRequired: asksPhone === 'yes',
          },
          typed,
        )
  return [
    field({ name: 'firstName', label: words.firstName, autocomplete: 'given-name', isRequired: true }, typed),
    field({ name: 'lastName', label: words.lastName, autocomplete: 'family-name', isRequired: true }, typed),
    field(
      { name: 'email', label: words.email, type: 'email', autocomplete: 'email', isRequired: true },
      typed,
    ),
    phone,
  ].join('')
}

const paragraphs = (text: string) =>
  text
    .split('\n')
    .filter(Boolean)
    .map((line) => `<p>${escapeHtml(line)}</p>`)
    .join('')

interface AskPage {
  readonly form: FormInput
  readonly typed: TypedIn
  readonly alert: string | null
  /** Where it is sent to. */
  readonly action: string
  readonly stamp: string
  readonly version: number
}

/** A form to be filled in. */
export function askBody({ form, typed, alert, action, stamp, version }: AskPage): string {
  const { fields, language, title, intro } = form
  const rules = fields.map((of) => hidingRules(of, fields)).join('')
  const rows = fields.map((of) => `<div id="row-${of.id}">${fieldHtml(of, typed, language)}</div>`)
  const kept = [
    hidden('stamp', stamp),
    hidden('version', String(version)),
    hidden('key', typed.values['key']?.[0] ?? randomUUID()),
  ]
  return [
    rules === '' ? '' : `<style>${rules}</style>`,
    `<h2>${escapeHtml(title)}</h2>${paragraphs(intro)}`,
    alert === null ? '' : alertBox(alert),
    `<form method="post" action="${escapeHtml(action)}" novalidate>${rows.join('')}`,
    `<h2>${askWords[language].yourself}</h2>${whoFields(form, typed)}${trap(pageWords[language])}`,
    `${kept.join('')}<button>${askWords[language].send}</button></form>`,
  ].join('')
}

/** What is read once it has been sent. */
export const thanksBody = ({ thanks, language }: FormInput) =>
  `<h2>${askWords[language].sent}</h2>${paragraphs(thanks)}`
