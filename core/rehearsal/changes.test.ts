import { describe, expect, test } from '@jest/globals'
import { atOnce, book, eve, every, mail, of, play, sendsOf, sequence, went } from './playing.ts'

const around = sequence('around', 'booking confirmed', [
  mail('confirm', 'confirmation', atOnce),
  mail('eve', 'reminder', eve),
])
const moved = sequence('moved', 'booking moved', [mail('moved', 'change', atOnce)], {
  start: { on: 'booking moved', again: every },
})
const cancelled = sequence('cancelled', 'booking cancelled', [
  mail('sorry', 'cancellation', atOnce),
  mail('back', 'follow-up', { kind: 'after previous', amount: 3, unit: 'days', atTime: null }),
])
const all = [around, moved, cancelled]
const move = (at: string, start: string, end: string) => of('move', at, { bookingId: 'bk_1', start, end })
const ids = (result: Parameters<typeof went>[0]) => went(result).map(([id]) => id)

describe('a cancellation undone while it settles', () => {
  const acts = [book('2026-05-14T08:00'), of('cancel', '2026-05-15T09:00'), of('confirm', '2026-05-15T09:01')]

  test('counts as not having happened', () => {
    const result = play(all, acts, '2026-05-25T12:00')
    expect(went(result)).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['eve', '2026-05-19T18:00'],
    ])
    expect(result.runs).toMatchObject([{ sequenceId: 'sq_around', state: 'running', stopped: null }])
  })

  test('what was due meanwhile goes at the first open moment, up to its bound', () => {
    const dueMeanwhile = [
      book('2026-05-14T08:00'),
      of('cancel', '2026-05-19T17:59'),
      of('confirm', '2026-05-19T18:00:30'),
    ]
    expect(went(play(all, dueMeanwhile, '2026-05-25T12:00'))).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['eve', '2026-05-19T18:01'],
    ])
  })

  test('by a move it is a move', () => {
    const byMove = [
      book('2026-05-14T08:00'),
      of('cancel', '2026-05-15T09:00'),
      move('2026-05-15T09:01', '2026-05-22T10:00', '2026-05-22T12:00'),
    ]
    expect(went(play(all, byMove, '2026-05-25T12:00'))).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['moved', '2026-05-15T09:02'],
      ['eve', '2026-05-21T18:00'],
    ])
  })

  test('of a request that is confirmed instead: confirmed, with all its messages', () => {
    const request = [
      book('2026-05-14T08:00', 'requested'),
      of('cancel', '2026-05-15T09:00'),
      of('confirm', '2026-05-15T09:01'),
    ]
    expect(ids(play(all, request, '2026-05-25T12:00'))).toEqual(['confirm', 'eve'])
  })
})

describe('made again', () => {
  test('confirmed after the cancellation has settled: new runs, and those of the cancellation stop', () => {
    const acts = [
      book('2026-05-14T08:00'),
      of('cancel', '2026-05-15T09:00'),
      of('confirm', '2026-05-16T10:00'),
    ]
    const result = play(all, acts, '2026-05-25T12:00')
    expect(went(result)).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['sorry', '2026-05-15T09:02'],
      ['confirm', '2026-05-16T10:00'],
      ['eve', '2026-05-19T18:00'],
    ])
    expect(sendsOf(result, 'back')).toMatchObject([['cancelled', '2026-05-18T09:02', 'stopped']])
  })

  test('moved ahead after that: no message about a move, but a new confirmation', () => {
    const acts = [
      book('2026-05-14T08:00'),
      of('cancel', '2026-05-15T09:00'),
      move('2026-05-16T10:00', '2026-05-22T10:00', '2026-05-22T12:00'),
    ]
    expect(went(play(all, acts, '2026-05-25T12:00'))).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['sorry', '2026-05-15T09:02'],
      ['confirm', '2026-05-16T10:00'],
      ['eve', '2026-05-21T18:00'],
    ])
  })

  test('confirmed with its start past, only the status changes and nothing starts', () => {
    const acts = [book('2026-05-14T08:00'), of('miss', '2026-05-20T11:00'), of('confirm', '2026-05-20T13:00')]
    const missed = sequence('missed', 'booking missed', [
      mail('where', 'follow-up', { kind: 'after previous', amount: 1, unit: 'days', atTime: null }),
    ])
    const result = play([...all, missed], acts, '2026-05-25T12:00')
    expect(ids(result)).toEqual(['confirm', 'eve'])
    expect(sendsOf(result, 'where')).toMatchObject([['cancelled', '2026-05-21T11:02', 'stopped']])
  })

  test('a completed booking moved to a time ahead is confirmed again', () => {
    const experience = sequence('how', 'booking completed', [
      mail('how', 'follow-up', { kind: 'after previous', amount: 1, unit: 'days', atTime: null }),
    ])
    const acts = [book('2026-05-14T08:00'), move('2026-05-21T09:00', '2026-05-26T10:00', '2026-05-26T12:00')]
    const result = play([around, moved, experience], acts, '2026-05-30T12:00')
    expect(went(result)).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['eve', '2026-05-19T18:00'],
      ['moved', '2026-05-21T09:02'],
      ['how', '2026-05-22T08:00'],
      ['eve', '2026-05-25T18:00'],
    ])
  })
})

