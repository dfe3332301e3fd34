import { describe, expect, test } from '@jest/globals'
import {
  again,
  booked,
  did,
  forAll,
  happened,
  hours,
  mail,
  movedTo,
  next,
  offset,
  outcomes,
  sequence,
  type SmallWorld,
} from './smallWorlds.ts'

const every = { kind: 'every time', gap: null }
const onConfirmed = (steps: object[], part: object = {}) => sequence('q', 'booking confirmed', steps, part)
const onMoved = (...steps: object[]) =>
  sequence('m', 'booking moved', steps, { start: { on: 'booking moved', again: every } })
const change = mail('change', 'change', { kind: 'at once' })
const reminder = mail('r', 'reminder', offset(1, 'days', 'before', 'start'))
const weekdays = hours('08:00', '20:00', 'weekdays')
const paid = { field: 'client.tag', comparison: 'is', value: 'paid' }
const yearly = (daysBefore: number, atTime: string) => ({
  kind: 'yearly',
  label: 'birthday',
  daysBefore,
  atTime,
})
const birthday = (monthDay: string) => ({ namedDates: [{ label: 'birthday', monthDay, year: null }] })
const include = (at: string) => forAll('include', at, { sequenceId: 'sq_q' })
const waits = { needsApproval: true }

type Case = readonly [string, SmallWorld, Readonly<Record<string, readonly string[]>>]

function check(cases: readonly Case[]) {
  test.each(cases)('%s', (_name, world, expected) => {
    const sorted = Object.fromEntries(Object.entries(expected).map(([step, all]) => [step, all.toSorted()]))
    expect(outcomes(world)).toEqual(sorted)
  })
}

describe('a change undone while it settles counts as not having happened', () => {
  check([
    [
      'cancelled by mistake at closing time, taken back a minute later: the reminder comes in the morning',
      {
        hours: weekdays,
        sequences: [onConfirmed([reminder])],
        acts: [
          booked('05-11 09:00', '05-18 10:00', '05-18 12:00'),
          did('cancel', '05-15 19:59'),
          did('confirm', '05-15 20:00:30'),
        ],
        lookedAt: '05-19 09:00',
      },
      { r: ['sent 05-18 08:00'] },
    ],
    [
      'a change letter that waits for approval waits on, and is one',
      {
        sequences: [onMoved({ ...change, ...waits })],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00'),
          movedTo('05-12 10:00', '05-22 10:00'),
          did('cancel', '05-12 12:00'),
          did('confirm', '05-12 12:01'),
        ],
        lookedAt: '05-12 18:00',
      },
      { change: ['waiting 05-12 10:02'] },
    ],
    [
      'a second move taken back: what else the first one sends still goes',
      {
        sequences: [onMoved(change, mail('p', 'preparation', offset(1, 'days', 'before', 'start')))],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00'),
          movedTo('05-12 10:00', '05-22 10:00'),
          movedTo('05-13 10:00', '05-23 10:00'),
          movedTo('05-13 10:01', '05-22 10:00'),
        ],
        lookedAt: '05-22 09:00',
      },
      { change: ['sent 05-12 10:02'], p: ['cancelled', 'sent 05-21 10:00'] },
    ],
    [
      'a booking moved (and told by telephone), cancelled by mistake and taken back: one preparation',
      {
        sequences: [onMoved(mail('p', 'preparation', offset(1, 'days', 'before', 'start')))],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00'),
          movedTo('05-12 10:00', '05-22 10:00'),
          did('cancel', '05-13 12:00'),
          did('confirm', '05-13 12:01'),
        ],
        lookedAt: '05-22 09:00',
      },
      { p: ['sent 05-21 10:00'] },
    ],
    [
      'marked missed by mistake after the event, corrected within a minute: the follow-up goes',
      {
        sequences: [onConfirmed([mail('f', 'follow-up', offset(1, 'days', 'after', 'end'))])],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00'),
          did('miss', '05-20 13:00'),
          did('confirm', '05-20 13:01'),
        ],
        lookedAt: '05-23 09:00',
      },
      { f: ['sent 05-21 12:00'] },
    ],
    [
      'a sequence that stops when the booking is confirmed goes on: nothing was confirmed',
      {
        sequences: [
          onConfirmed([mail('f', 'follow-up', offset(1, 'days', 'after', 'end'))], {
            stops: [{ on: 'booking confirmed' }],
          }),
        ],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00'),
          did('cancel', '05-12 12:00'),
          did('confirm', '05-12 12:01'),
        ],
        lookedAt: '05-22 09:00',
      },
      { f: ['sent 05-21 12:00'] },
    ],
    [
      'a letter that waited for approval waits still, and goes when it is approved',
      {
        sequences: [onConfirmed([mail('o', 'payment', { kind: 'at once' }, waits)])],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00'),
          did('cancel', '05-12 12:00'),
          did('confirm', '05-12 12:01'),
          did('decide', '05-12 15:00', { sequenceId: 'sq_q', stepId: 'st_o', decision: 'approve' }),
        ],
        lookedAt: '05-13 09:00',
      },
      { o: ['sent 05-12 15:00'] },
    ],
    [
      'a tag put on and taken off within the minute starts nothing',
      {
        sequences: [sequence('q', 'tag added', [mail('p', 'confirmation', { kind: 'at once' })])],
        acts: [happened('05-11 09:00', 'tag added', 'x'), happened('05-11 09:01', 'tag removed', 'x')],
        lookedAt: '05-15 09:00',
      },
      {},
    ],
  ])
})

