import { describe, expect, test } from '@jest/globals'
import type { Letter } from '../model/letter.ts'
import {
  at,
  exampleBooking,
  exampleBusiness,
  exampleClient,
  examplePerson,
  exampleService,
} from '../rehearsal/exampleBusiness.ts'
import { starterLetters } from '../sequences/starters.ts'
import { realZones } from '../time/realZones.ts'
import { field, words } from './authoring.ts'
import { dayFromSending, type MergeFacts } from './fields.ts'
import { mergeLetter } from './merge.ts'
import { escapeHtml, renderHtml, renderText } from './render.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const zone = realZones.zone('Europe/Berlin')
const contact = exampleClient.contacts[0] ?? {
  id: '',
  firstName: '',
  lastName: '',
  email: null,
  phone: '',
  isPrimary: true,
}

const facts: MergeFacts = {
  business: exampleBusiness,
  client: exampleClient,
  contact,
  booking: exampleBooking(moment('2026-05-16 19:00'), moment('2026-05-14 07:40')),
  service: exampleService,
  personInCharge: examplePerson,
  zone,
  sendingAt: moment('2026-05-15 18:00'),
}

const letterOf = (...paragraphs: Letter['subject'][]): Letter => ({
  id: 'lt_x',
  name: 'Test',
  moment: 'before',
  version: 1,
  subject: words`About ${field('contact.firstName', 'you')}`,
  sections: [{ kind: 'text', paragraphs }],
})

function merged(letter: Letter, of: MergeFacts = facts) {
  const outcome = mergeLetter(letter, of)
  if (!outcome.ok) throw new Error(outcome.missing.join())
  return outcome.letter
}

describe('a letter', () => {
  test('is filled for its recipient, in both parts', () => {
    const [confirmation] = starterLetters
    if (!confirmation) throw new Error('no starter letter')
    const letter = merged(confirmation)
    const values = [
      'Enno',
      'Kite lesson',
      'Saturday 16 May 2026',
      '19:00',
      'South beach',
      '2 people',
      'Ada Windermeer',
    ]
    for (const value of values) {
      expect(renderText(letter)).toContain(value)
      expect(renderHtml(letter)).toContain(value)
    }
  })

  test('reads well as plain text', () => {
    const [, reminder] = starterLetters
    if (!reminder) throw new Error('no starter letter')
    expect(renderText(merged(reminder))).toBe(`Hello Enno,

we are looking forward to seeing you tomorrow, Saturday 16 May 2026, at 19:00.

What:  Kite lesson
When:  Saturday 16 May 2026, 19:00 to 21:00
Where: South beach
For:   2 people

Ada Windermeer
Kiteworks
+49 000 5550100
Kiteworks, Dune Road 1, 00000 Sandby
`)
  })

  test('never greets with nothing: a missing first name has its substitute', () => {
    const [confirmation] = starterLetters
    if (!confirmation) throw new Error('no starter letter')
    const text = renderText(merged(confirmation, { ...facts, contact: { ...contact, firstName: '' } }))
    expect(text).toMatch(/^Hello and good day,/)
  })

  test('is held when a field without substitute has no value, and names the field', () => {
    const letter = letterOf(words`Call ${field('business.phone')}`)
    const outcome = mergeLetter(letter, { ...facts, business: { ...exampleBusiness, phone: ' ' } })
    expect(outcome).toEqual({ ok: false, missing: ['business.phone'] })
  })

  test('is signed by the business where nobody is in charge', () => {
    const [confirmation] = starterLetters
    if (!confirmation) throw new Error('no starter letter')
    expect(renderText(merged(confirmation, { ...facts, personInCharge: null }))).not.toContain('Ada')
  })

  test('can have headings, dividers and emphasis', () => {
    const letter = merged({
      ...letterOf(),
      sections: [
        { kind: 'heading', content: words`Soon` },
        { kind: 'text', paragraphs: [[{ kind: 'text', text: 'Bring a hat', strong: true }]] },
        { kind: 'divider' },
      ],
    })
    expect(renderHtml(letter)).toMatch(/<h1[^>]*>Soon<\/h1>[\s\S]*<strong>Bring a hat<\/strong>[\s\S]*<hr/)
    expect(renderText(letter)).toBe(`Soon\n\nBring a hat\n\n${'-'.repeat(40)}\n`)
  })
})

describe('values that could do harm', () => {
  const harmful = [
    '<script>alert(1)</script>',
    '"><img src=x onerror=alert(1)>',
    "O'Brien & Söhne",
    '🎈'.repeat(50),
  ]

  test.each(harmful)('%s stays text', (value) => {
    const letter = merged(letterOf(words`Dear ${field('contact.firstName', 'you')}`), {
      ...facts,
      contact: { ...contact, firstName: value },
    })
    const html = renderHtml(letter)
    expect(html).toContain(escapeHtml(value))
    expect(html).not.toMatch(/<script|<img/)
    expect(renderText(letter)).toContain(value)
  })

  test('line breaks and control characters cannot enter the subject', () => {
    const letter = merged(letterOf(), {
      ...facts,
      contact: { ...contact, firstName: 'A\r\nBcc: x@y.example\u2028\u0007' },
    })
    expect(letter.subject).toBe('About A Bcc: x@y.example')
  })
})

describe('words that depend on the moment of sending', () => {
  const event = moment('2026-05-16 00:30')
  test.each([
    ['2026-05-16 00:10', 'today'],
    ['2026-05-15 23:59', 'tomorrow'],
    ['2026-05-15 00:00', 'tomorrow'],
    ['2026-05-14 23:59', 'this Saturday'],
    ['2026-05-10 09:00', 'this Saturday'],
    ['2026-05-09 09:00', 'on Saturday 16 May 2026'],
    ['2026-05-17 09:00', 'on Saturday 16 May 2026'],
  ])('sent %s it says %s', (sending, expected) => {
    expect(dayFromSending(zone, moment(sending), event)).toBe(expected)
  })

  test('"tomorrow" is counted on the clock of the place', () => {
    const azores = realZones.zone('Atlantic/Azores')
    const late = moment('2026-05-16 01:30')
    expect(dayFromSending(zone, late, moment('2026-05-17 02:30'))).toBe('tomorrow')
    expect(dayFromSending(azores, late, moment('2026-05-17 01:30'))).toBe('tomorrow')
    expect(dayFromSending(azores, late, moment('2026-05-16 02:30'))).toBe('tomorrow')
  })
})
