import { escapeHtml } from '#core/letters/html.ts'
import type { Service } from '#core/model/business.ts'
import type { Question } from '#core/model/offer.ts'
import type { PageWords } from './words.ts'

/** What was typed into a form, by the names of its fields, and what is wrong with which. */
export interface Typed {
  readonly values: Readonly<Record<string, string>>
  readonly faults: Readonly<Record<string, string>>
}

export const nothingTyped: Typed = { values: {}, faults: {} }

/** The name of the field that answers a question. */
export const answerField = ({ id }: Pick<Question, 'id'>) => `answers.${id}`

interface Field {
  readonly name: string
  readonly label: string
  readonly type?: 'text' | 'email' | 'tel'
  readonly isRequired?: boolean
  readonly autocomplete?: string
}

const faultOf = ({ faults }: Typed, name: string) => {
  const fault = faults[name]
  return fault === undefined
    ? { line: '', attributes: '' }
    : {
        line: `<p class="fault" id="fault-${name}">${escapeHtml(fault)}</p>`,
        attributes: ` aria-invalid="true" aria-describedby="fault-${name}"`,
      }
}

export function field(
  { name, label, type = 'text', isRequired = false, autocomplete = 'off' }: Field,
  typed: Typed,
): string {
  const { line, attributes } = faultOf(typed, name)
  const value = escapeHtml(typed.values[name] ?? '')
  const required = isRequired ? ' required' : ''
  return `<label for="${name}">${escapeHtml(label)}</label><input id="${name}" name="${name}" type="${type}" maxlength="254" autocomplete="${autocomplete}" value="${value}"${required}${attributes}>${line}`
}

function choiceField(
  question: Question,
  options: readonly string[],
  label: string,
  words: PageWords,
  typed: Typed,
) {
  const name = answerField(question)
  const { line, attributes } = faultOf(typed, name)
  const given = typed.values[name] ?? ''
  const items = options.map((option) => {
    const selected = option === given ? ' selected' : ''
    return `<option${selected}>${escapeHtml(option)}</option>`
  })
  const required = question.isRequired ? ' required' : ''
  return `<label for="${name}">${label}</label><select id="${name}" name="${name}"${required}${attributes}><option value="">${words.choose}</option>${items.join('')}</select>${line}`
}

function questionField(question: Question, words: PageWords, typed: Typed): string {
  const name = answerField(question)
  const optional = question.isRequired ? '' : ` <span class="quiet">(${words.optional})</span>`
  const label = `${escapeHtml(question.label)}${optional}`
  const { line, attributes } = faultOf(typed, name)
  const required = question.isRequired ? ' required' : ''
  switch (question.kind) {
    case 'yes or no':
      return choiceField(question, [words.yes, words.no], label, words, typed)
    case 'choice':
      return choiceField(question, question.options, label, words, typed)
    case 'text':
      return `<label for="${name}">${label}</label><textarea id="${name}" name="${name}" rows="4" maxlength="2000"${required}${attributes}>${escapeHtml(typed.values[name] ?? '')}</textarea>${line}`
    case 'line':
      return `<label for="${name}">${label}</label><input id="${name}" name="${name}" maxlength="2000" autocomplete="off" value="${escapeHtml(typed.values[name] ?? '')}"${required}${attributes}>${line}`
  }
}

export const hidden = (name: string, value: string) =>
  `<input type="hidden" name="${name}" value="${escapeHtml(value)}">`

/** What went wrong, where it is read first. */
export const alertBox = (sentence: string) =>
  `<div class="alert" role="alert"><p class="fault">${escapeHtml(sentence)}</p></div>`

/** The field people do not see: whatever fills it in is a program. */
export const trap = (words: PageWords) =>
  `<div class="trap" aria-hidden="true"><label for="website">${words.leaveEmpty}</label><input id="website" name="website" tabindex="-1" autocomplete="off"></div>`

/** Who books, and what the service asks. */
export function detailFields(service: Service, words: PageWords, typed: Typed): string {
  const names = [
    field({ name: 'firstName', label: words.firstName, autocomplete: 'given-name', isRequired: true }, typed),
    field({ name: 'lastName', label: words.lastName, autocomplete: 'family-name', isRequired: true }, typed),
    field(
      { name: 'email', label: words.email, type: 'email', autocomplete: 'email', isRequired: true },
      typed,
    ),
    field({ name: 'phone', label: words.phone, type: 'tel', autocomplete: 'tel' }, typed),
  ]
  const questions = service.offer.questions.map((question) => questionField(question, words, typed))
  return [...names, ...questions, trap(words)].join('')
}