describe('a booking that moves', () => {
  check([
    [
      'by ten minutes on Sunday evening: Monday’s reminder keeps to the hours',
      {
        hours: weekdays,
        sequences: [onConfirmed([reminder])],
        acts: [booked('05-11 09:00', '05-19 08:05', '05-19 10:05'), movedTo('05-17 22:00', '05-19 07:55')],
        lookedAt: '05-20 09:00',
      },
      { r: ['cancelled', 'sent 05-18 08:00'] },
    ],
    [
      'while it is a request that is confirmed a minute later: the move is told',
      {
        sequences: [onMoved(change)],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00', 'requested'),
          movedTo('05-12 10:00', '05-22 10:00'),
          did('confirm', '05-12 10:01'),
        ],
        lookedAt: '05-12 18:00',
      },
      { change: ['sent 05-12 10:02'] },
    ],
    [
      'reminded, moved by two hours and told, then by ten minutes: the new reminder still goes',
      {
        hours: weekdays,
        sequences: [onConfirmed([reminder]), onMoved(change)],
        acts: [
          booked('05-04 09:00', '05-18 10:00', '05-18 12:00'),
          movedTo('05-16 12:00', '05-18 12:00'),
          movedTo('05-16 13:00', '05-18 11:50'),
        ],
        lookedAt: '05-18 11:00',
      },
      { r: ['sent 05-15 20:00', 'sent 05-18 08:00', 'cancelled'], change: ['sent 05-16 12:02'] },
    ],
    [
      'reminded, then so near that nothing is sent again: what is chained to the reminder goes',
      {
        sequences: [
          onConfirmed([
            mail('r', 'reminder', offset(3, 'days', 'before', 'start')),
            mail('p', 'preparation', next(1, 'days')),
          ]),
        ],
        acts: [booked('05-11 09:00', '05-20 10:00', '05-20 12:00'), movedTo('05-17 12:00', '05-19 10:00')],
        lookedAt: '05-18 12:00',
      },
      { r: ['sent 05-17 10:00'], p: ['sent 05-18 10:00'] },
    ],
    [
      'after the letter of fourteen days went: that of thirty days does not come after it',
      {
        sequences: [
          onConfirmed([
            mail('p30', 'preparation', offset(30, 'days', 'before', 'start')),
            mail('p14', 'preparation', offset(14, 'days', 'before', 'start')),
          ]),
        ],
        acts: [booked('05-05 09:00', '05-15 10:00', '05-15 12:00'), movedTo('05-06 10:00', '05-25 10:00')],
        lookedAt: '05-07 09:00',
      },
      { p14: ['sent 05-05 09:00'], p30: ['dropped', 'dropped'] },
    ],
    [
      'a reminder that is left and one that is sent again: the second goes for the new date',
      {
        sequences: [
          onConfirmed([
            mail('a', 'reminder', offset(26, 'hours', 'before', 'start'), { ifMoved: 'leave' }),
            mail('b', 'reminder', offset(1, 'days', 'before', 'start')),
          ]),
        ],
        acts: [
          booked('05-04 09:00', '05-13 23:00', '05-14 01:00'),
          movedTo('05-12 21:30', '05-20 23:00', '05-21 01:00'),
        ],
        lookedAt: '05-20 20:00',
      },
      { a: ['sent 05-12 20:00'], b: ['dropped', 'sent 05-19 20:00'] },
    ],
    [
      'a little: what was dropped beside a reminder that stays does not go in the night',
      {
        sequences: [
          onConfirmed([
            mail('a', 'reminder', offset(2, 'days', 'before', 'start'), again(2, 'hours', { atMost: 2 })),
          ]),
        ],
        acts: [booked('05-11 22:00', '05-14 07:00', '05-14 09:00'), movedTo('05-12 22:30', '05-14 07:05')],
        lookedAt: '05-13 09:00',
      },
      { a: ['sent 05-12 08:00', 'dropped', 'dropped'] },
    ],
    [
      'to another day, back, and to that day again after the preparation went: it does not go twice',
      {
        sequences: [onConfirmed([mail('p', 'preparation', offset(5, 'days', 'before', 'start'))])],
        acts: [
          booked('05-04 09:00', '05-12 10:00', '05-12 12:00'),
          movedTo('05-05 09:00', '05-13 10:00'),
          movedTo('05-06 09:00', '05-12 10:00'),
          movedTo('05-07 12:00', '05-13 10:00'),
        ],
        lookedAt: '05-13 09:00',
      },
      { p: ['cancelled', 'sent 05-07 10:00'] },
    ],
    [
      'ten minutes by mistake, corrected a little later: the reminder due meanwhile goes',
      {
        sequences: [onConfirmed([reminder])],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00'),
          movedTo('05-19 09:55', '05-20 10:10'),
          movedTo('05-19 10:05', '05-20 10:00'),
        ],
        lookedAt: '05-20 09:00',
      },
      { r: ['cancelled', 'sent 05-19 10:07'] },
    ],
  ])
})

