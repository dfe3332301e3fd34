import { describe, expect, test } from '@jest/globals'
import type { Inline, LetterContent, Section } from '../model/letter.ts'
import { starterLetters } from '../sequences/starterLetters.ts'
import { field, words } from './authoring.ts'
import { problemsOf, type ProblemContext } from './problems.ts'
import type { Sending } from './sendings.ts'

const sending = (part: Partial<Sending> = {}): Sending => ({
  sequenceName: 'Before a lesson',
  about: 'booking',
  when: '3 days before, at 18:00',
  daysAhead: 3,
  officeOpen: 'always',
  ...part,
})

const context: ProblemContext = {
  passages: [{ id: 'ps_way', name: 'The way', paragraphs: [], translations: [], version: 1 }],
  sendings: [],
  names: [
    { name: 'Enno Brandt', whose: 'client' },
    { name: 'Ada Windermeer', whose: 'team' },
  ],
  hasPostalAddress: true,
  sisters: [],
}

const undecided = (name: Extract<Inline, { kind: 'field' }>['field']): Inline => ({
  kind: 'field',
  field: name,
  ifMissing: { kind: 'undecided' },
})

function content(lines: Inline[][], part: Partial<LetterContent> = {}): LetterContent {
  return {
    name: 'A test',
    moment: 'before',
    class: 'service',
    language: 'en',
    letterhead: 'business',
    subject: words`About your lesson`,
    preheader: [],
    sections: [{ id: 'a', kind: 'text', paragraphs: lines }],
    variants: [],
    attachments: [],
    isUnnoticed: false,
    ...part,
  }
}

const own = (section: Section) => content([], { sections: [section] })
const typed = (text: string) => content([[{ kind: 'text', text }]])