describe('how far a booking has moved', () => {
  test('is measured from what the client was last told, not from move to move', () => {
    const acts = [
      book('2026-05-14T08:00'),
      move('2026-05-15T09:00', '2026-05-20T10:10', '2026-05-20T12:10'),
      move('2026-05-15T10:00', '2026-05-20T10:20', '2026-05-20T12:20'),
      move('2026-05-15T11:00', '2026-05-20T10:30', '2026-05-20T12:30'),
    ]
    // 10 minutes: too small. 20 from what was told: told. 10 from that: too small again.
    expect(went(play(all, acts, '2026-05-25T12:00'))).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['moved', '2026-05-15T10:02'],
      ['eve', '2026-05-19T18:00'],
    ])
  })

  test.each([
    ['10:14', ['confirm']],
    ['10:15', ['confirm', 'moved']],
  ])('fifteen minutes are the first that are told: moved from 10:00 to %s', (start, told) => {
    const acts = [
      book('2026-05-14T08:00'),
      move('2026-05-15T09:00', `2026-05-20T${start}`, '2026-05-20T12:00'),
    ]
    expect(ids(play(all, acts, '2026-05-16T12:00'))).toEqual(told)
  })

  const atThree = { ...book('2026-05-14T08:00'), start: '2026-05-20T15:00', end: '2026-05-20T17:00' }
  const hoursBefore = {
    kind: 'elapsed',
    amount: 3,
    unit: 'hours',
    direction: 'before',
    anchor: { of: 'booking start' },
  }
  const call = sequence('call', 'booking confirmed', [mail('call', 'reminder', hoursBefore)])

  test.each([
    ['15:14', [['call', '2026-05-20T12:00']]],
    [
      '15:15',
      [
        ['call', '2026-05-20T12:00'],
        ['call', '2026-05-20T12:15'],
      ],
    ],
  ])('and the first that send a reminder again: moved from 15:00 to %s', (start, calls) => {
    const acts = [atThree, move('2026-05-20T12:05', `2026-05-20T${start}`, '2026-05-20T17:00')]
    expect(went(play([call], acts, '2026-05-20T13:00'))).toEqual(calls)
  })

  test.each([
    ['14:56', [['call', '2026-05-20T11:59']]],
    ['14:55', []],
  ])('a step of fifteen minutes is none too small, though it ends near what was told: %s', (start, calls) => {
    const acts = [
      atThree,
      move('2026-05-20T09:00', '2026-05-20T15:10', '2026-05-20T17:10'),
      move('2026-05-20T11:57', `2026-05-20T${start}`, '2026-05-20T17:00'),
    ]
    expect(went(play([call], acts, '2026-05-20T13:00'))).toEqual(calls)
  })

  test('the larger change of start and end counts', () => {
    const longer = [
      book('2026-05-14T08:00'),
      move('2026-05-15T09:00', '2026-05-20T10:00', '2026-05-20T14:00'),
    ]
    expect(ids(play(all, longer, '2026-05-16T12:00'))).toEqual(['confirm', 'moved'])
  })

  test('by a small move a send whose moment was still ahead is not late', () => {
    const hour = {
      kind: 'elapsed',
      amount: 3,
      unit: 'hours',
      direction: 'before',
      anchor: { of: 'booking start' },
    }
    const short = sequence('short', 'booking confirmed', [mail('three', 'reminder', hour)])
    const acts = [
      { ...book('2026-05-14T08:00'), start: '2026-05-20T13:00', end: '2026-05-20T15:00' },
      move('2026-05-20T09:55', '2026-05-20T12:50', '2026-05-20T14:50'),
    ]
    expect(went(play([short], acts, '2026-05-20T12:00'))).toEqual([['three', '2026-05-20T09:57']])
    const large = [acts[0] ?? {}, move('2026-05-20T09:55', '2026-05-20T12:30', '2026-05-20T14:30')]
    expect(sendsOf(play([short], large, '2026-05-20T12:00'), 'three').map(([state]) => state)).toEqual([
      'dropped',
      'cancelled',
    ])
  })

  test('a further move voids what has not gone about the first', () => {
    const twoSteps = sequence(
      'moved',
      'booking moved',
      [
        mail('first', 'change', { kind: 'after previous', amount: 1, unit: 'hours', atTime: null }),
        mail('second', 'change', { kind: 'after previous', amount: 5, unit: 'hours', atTime: null }),
      ],
      { start: { on: 'booking moved', again: every } },
    )
    const far = [
      book('2026-05-14T08:00'),
      move('2026-05-15T09:00', '2026-05-21T10:00', '2026-05-21T12:00'),
      move('2026-05-15T12:00', '2026-05-22T10:00', '2026-05-22T12:00'),
    ]
    expect(ids(play([around, twoSteps], far, '2026-05-16T12:00'))).toEqual([
      'confirm',
      'first',
      'first',
      'second',
    ])
    const near = [
      far[0] ?? {},
      far[1] ?? {},
      move('2026-05-15T12:00', '2026-05-21T10:05', '2026-05-21T12:05'),
    ]
    expect(ids(play([around, twoSteps], near, '2026-05-16T12:00'))).toEqual(['confirm', 'first', 'second'])
    // At the threshold it is a move: the second message about the first one is void.
    const just = [...near.slice(0, 2), move('2026-05-15T12:00', '2026-05-21T10:15', '2026-05-21T12:15')]
    expect(went(play([around, twoSteps], just, '2026-05-16T12:00')).map(([, at]) => at)).toEqual([
      '2026-05-14T08:00',
      '2026-05-15T10:02',
      '2026-05-15T13:02',
      '2026-05-15T18:02',
    ])
  })

  test('“now” ends the settle time', () => {
    const acts = [
      book('2026-05-14T08:00'),
      move('2026-05-15T09:00', '2026-05-21T10:00', '2026-05-21T12:00'),
      of('settle now', '2026-05-15T09:00:20'),
    ]
    expect(went(play(all, acts, '2026-05-16T12:00'))[1]).toEqual(['moved', '2026-05-15T09:00'])
  })
})