describe('what hangs on other messages', () => {
  check([
    [
      'two reminders, one dropped: the step chained to it is planned',
      {
        hours: hours('07:00', '20:00'),
        sequences: [
          onConfirmed([
            mail('e', 'reminder', offset(3, 'hours', 'before', 'start')),
            mail('p', 'preparation', next(1, 'hours')),
            mail('c', 'reminder', offset(1, 'days', 'before', 'start', '18:00')),
          ]),
        ],
        acts: [booked('05-11 09:00', '05-20 09:30', '05-20 11:30')],
        lookedAt: '05-19 17:00',
      },
      { c: ['ready 05-19 18:00'], e: ['dropped'], p: ['ready 05-20 07:30'] },
    ],
    [
      'two letters wanted at one moment come late: the later step goes',
      {
        sequences: [
          onConfirmed([
            mail('a', 'preparation', offset(1, 'days', 'before', 'start')),
            mail('b', 'preparation', offset(24, 'hours', 'before', 'start')),
          ]),
        ],
        acts: [booked('05-19 12:00', '05-20 10:00', '05-20 12:00')],
        lookedAt: '05-20 09:00',
      },
      { a: ['dropped'], b: ['sent 05-19 12:00'] },
    ],
    [
      'promotional letters crowded apart: not in the night where the client’s booking is',
      {
        business: { promotionalGapHours: 0 },
        service: { placeZone: 'America/New_York' },
        sequences: [
          onConfirmed([
            mail('a', 'promotional', offset(1, 'hours', 'after', 'made')),
            mail('b', 'promotional', offset(2, 'hours', 'after', 'made')),
          ]),
        ],
        acts: [booked('05-11 16:00', '05-20 10:00', '05-20 12:00')],
        lookedAt: '05-14 09:00',
      },
      { a: ['sent 05-11 17:00'], b: ['sent 05-12 14:00'] },
    ],
    [
      'a promotional letter that ignores the sending hours goes at once',
      {
        sequences: [onConfirmed([mail('a', 'promotional', { kind: 'at once' }, { sendingHours: 'ignore' })])],
        acts: [booked('05-11 21:00', '05-20 10:00', '05-20 12:00')],
        lookedAt: '05-13 09:00',
      },
      { a: ['sent 05-11 21:00'] },
    ],
    [
      'an offer keeps its distance from a reminder that is sent again',
      {
        business: { promotionalGapHours: 24 },
        sequences: [
          onConfirmed([reminder, mail('o', 'promotional', offset(9, 'days', 'after', 'made', '09:00'))]),
        ],
        acts: [booked('05-04 09:00', '05-12 10:00', '05-12 12:00'), movedTo('05-11 12:00', '05-14 10:00')],
        lookedAt: '05-15 09:00',
      },
      { r: ['sent 05-11 10:00', 'sent 05-13 10:00'], o: ['sent 05-14 10:00'] },
    ],
    [
      'paused for two days: what is chained to the one that was missed counts from when it was found missed',
      {
        sequences: [
          onConfirmed([
            mail('m', 'payment', offset(1, 'days', 'after', 'made')),
            mail('f', 'payment', next(2, 'days')),
          ]),
        ],
        acts: [
          booked('05-11 09:00', '05-20 10:00', '05-20 12:00'),
          forAll('switch', '05-11 12:00', { sequenceId: 'sq_q', isOn: false }),
          forAll('switch', '05-13 09:00', { sequenceId: 'sq_q', isOn: true }),
        ],
        lookedAt: '05-18 09:00',
      },
      { m: ['missed'], f: ['sent 05-15 09:00'] },
    ],
  ])
})

