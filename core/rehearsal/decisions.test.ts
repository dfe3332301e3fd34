import { describe, expect, test } from '@jest/globals'
import { book, eve, mail, of, play, sendsOf, sequence, went } from './playing.ts'

const letter = {
  id: 'lt_1',
  name: 'Until then',
  moment: 'before',
  subject: [
    { kind: 'field', field: 'booking.service', ifMissing: { kind: 'hold' } },
    { kind: 'text', text: ' ' },
    { kind: 'field', field: 'booking.time', ifMissing: { kind: 'hold' } },
    { kind: 'field', field: 'booking.dayFromSending', ifMissing: { kind: 'hold' } },
  ],
  sections: [{ id: 'a', kind: 'signature' }],
}
const waiting = sequence('x', 'booking confirmed', [mail('eve', 'reminder', eve, { needsApproval: true })])
const plain = sequence('x', 'booking confirmed', [mail('eve', 'reminder', eve)])
const decide = (at: string, decision: string) =>
  of('decide', at, { sequenceId: 'sq_x', stepId: 'st_eve', decision })
const postpone = (at: string, to: string) => of('postpone', at, { sequenceId: 'sq_x', stepId: 'st_eve', to })
const move = (at: string, start: string, end: string) => of('move', at, { bookingId: 'bk_1', start, end })

describe('what was approved', () => {
  test('waits again when its booking moves, however little', () => {
    const acts = [
      book('2026-05-14T08:00'),
      decide('2026-05-15T08:00', 'approve'),
      move('2026-05-16T08:00', '2026-05-20T10:10', '2026-05-20T12:10'),
    ]
    const result = play([waiting], acts, '2026-05-17T09:00', { letters: [letter] })
    expect(sendsOf(result, 'eve').map(([state]) => state)).toEqual(['cancelled', 'waiting'])
  })

  test('goes with its time words filled in at sending: they are no facts that change', () => {
    const twice = [book('2026-05-14T08:00'), decide('2026-05-15T08:00', 'approve')]
    const result = play([waiting], twice, '2026-05-20T09:00', { letters: [letter] })
    expect(went(result)).toEqual([['eve', '2026-05-19T18:00']])
  })
})

describe('put off', () => {
  test('it goes then; a moved anchor voids that', () => {
    const acts = [book('2026-05-14T08:00'), postpone('2026-05-15T08:00', '2026-05-19T20:00')]
    expect(went(play([plain], acts, '2026-05-20T09:00'))).toEqual([['eve', '2026-05-19T20:00']])
    const moved = [...acts, move('2026-05-16T08:00', '2026-05-21T10:00', '2026-05-21T12:00')]
    expect(went(play([plain], moved, '2026-05-21T09:00'))).toEqual([['eve', '2026-05-20T18:00']])
  })

  test('not into the past, nor beyond its last useful moment', () => {
    const past = [book('2026-05-14T08:00'), postpone('2026-05-15T08:00', '2026-05-15T07:00')]
    expect(() => play([plain], past, '2026-05-16T09:00')).toThrow('Choose a moment that is still ahead.')
    const late = [book('2026-05-14T08:00'), postpone('2026-05-15T08:00', '2026-05-20T09:30')]
    expect(() => play([plain], late, '2026-05-16T09:00')).toThrow('That is after its last useful moment.')
  })
})

describe('held back', () => {
  test('a single message waits for approval and keeps waiting when planned anew', () => {
    const acts = [
      book('2026-05-14T08:00'),
      decide('2026-05-15T08:00', 'hold back'),
      of('client', '2026-05-16T08:00', { did: 'answered' }),
    ]
    expect(sendsOf(play([plain], acts, '2026-05-17T09:00'), 'eve')).toMatchObject([
      ['waiting', '2026-05-19T18:00', 'hold back'],
    ])
    const approved = [...acts, decide('2026-05-17T10:00', 'approve')]
    expect(went(play([plain], approved, '2026-05-20T09:00'))).toEqual([['eve', '2026-05-19T18:00']])
  })
})

test('held back beyond its moment and left out then by its condition, a repeat goes on from there', () => {
  const repeat = { every: { amount: 5, unit: 'hours' }, untilCondition: null, untilAnchor: null, atMost: 2 }
  const onlyIf = { field: 'client.tag', comparison: 'is', value: 'paid' }
  const held = sequence('x', 'booking confirmed', [
    mail('eve', 'confirmation', { kind: 'at once' }, { repeat, onlyIf }),
  ])
  const acts = [
    of('client', '2026-05-14T07:00', { did: 'tag added', name: 'paid' }),
    { act: 'switch', at: '2026-05-14T07:30', sequenceId: null, isOn: false },
    book('2026-05-14T08:00'),
    of('client', '2026-05-16T09:00', { did: 'tag removed', name: 'paid' }),
  ]
  expect(sendsOf(play([held], acts, '2026-05-16T10:00'), 'eve').map(([state]) => state)).toEqual([
    'skipped',
    'expected',
  ])
})

describe('a repeat whose anchor moves', () => {
  const due = { of: 'invoice due' }
  const repeating = (ifMoved: string) =>
    sequence('x', 'invoice issued', [
      mail(
        'pay',
        'payment',
        { kind: 'calendar', amount: 4, unit: 'days', direction: 'before', anchor: due, atTime: '09:00' },
        {
          ifMoved,
          repeat: {
            every: { amount: 2, unit: 'days' },
            untilCondition: null,
            untilAnchor: due,
            atMost: null,
          },
        },
      ),
    ])
  const acts = [
    of('issue invoice', '2026-05-14T09:00', { id: 'in_1', dueOn: '2026-05-20' }),
    of('set due date', '2026-05-17T09:00', { invoiceId: 'in_1', dueOn: '2026-05-26' }),
  ]

  test('“send again” starts its occurrences anew', () => {
    expect(went(play([repeating('send again')], acts, '2026-05-30T09:00'))).toEqual([
      ['pay', '2026-05-16T09:00'],
      ['pay', '2026-05-22T09:00'],
      ['pay', '2026-05-24T09:00'],
      ['pay', '2026-05-26T09:00'],
    ])
  })

  test('“leave” goes on from the last one that went', () => {
    expect(
      went(play([repeating('leave')], acts, '2026-05-30T09:00')).map(([, at]) => at?.slice(8, 10)),
    ).toEqual(['16', '18', '20', '22', '24', '26'])
  })
})
