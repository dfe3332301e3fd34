import { describe, expect, test } from '@jest/globals'
import type { Inline } from '../model/letter.ts'
import { exampleFacts as facts } from '../rehearsal/exampleFacts.ts'
import { sectionFromMail, valuesIn, withFields } from './fromMail.ts'

const found = (text: string) => valuesIn(text, facts, 'en').map(({ text: value, field }) => [value, field])
const plain = (nodes: readonly Inline[]) =>
  nodes.map((node) => (node.kind === 'text' ? node.text : `{${node.field}}`)).join('')

describe('values of a booking in a written mail', () => {
  test.each([
    ['on Saturday 16 May 2026', 'Saturday 16 May 2026', 'booking.date'],
    ['on Saturday, 16 May 2026', 'Saturday, 16 May 2026', 'booking.date'],
    ['on May 16, 2026', 'May 16, 2026', 'booking.date'],
    ['on 2026-05-16', '2026-05-16', 'booking.date'],
    ['am 16.05.2026', '16.05.2026', 'booking.date'],
    ['on 16 May', '16 May', 'booking.shortDate'],
    ['at 19:00 sharp', '19:00', 'booking.time'],
    ['at 7 pm', '7 pm', 'booking.time'],
    ['at 7:00pm', '7:00pm', 'booking.time'],
    ['um 19 Uhr', '19 Uhr', 'booking.time'],
    ['Dear Enno,', 'Enno', 'contact.firstName'],
    ['your Kite lesson', 'Kite lesson', 'booking.service'],
    ['yours, Ada Windermeer', 'Ada Windermeer', 'person.name'],
  ])('%s', (text, value, field) => {
    expect(found(text)).toEqual([[value, field]])
  })

  test('parts of longer words and of other numbers are none', () => {
    expect(found('Ennos Kite lessons, 119:00, 2019:005')).toEqual([])
  })

  test('an amount is found the ways it is written', () => {
    const invoice = {
      id: 'in_1',
      clientId: facts.client.id,
      bookingId: null,
      amountCents: 25_000,
      issuedAt: 0,
      dueOn: '2026-05-01',
      paidAt: null,
    }
    for (const text of ['€250.00', '250 €', 'EUR 250', '250,00 €']) {
      const values = valuesIn(`Pay ${text}, please`, { ...facts, invoice: { ...invoice } as never }, 'en')
      expect(values).toEqual([{ text, field: 'invoice.amount' }])
    }
  })

  test('chosen values become fields, the rest stays as it was typed', () => {
    const text = 'Dear Enno,\r\n\r\nwe meet at 19:00\non Saturday 16 May 2026. Until 19:00!'
    const values = valuesIn(text, facts, 'en').filter(({ field }) => field !== 'contact.firstName')
    const section = sectionFromMail(text, values, 'text')
    expect(section.kind === 'text' ? section.paragraphs.map(plain) : []).toEqual([
      'Dear Enno,',
      'we meet at {booking.time} on {booking.date}. Until {booking.time}!',
    ])
  })

  test('a field that can be missing asks what happens then', () => {
    const [first] = withFields('Enno', [{ text: 'Enno', field: 'contact.firstName' }])
    expect(first).toEqual({ kind: 'field', field: 'contact.firstName', ifMissing: { kind: 'undecided' } })
    const [date] = withFields('16 May', [{ text: '16 May', field: 'booking.shortDate' }])
    expect(date).toMatchObject({ ifMissing: { kind: 'hold' } })
  })
})