describe('what comes again', () => {
  const chase = (timing: object, end: Parameters<typeof again>[2]) =>
    mail('c', 'payment', timing, again(2, 'days', end))
  check([
    [
      'a chase that is over before it began: the next step counts from then, however often one plans',
      {
        client: { tags: ['paid'] },
        sequences: [
          onConfirmed([
            chase(offset(1, 'days', 'after', 'made'), { until: paid, atMost: 3 }),
            mail('t', 'follow-up', next(2, 'days')),
          ]),
        ],
        acts: [
          booked('05-11 09:00', '05-30 10:00', '05-30 12:00'),
          happened('05-12 09:00', 'opened'),
          happened('05-13 08:00', 'opened'),
        ],
        lookedAt: '05-14 12:00',
      },
      { t: ['sent 05-13 09:00'] },
    ],
    [
      'monthly, and the first one went early because of a Sunday: the second keeps its date',
      {
        hours: weekdays,
        sequences: [
          onConfirmed([
            mail(
              'p',
              'preparation',
              offset(2, 'months', 'before', 'start'),
              again(1, 'months', { by: { of: 'booking start' } }),
            ),
          ]),
        ],
        acts: [booked('05-01 09:00', '07-17 10:00', '07-17 12:00')],
        lookedAt: '07-01 09:00',
      },
      { p: ['sent 05-15 20:00', 'sent 06-17 10:00'] },
    ],
    [
      'a daily reminder of the last days: no two at one moment before a weekend',
      {
        hours: hours('07:00', '20:00', 'weekdays'),
        sequences: [
          onConfirmed([
            mail('r', 'reminder', offset(3, 'days', 'before', 'start'), again(1, 'days', { atMost: 5 })),
          ]),
        ],
        acts: [booked('05-04 09:00', '05-18 07:00', '05-18 09:00')],
        lookedAt: '05-19 09:00',
      },
      { r: ['sent 05-15 07:00'] },
    ],
    [
      'daily at half past six, hours until six: every morning after',
      {
        hours: hours('08:00', '18:00'),
        sequences: [
          onConfirmed([
            mail(
              'c',
              'payment',
              offset(1, 'days', 'after', 'made', '18:30'),
              again(1, 'days', { atMost: 3 }),
            ),
          ]),
        ],
        acts: [booked('05-11 09:00', '05-30 10:00', '05-30 12:00')],
        lookedAt: '05-16 09:00',
      },
      { c: ['sent 05-13 08:00', 'sent 05-14 08:00', 'sent 05-15 08:00'] },
    ],
    [
      'the event is over: what was to come before it stays void, whatever happens next',
      {
        sequences: [
          onConfirmed(
            [mail('p', 'payment', offset(1, 'days', 'before', 'start'), again(2, 'days', { atMost: 4 }))],
            { stops: [{ on: 'event over' }] },
          ),
        ],
        acts: [booked('05-11 09:00', '05-20 10:00', '05-20 12:00'), happened('05-20 18:00', 'opened')],
        lookedAt: '05-25 09:00',
      },
      { p: ['sent 05-19 10:00', 'cancelled'] },
    ],
    [
      'a chase chained to a later step, over from the start: what follows waits for that step',
      {
        client: { tags: ['paid'] },
        sequences: [
          onConfirmed([
            mail('a', 'payment', offset(10, 'days', 'after', 'made')),
            chase(next(1, 'days'), { until: paid, atMost: 3 }),
            mail('t', 'follow-up', next(1, 'days')),
          ]),
        ],
        acts: [booked('05-11 09:00', '05-30 10:00', '05-30 12:00')],
        lookedAt: '05-20 12:00',
      },
      { a: ['ready 05-21 09:00'], t: ['expected'] },
    ],
    [
      'what a chase is for arrives while one is pending: that is void, and the next step counts from then',
      {
        sequences: [
          onConfirmed([
            chase(offset(1, 'days', 'after', 'made'), {
              until: { field: 'since the run started: form received', comparison: 'is', value: true },
              atMost: 5,
            }),
            mail('t', 'follow-up', next(1, 'days')),
          ]),
        ],
        acts: [booked('05-11 09:00', '05-30 10:00', '05-30 12:00'), happened('05-13 12:00', 'form received')],
        lookedAt: '05-15 09:00',
      },
      { c: ['cancelled', 'sent 05-12 09:00'], t: ['sent 05-14 12:00'] },
    ],
  ])
})

