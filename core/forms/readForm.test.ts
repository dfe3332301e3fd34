import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { form, type Form, type FormField } from '../model/form.ts'
import { ownFieldWords } from './ownFields.ts'
import { isShown, readForm, type GivenToForm } from './readForm.ts'

/* What is filled into a form, as it is read. The forms are made up. */

const field = (id: string, part: Partial<FormField> = {}): FormField => ({
  id: `fi_${id}`,
  kind: 'line',
  label: `Question ${id}`,
  help: '',
  isRequired: false,
  fills: null,
  options: [],
  shownIf: null,
  ...part,
})
const options = (...all: readonly (readonly [words: string, serviceId: string | null])[]) =>
  all.map(([words, serviceId]) => ({ words, serviceId }))
const made = (fields: readonly FormField[], part: Partial<Form> = {}): Form =>
  form.parse({
    id: 'fm_1',
    name: 'Charters',
    title: 'A balloon of your own',
    intro: '',
    language: 'en',
    asksPhone: 'no',
    pipelineId: 'pl_1',
    serviceId: null,
    fields,
    thanks: 'Thank you.',
    isActive: true,
    revision: 1,
    ...part,
  })
const today = '2026-05-14'
const read = (of: Form, given: GivenToForm) => readForm(of, given, today)
const faultsOf = (of: Form, given: GivenToForm) => {
  const result = read(of, given)
  return result.ok ? {} : result.faults
}
const filled = (of: Form, given: GivenToForm) => {
  const result = read(of, given)
  if (!result.ok) throw new Error(JSON.stringify(result.faults))
  return result.filled
}

const kind = field('kind', {
  kind: 'choice',
  label: 'What do you think of?',
  isRequired: true,
  options: options(['A wedding', 'sv_wedding'], ['Something else', null]),
})
const couple = field('couple', {
  label: 'Who marries?',
  isRequired: true,
  shownIf: { fieldId: kind.id, values: ['A wedding'] },
})

describe('what is filled in', () => {
  test('says what of the enquiry, keeps its words, and an answer chooses the service', () => {
    const of = made([
      kind,
      field('what', { fills: 'what' }),
      field('day', { kind: 'date', fills: 'wished date' }),
      field('people', { kind: 'number', fills: 'people' }),
      field('budget', { kind: 'number', fills: 'budget' }),
      field('source', { fills: 'source' }),
      field('news', { kind: 'consent', fills: 'promotional mail' }),
      field('extras', { kind: 'several', options: options(['Cake', null], ['Photos', null]) }),
    ])
    const given = {
      fi_kind: ['A wedding'],
      fi_what: ['Ruby wedding'],
      fi_day: ['2026-08-01'],
      fi_people: ['4'],
      fi_budget: ['1600,50'],
      fi_source: ['a friend'],
      fi_extras: ['Cake', 'Photos'],
    }
    expect(filled(of, given)).toEqual({
      what: 'Ruby wedding',
      wishedOn: '2026-08-01',
      partySize: 4,
      budgetCents: 160_050,
      source: 'a friend',
      serviceId: 'sv_wedding',
      takesPromotional: false,
      answers: [
        { question: 'What do you think of?', answer: 'A wedding' },
        { question: 'Question what', answer: 'Ruby wedding' },
        { question: 'Question day', answer: '2026-08-01' },
        { question: 'Question people', answer: '4' },
        { question: 'Question budget', answer: '1600,50' },
        { question: 'Question source', answer: 'a friend' },
        { question: 'Question extras', answer: 'Cake, Photos' },
      ],
    })
    expect(filled(of, { ...given, fi_news: ['yes'] }).takesPromotional).toBe(true)
    expect(filled(made([field('a')], { serviceId: 'sv_own' }), {}).serviceId).toBe('sv_own')
  })

  test('what is not asked need not be answered, and does not count', () => {
    const of = made([kind, couple])
    expect(faultsOf(of, { fi_kind: ['A wedding'] })).toEqual({ fi_couple: 'Please fill this in.' })
    expect(filled(of, { fi_kind: ['Something else'], fi_couple: ['Oona'] }).answers).toEqual([
      { question: 'What do you think of?', answer: 'Something else' },
    ])
  })

  test('what hangs on something hidden is hidden, too', () => {
    const consent = field('photos', { kind: 'consent', shownIf: { fieldId: kind.id, values: ['A wedding'] } })
    const where = field('where', { shownIf: { fieldId: consent.id, values: ['yes'] } })
    const of = made([kind, consent, where])
    const given = (choice: string) => ({ fi_kind: [choice], fi_photos: ['yes'], fi_where: ['here'] })
    expect(isShown(where, of.fields, given('A wedding'))).toBe(true)
    expect(isShown(where, of.fields, given('Something else'))).toBe(false)
  })

  test.each<[string, Partial<FormField>, readonly string[], string]>([
    ['nothing where something is needed', { isRequired: true }, [], 'Please fill this in.'],
    ['no tick where one is needed', { kind: 'consent', isRequired: true }, [], 'Please tick this to go on.'],
    ['two lines in one', {}, ['a\nb'], 'One line only, please.'],
    [
      '10,000 characters',
      { kind: 'text' },
      ['x'.repeat(10_000)],
      'At most 2,000 characters, please; these are 10,000.',
    ],
    ['no number', { kind: 'number' }, ['four'], 'Please give a number, such as 4 or 2.5.'],
    [
      'half a person',
      { kind: 'number', fills: 'people' },
      ['2.5'],
      'Please give a whole number of people, up to 500.',
    ],
    [
      'a crowd',
      { kind: 'number', fills: 'people' },
      ['501'],
      'Please give a whole number of people, up to 500.',
    ],
    [
      'too much money',
      { kind: 'number', fills: 'budget' },
      ['99999999'],
      'Please give an amount, such as 1200 or 99.50.',
    ],
    ['a day there is not', { kind: 'date' }, ['2026-02-30'], 'Please give a date, such as 2026-08-01.'],
    [
      'a day that is past',
      { kind: 'date', fills: 'wished date' },
      ['2026-05-13'],
      'This day is past. Please choose another one.',
    ],
    ['a time there is not', { kind: 'time' }, ['24:30'], 'Please give a time, such as 18:30.'],
    ['no address', { kind: 'email' }, ['oona'], 'Please give an e-mail address, such as name@place.example.'],
    ['no telephone', { kind: 'telephone' }, ['soon'], 'Please give a telephone number.'],
    [
      'something that is no option',
      { kind: 'choice', options: options(['A', null], ['B', null]) },
      ['C'],
      'Please choose one of the options.',
    ],
    [
      'two of one',
      { kind: 'choice', options: options(['A', null], ['B', null]) },
      ['A', 'B'],
      'Please choose one of the options.',
    ],
  ])('%s is said at its field', (_, part, values, sentence) => {
    expect(faultsOf(made([field('a', part)]), { fi_a: values })).toEqual({ fi_a: sentence })
  })

  test('a day of long ago is fine where nobody wishes for it', () => {
    expect(faultsOf(made([field('a', { kind: 'date' })]), { fi_a: ['1990-05-01'] })).toEqual({})
  })

  test('property: whatever is sent, it is read or each fault is said; answers have the words that were asked', () => {
    const of = made([
      kind,
      couple,
      field('text', { kind: 'text' }),
      field('people', { kind: 'number', fills: 'people' }),
      field('day', { kind: 'date', fills: 'wished date' }),
    ])
    const labels = of.fields.map(({ label }) => label)
    const anything = fc.dictionary(
      fc.constantFrom(...of.fields.map(({ id }) => id), 'other'),
      fc.array(fc.oneof(fc.string({ maxLength: 40 }), fc.constantFrom('A wedding', '4', '2026-08-01')), {
        maxLength: 3,
      }),
    )
    fc.assert(
      fc.property(anything, (given) => {
        const result = read(of, given)
        if (result.ok) {
          expect(result.filled.answers.every(({ question }) => labels.includes(question))).toBe(true)
        } else expect(Object.values(result.faults).every((one) => one.length > 5)).toBe(true)
      }),
    )
  })
})

