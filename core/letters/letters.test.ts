import { describe, expect, test } from '@jest/globals'
import type { Letter, LetterContent } from '../model/letter.ts'
import { at, exampleBusiness } from '../rehearsal/exampleBusiness.ts'
import { exampleFacts } from '../rehearsal/exampleFacts.ts'
import { starterLetters } from '../sequences/starterLetters.ts'
import { realZones } from '../time/realZones.ts'
import { dayAt } from '../time/zones.ts'
import { field, optional, words, writtenLetter } from './authoring.ts'
import { contentOf, letterWith } from './content.ts'
import type { MergeFacts } from './fields.ts'
import { escapeHtml } from './html.ts'
import { dayWords } from './language.ts'
import { withPersonalLine } from './personalLine.ts'
import { mergeLetter, type MergedLetter } from './merge.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const zone = realZones.zone('Europe/Berlin')
const facts: MergeFacts = exampleFacts
const { contact } = facts

const renderText = ({ text }: MergedLetter) => text
const renderHtml = ({ html }: MergedLetter) => html

const letterOf = (...paragraphs: Letter['subject'][]): Letter =>
  writtenLetter({
    id: 'lt_x',
    name: 'Test',
    moment: 'before',
    subject: words`About ${field('contact.firstName', 'you')}`,
    sections: [{ kind: 'text', paragraphs }],
  })

function merged(letter: Letter, of: MergeFacts = facts) {
  const outcome = mergeLetter(letter, [], of)
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
    const outcome = mergeLetter(letter, [], { ...facts, business: { ...exampleBusiness, phone: ' ' } })
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
        { id: 'a', kind: 'heading', content: words`Soon` },
        { id: 'b', kind: 'text', paragraphs: [[{ kind: 'text', text: 'Bring a hat', strong: true }]] },
        { id: 'c', kind: 'divider' },
      ],
    })
    expect(renderHtml(letter)).toMatch(/<h1[^>]*>Soon<\/h1>[\s\S]*<strong>Bring a hat<\/strong>[\s\S]*<hr/)
    expect(renderText(letter)).toBe(`Soon\n\nBring a hat\n\n${'-'.repeat(40)}\n`)
  })
})

describe('a button without words', () => {
  test.each(['field:link.booking', 'https://kiteworks.example/'])('that leads to %s is not there', (link) => {
    const label = words`See ${optional('contact.firstName')}`
    const letter = { ...letterOf(), sections: [{ id: 'b', kind: 'button' as const, label, link }] }
    const empty = merged(letter, { ...facts, contact: { ...contact, firstName: '' } })
    expect(renderText(empty)).toBe('\n')
    expect(renderHtml(empty)).not.toContain('<a ')
  })
})

describe('a missing value whose sentence is left out', () => {
  const nobody = { ...facts, contact: { ...contact, firstName: '' } }

  test('takes the whole sentence with it, and no other', () => {
    const letter = letterOf(words`Good day. We greet ${optional('contact.firstName')} warmly. See you soon.`)
    expect(renderText(merged(letter, nobody))).toBe('Good day. See you soon.\n')
    expect(renderHtml(merged(letter, nobody))).toContain('>Good day. See you soon.</p>')
    expect(renderText(merged(letter))).toBe('Good day. We greet Enno warmly. See you soon.\n')
  })

  test('takes a paragraph with it where nothing else is in it', () => {
    const letter = letterOf(words`Dear ${optional('contact.firstName')},`, words`see you soon.`)
    expect(renderText(merged(letter, nobody))).toBe('see you soon.\n')
    expect(renderHtml(merged(letter, nobody))).not.toMatch(/<p[^>]*>\s*<\/p>/)
  })
})

describe('links that are fields', () => {
  const link = facts.actUrls.cancel

  test('say in both parts what they are for', () => {
    const letter = merged(letterOf(words`Here: ${field('link.cancel')}`))
    expect(renderHtml(letter)).toContain(
      `<a class="vl" href="${link}" style="color:#5A2D6E">Cancel the booking</a>`,
    )
    expect(renderText(letter)).toBe(`Here: Cancel the booking: ${link}\n`)
  })

  test('make buttons that lead to each client’s own page, and hold the message where there is none', () => {
    const button = { id: 'b', kind: 'button', label: words`See it`, link: 'field:link.booking' } as const
    const letter = { ...letterOf(), sections: [{ ...button, label: [...button.label] }] }
    expect(renderHtml(merged(letter))).toMatch(new RegExp(`<a href="${facts.bookingUrl}"[^>]*>See it</a>`))
    expect(renderText(merged(letter))).toBe(`See it: ${facts.bookingUrl}\n`)
    expect(mergeLetter(letter, [], { ...facts, bookingUrl: '' })).toEqual({
      ok: false,
      missing: ['link.booking'],
    })
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
    expect(dayWords('en', dayAt(zone, moment(sending)), dayAt(zone, event))).toBe(expected)
  })

  test('"tomorrow" is counted on the clock of the place', () => {
    const azores = realZones.zone('Atlantic/Azores')
    const late = moment('2026-05-16 01:30')
    expect(dayWords('en', dayAt(zone, late), dayAt(zone, moment('2026-05-17 02:30')))).toBe('tomorrow')
    expect(dayWords('en', dayAt(azores, late), dayAt(azores, moment('2026-05-17 01:30')))).toBe('tomorrow')
    expect(dayWords('en', dayAt(azores, late), dayAt(azores, moment('2026-05-16 02:30')))).toBe('tomorrow')
  })
})

describe('small things that a reader sees', () => {
  const withSections = (sections: LetterContent['sections']) =>
    letterWith({ ...contentOf(letterOf(words`Hello`)), sections })

  test('a booking over midnight says on which day it ends', () => {
    const letter = withSections([{ id: 'f', kind: 'facts' }])
    const booking = facts.booking && { ...facts.booking, endAt: facts.booking.startAt + 9 * 3_600_000 }
    const saysNextDay = /19:00 to Sunday 17 May 2026, 04:00/
    expect(merged(letter, { ...facts, booking }).text).toMatch(saysNextDay)
    expect(merged(letter).text).not.toMatch(/to \w+ \d+ \w+ \d{4},/)
  })

  test('each line of a personal line stands for itself', () => {
    const letter = withSections([{ id: 't', kind: 'text', paragraphs: [words`Hello,`, words`see you.`] }])
    const own = withPersonalLine(letter, 'Bring a hat.\n\nAnd gloves. ')
    expect(merged(own).text).toContain('Hello,\n\nBring a hat.\n\nAnd gloves.\n\nsee you.')
  })
})