describe('yearly dates', () => {
  const onDate = (step: object) => [sequence('q', 'date known', [step])]
  check([
    [
      'a birthday that has just passed when the sequence takes somebody in: next year’s is planned',
      {
        client: birthday('05-11'),
        sequences: onDate(mail('b', 'occasion', yearly(0, '09:00'))),
        acts: [include('05-11 12:00')],
        lookedAt: '05-12 09:00',
      },
      { b: ['dropped', 'ready 2027-05-11 09:00'] },
    ],
    [
      'an offer for the day before a birthday does not come after that day',
      {
        hours: weekdays,
        client: birthday('05-18'),
        sequences: onDate(mail('b', 'promotional', yearly(1, '22:00'))),
        acts: [include('05-11 12:00')],
        lookedAt: '05-19 09:00',
      },
      { b: ['sent 05-15 20:00', 'ready 2027-05-17 20:00'] },
    ],
    [
      'moved off a Sunday it keeps its time of day on the client’s clock',
      {
        hours: weekdays,
        client: { zone: 'America/New_York', ...birthday('05-17') },
        sequences: onDate(mail('b', 'promotional', yearly(0, '09:00'))),
        acts: [include('05-11 12:00')],
        lookedAt: '05-19 09:00',
      },
      { b: ['sent 05-18 15:00', 'ready 2027-05-17 15:00'] },
    ],
  ])
})

describe('at one instant facts come first', () => {
  check([
    [
      'cancelled in the very minute a reminder is due: it does not go',
      {
        sequences: [onConfirmed([reminder])],
        acts: [booked('05-11 09:00', '05-20 10:00', '05-20 12:00'), did('cancel', '05-19 10:00')],
        lookedAt: '05-20 09:00',
      },
      { r: ['cancelled'] },
    ],
    [
      'paid in the very minute the reminder to pay is due: it does not go',
      {
        sequences: [
          sequence(
            'q',
            'invoice issued',
            [mail('a', 'payment', offset(3, 'days', 'before', 'due', '09:00'))],
            {
              stops: [{ on: 'invoice paid' }],
            },
          ),
        ],
        acts: [
          did('issue invoice', '05-01 09:00', { id: 'in_1', dueOn: '2026-05-15' }),
          did('pay', '05-12 09:00', { invoiceId: 'in_1' }),
        ],
        lookedAt: '05-30 09:00',
      },
      { a: ['cancelled'] },
    ],
  ])
})
