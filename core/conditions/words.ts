import type { Condition, ConditionField, Operand, Test } from '../model/condition.ts'

/** Names of what conditions mention by id. */
export interface ConditionNames {
  readonly serviceName: (id: string) => string
}

interface FieldWords {
  /** What comes before the verb: `the service`. */
  readonly subject: string
  /** For yes-or-no facts: the sentence when it is so, and when it is not. */
  readonly yes?: string
  readonly no?: string
}

const fieldWords: Readonly<Record<ConditionField, FieldWords>> = {
  'booking.status': { subject: 'the booking' },
  'booking.own status': { subject: 'the status of yours' },
  'booking.status ever reached': { subject: 'a status the booking has had' },
  'booking.service': { subject: 'the service' },
  'booking.party size': { subject: 'the number of people' },
  'booking.hours until start': { subject: 'the hours until the start' },
  'booking.hours between booking and start': { subject: 'the hours from booking to start' },
  'booking.start: weekday': { subject: 'the weekday of the event' },
  'booking.start: hour': { subject: 'the hour of the event' },
  'booking.start: working day': {
    subject: 'the event',
    yes: 'the event is on a working day',
    no: 'the event is not on a working day',
  },
  'booking.made: weekday': { subject: 'the weekday of the booking' },
  'booking.made: hour': { subject: 'the hour of the booking' },
  'booking.made: working day': {
    subject: 'the booking',
    yes: 'it was booked on a working day',
    no: 'it was not booked on a working day',
  },
  'enquiry.stage': { subject: 'the stage of the enquiry' },
  'enquiry.service': { subject: 'the service asked for' },
  'invoice.paid': { subject: 'the invoice', yes: 'the invoice is paid', no: 'the invoice is not paid' },
  'invoice.amount': { subject: 'the amount of the invoice' },
  'invoice.asks for': { subject: 'what the invoice asks for' },
  'client.tag': { subject: 'a tag of the client' },
  'client.list': { subject: 'a list the client is on' },
  'client.language': { subject: 'the language of the client' },
  'client.takes promotional mail': {
    subject: 'the client',
    yes: 'the client takes promotional mail',
    no: 'the client takes no promotional mail',
  },
  'client.has a booking ahead': {
    subject: 'the client',
    yes: 'the client has a booking ahead',
    no: 'the client has no booking ahead',
  },
  'since the run started: answered': {
    subject: 'the client',
    yes: 'the client has answered since',
    no: 'the client has not answered since',
  },
  'since the run started: opened': {
    subject: 'the client',
    yes: 'the client has opened a message since',
    no: 'the client has opened no message since',
  },
  'since the run started: followed a link': {
    subject: 'the client',
    yes: 'the client has followed a link since',
    no: 'the client has followed no link since',
  },
  'since the run started: form received': {
    subject: 'the form',
    yes: 'the form has come since',
    no: 'the form has not come since',
  },
  'since the run started: signed': {
    subject: 'the client',
    yes: 'the client has signed since',
    no: 'the client has not signed since',
  },
  'since the run started: booked': {
    subject: 'the client',
    yes: 'the client has booked since',
    no: 'the client has not booked since',
  },
}

/** What a field is called where one chooses it. */
export function fieldTitle(field: ConditionField): string {
  const { subject, yes } = fieldWords[field]
  return yes ?? subject
}

/** Whether a field is a yes-or-no fact. */
export function isYesNo(field: ConditionField): boolean {
  return fieldWords[field].yes !== undefined
}

function listed(words: readonly string[], joiner: 'and' | 'or'): string {
  if (words.length < 2) return words[0] ?? ''
  return `${words.slice(0, -1).join(', ')} ${joiner} ${words.at(-1) ?? ''}`
}

const languageNames: Readonly<Record<string, string>> = { en: 'English', de: 'German' }

function operandWords(field: ConditionField, value: Operand, { serviceName }: ConditionNames): string {
  const text = String(value)
  if (field === 'booking.service' || field === 'enquiry.service') return serviceName(text)
  if (field === 'client.language') return languageNames[text] ?? text
  const isPlain = field.startsWith('booking.')
  return typeof value === 'string' && !isPlain ? `“${text}”` : text
}

const verbs: Readonly<Record<Test['comparison'], string>> = {
  is: 'is',
  'is not': 'is not',
  'is one of': 'is',
  'is none of': 'is neither',
  'is at least': 'is at least',
  'is at most': 'is at most',
}

function yesNoWords({ field, comparison, value }: Test): string | null {
  const { yes, no } = fieldWords[field]
  if (yes === undefined || no === undefined || typeof value !== 'boolean') return null
  const isNegated = comparison === 'is not' || comparison === 'is none of'
  return value === isNegated ? no : yes
}

function testAsWords(test: Test, names: ConditionNames): string {
  const plain = yesNoWords(test)
  if (plain !== null) return plain
  const { field, comparison } = test
  const { subject } = fieldWords[field]
  const values = (Array.isArray(test.value) ? test.value : [test.value]).map((one) =>
    operandWords(field, one, names),
  )
  if (values.length === 0)
    return `${subject} ${comparison === 'is none of' ? 'is anything' : 'is nothing at all'}`
  if (comparison !== 'is none of') return `${subject} ${verbs[comparison]} ${listed(values, 'or')}`
  return values.length === 1
    ? `${subject} is not ${values[0] ?? ''}`
    : `${subject} is neither ${values.join(' nor ')}`
}

/** A part that is itself joined differently is set in commas or brackets, so that it can be read only one way. */
function within(part: Condition, names: ConditionNames): string {
  const words = conditionWords(part, names)
  const isJoined = 'any' in part ? part.any.length > 1 : 'all' in part && part.all.length > 1
  return isJoined ? `(${words})` : words
}

/** A condition as a clause: `the service is Sunrise flight or Private basket, and the invoice is not paid`. */
export function conditionWords(condition: Condition, names: ConditionNames): string {
  if ('all' in condition) {
    if (condition.all.length === 0) return 'always'
    const [first] = condition.all
    if (condition.all.length === 1 && first) return conditionWords(first, names)
    return condition.all.map((part) => within(part, names)).join(', and ')
  }
  if ('any' in condition) {
    if (condition.any.length === 0) return 'never'
    const [first] = condition.any
    if (condition.any.length === 1 && first) return conditionWords(first, names)
    return `either ${condition.any.map((part) => within(part, names)).join(', or ')}`
  }
  if ('none' in condition) {
    if (condition.none.length === 0) return 'always'
    return condition.none.map((part) => `it is not so that ${within(part, names)}`).join(', and ')
  }
  return testAsWords(condition, names)
}