describe('a form fits together, or says where not', () => {
  const sentences = (fields: readonly FormField[]) => {
    const parsed = form.safeParse({ ...made([]), fields })
    return (parsed.error?.issues ?? []).map(({ message }) => message)
  }
  test.each<[string, readonly FormField[], string]>([
    [
      'one option',
      [field('a', { kind: 'choice', options: options(['A', null]) })],
      'Give at least two options.',
    ],
    [
      'two options the same',
      [field('a', { kind: 'several', options: options(['A', null], ['a', null]) })],
      'Two options are the same.',
    ],
    ['what it cannot say', [field('a', { fills: 'people' })], 'A field of this kind cannot say that.'],
    ['hanging on a later field', [couple, kind], 'It can only hang on a field that stands before it.'],
    [
      'hanging on an answer that is gone',
      [kind, { ...couple, shownIf: { fieldId: kind.id, values: ['A jubilee'] } }],
      '“What do you think of?” has no such answer any more.',
    ],
    [
      'the same words twice',
      [field('a'), field('b', { label: 'question A' })],
      'Two fields have the same words.',
    ],
    [
      'the same said twice',
      [field('a', { fills: 'what' }), field('b', { fills: 'what' })],
      'Two fields say the same of the enquiry.',
    ],
  ])('%s', (_, fields, sentence) => {
    expect(sentences(fields)).toContain(sentence)
  })
})

test('own fields are those of forms, services and moves, each once', () => {
  const question = { id: 'qu_1', kind: 'line', label: 'Shoe size', isRequired: false } as const
  const parts = [{ kind: 'field', field: 'Agreement', value: 'sent' } as const]
  expect(
    ownFieldWords({
      forms: [made([field('a', { label: 'Shoe size' }), field('b', { label: 'Colour' })])],
      services: [{ offer: { questions: [question] } }],
      onePressMoves: [{ parts }],
    }),
  ).toEqual(['Agreement', 'Colour', 'Shoe size'])
})