describe('what a cancellation stops', () => {
  const due = {
    kind: 'calendar',
    amount: 1,
    unit: 'days',
    direction: 'before',
    anchor: { of: 'invoice due' },
    atTime: '09:00',
  }
  const invoice = sequence('pay', 'invoice issued', [mail('pay', 'payment', due)])
  const issued = (isFee: boolean) =>
    of('issue invoice', '2026-05-14T09:00', { id: 'in_1', bookingId: 'bk_1', dueOn: '2026-05-18', isFee })

  test.each([
    [false, ['sorry']],
    [true, ['sorry', 'pay']],
  ])('the runs of its invoices, unless it is a fee (%s)', (isFee, expected) => {
    const acts = [book('2026-05-14T08:00'), issued(isFee), of('cancel', '2026-05-15T09:00')]
    expect(
      ids(
        play(
          [invoice, sequence('c', 'booking cancelled', [mail('sorry', 'cancellation', atOnce)])],
          acts,
          '2026-05-25T12:00',
        ),
      ),
    ).toEqual(expected)
  })
})

describe('further stop rules', () => {
  const daily = (stops: object[]) =>
    sequence(
      'daily',
      'booking confirmed',
      [
        mail('daily', 'promotional', { kind: 'after previous', amount: 1, unit: 'days', atTime: null }),
        mail('more', 'follow-up', { kind: 'after previous', amount: 1, unit: 'days', atTime: null }),
      ],
      { stops },
    )

  test('opting out', () => {
    const acts = [book('2026-05-14T08:00'), of('client', '2026-05-15T12:00', { did: 'opted out' })]
    expect(ids(play([daily([{ on: 'opted out' }])], acts, '2026-05-25T12:00'))).toEqual(['daily'])
  })

  test('a person’s word', () => {
    const acts = [book('2026-05-14T08:00'), of('stop', '2026-05-15T12:00', { sequenceId: 'sq_daily' })]
    const result = play([daily([])], acts, '2026-05-25T12:00')
    expect(ids(result)).toEqual(['daily'])
    expect(result.runs[0]?.stoppedReason).toBe('A person stopped it.')
  })

  test('the event over voids what was to come before it, and nothing after it', () => {
    const steps = [
      mail('eve', 'reminder', eve, { needsApproval: true }),
      mail(
        'pay',
        'payment',
        {
          kind: 'calendar',
          amount: 0,
          unit: 'days',
          direction: 'before',
          anchor: { of: 'booking end' },
          atTime: null,
        },
        { lead: { amount: 0, unit: 'days' }, needsApproval: true },
      ),
      mail('after', 'follow-up', {
        kind: 'calendar',
        amount: 1,
        unit: 'days',
        direction: 'after',
        anchor: { of: 'booking end' },
        atTime: null,
      }),
    ]
    const over = sequence('over', 'booking confirmed', steps, { stops: [{ on: 'event over' }] })
    const result = play([over], [book('2026-05-14T08:00')], '2026-05-25T12:00')
    expect(sendsOf(result, 'eve')[0]).toMatchObject(['cancelled', '2026-05-19T18:00', 'event over'])
    expect(ids(result)).toEqual(['after'])
  })
})

describe('a sequence that goes live while a change settles', () => {
  const since = (liveSince: string) => [around, { ...moved, liveSince }]
  const acts = [book('2026-05-14T08:00'), move('2026-05-15T09:00', '2026-05-22T10:00', '2026-05-22T12:00')]

  test('does not start: the act was before, only its settling ended after', () => {
    expect(ids(play(since('2026-05-15T09:01'), acts, '2026-05-25T12:00'))).not.toContain('moved')
  })

  test('starts where the act came after', () => {
    expect(ids(play(since('2026-05-15T08:59'), acts, '2026-05-25T12:00'))).toContain('moved')
  })
})