const cases: readonly (readonly [string, LetterContent, Partial<ProblemContext>, string, string])[] = [
  ['a subject that is empty', content([], { subject: words` ` }), {}, 'no subject', ''],
  [
    'a subject too long',
    content([], { subject: words`${field('client.name')} ${{ kind: 'text', text: 'a'.repeat(80) }}` }),
    {},
    'long subject',
    'a',
  ],
  [
    'a field nobody decided on',
    content([[undecided('contact.firstName')]]),
    {},
    'no rule for a missing value',
    'First name',
  ],
  [
    'a booking’s field in a birthday letter',
    content([words`${field('booking.date')}`]),
    { sendings: [sending({ about: 'nothing' })] },
    'unavailable field',
    'Date',
  ],
  [
    'a button to a booking where there is none',
    own({ id: 'b', kind: 'button', label: words`Cancel`, link: 'field:link.cancel' }),
    { sendings: [sending({ about: 'nothing' })] },
    'unavailable field',
    'Cancel the booking',
  ],
  [
    'an invoice’s field in a booking’s letter',
    content([words`${field('invoice.amount')}`]),
    { sendings: [sending()] },
    'unavailable field',
    'Amount',
  ],
  ['a typed ISO date', typed('on 2026-05-16.'), {}, 'typed date', '2026-05-16'],
  ['a typed English date', typed('on May 16, 2026.'), {}, 'typed date', 'May 16, 2026'],
  ['a typed German date', typed('am 16. Mai 2026.'), {}, 'typed date', '16. Mai 2026'],
  ['a typed weekday', typed('on Saturday.'), {}, 'typed weekday', 'Saturday'],
  ['a typed time word', typed('see you tomorrow'), {}, 'typed time word', 'tomorrow'],
  ['a typed span', typed('only in 3 weeks'), {}, 'typed time word', 'in 3 weeks'],
  ['a client’s name', typed('Dear Enno Brandt'), {}, 'real name', 'Enno Brandt'],
  ['a first name behind a greeting', typed('dear Agatha, we fly'), {}, 'real name', 'Agatha'],
  ['a first and last name behind a greeting', typed('Hallo Agatha Wren!'), {}, 'real name', 'Agatha Wren'],
  ['a German greeting', typed('Guten Tag Jörg,'), {}, 'real name', 'Jörg'],
  ['a name of the team', typed('Ask Ada Windermeer.'), {}, 'real name', 'Ada Windermeer'],
  ['a placeholder in brackets', typed('Dear [NAME],'), {}, 'placeholder', '[NAME]'],
  ['a placeholder in braces', typed('Dear {{first_name}},'), {}, 'placeholder', '{{first_name}}'],
  ['lorem ipsum', typed('Lorem ipsum dolor. Yes'), {}, 'placeholder', 'Lorem ipsum dolor'],
  [
    'a promise out of office hours',
    typed('Call us now.'),
    { sendings: [sending({ officeOpen: 'never' })] },
    'promise in office hours',
    'Call us now.',
  ],
  [
    'a link that is none',
    content([[{ kind: 'text', text: 'here', link: 'www.example' }]]),
    {},
    'no link',
    'www.example',
  ],
  [
    'a link that would run',
    content([[{ kind: 'text', text: 'here', link: 'javascript:alert(1)' }]]),
    {},
    'no link',
    'javascript',
  ],
  [
    'a button that leads nowhere',
    own({ id: 'b', kind: 'button', label: words`Go`, link: 'https://' }),
    {},
    'no link',
    'https://',
  ],
  [
    'a picture without words',
    own({ id: 'p', kind: 'picture', pictureId: 'pc_1', alternative: ' ' }),
    {},
    'no alternative text',
    'Picture',
  ],
  [
    'a passage that is gone',
    own({ id: 'p', kind: 'passage', passageId: 'ps_gone' }),
    {},
    'passage gone',
    'Passage',
  ],
  [
    'advertising in a service letter',
    own({ id: 'p', kind: 'facts', isAdvertising: true }),
    {},
    'advertising in a service letter',
    'Advertising',
  ],
  [
    'a promotional letter without address',
    content([], { class: 'promotional' }),
    { hasPostalAddress: false },
    'no postal address',
    'Postal address',
  ],
  [
    'a passage all sisters have',
    content([]),
    { sisters: [['ps_way'], ['ps_way', 'ps_x']] },
    'passage of all sisters',
    'The way',
  ],
]

describe('problems', () => {
  test.each(cases)('%s', (_, letter, against, code, about) => {
    const found = problemsOf(letter, { ...context, ...against })
    const own = found.filter((one) => one.code === code)
    expect(own).toHaveLength(1)
    expect(own[0]?.about).toContain(about)
    expect(own[0]?.why).toMatch(/[.:]/)
    expect(found).toHaveLength(1)
  })

  test('a time word names the sending for which it is wrong, and is not blamed where it is right', () => {
    const why = (daysAhead: number) =>
      problemsOf(typed('see you tomorrow'), { ...context, sendings: [sending({ daysAhead })] })[0]?.why
    expect(why(3)).toBe('“tomorrow” is wrong where “Before a lesson” sends it 3 days before, at 18:00.')
    expect(why(1)).toBe('A typed time word is wrong as soon as the message goes on another day.')
  })

  test('what is kept well is left in peace', () => {
    const fine = content([
      words`Hello ${field('contact.firstName', 'there')}, may I call on Mondays? In March we march.`,
      [{ kind: 'text', text: 'The page', link: 'https://kiteworks.example/a?b=c' }],
    ])
    expect(problemsOf(fine, context)).toEqual([])
    expect(problemsOf(typed('Call us now.'), { ...context, sendings: [sending()] })).toEqual([])
    expect(problemsOf(content([]), { ...context, sisters: [['ps_way'], []] })).toEqual([])
  })

  test.each(starterLetters.map((one) => [one.name, one] as const))(
    'the starter “%s” has none',
    (_, letter) => {
      expect(problemsOf(letter, context)).toEqual([])
    },
  )
})
