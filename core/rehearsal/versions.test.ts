import { describe, expect, test } from '@jest/globals'
import { atOnce, base, book, eve, mail, of, play, sendsOf, sequence, went } from './playing.ts'

const days = (amount: number, atTime = '18:00') => ({ ...eve, amount, atTime })
const three = {
  kind: 'elapsed',
  amount: 3,
  unit: 'hours',
  direction: 'before',
  anchor: { of: 'booking start' },
}
const confirm = mail('confirm', 'confirmation', atOnce)
const around = sequence('x', 'booking confirmed', [confirm, mail('eve', 'reminder', days(1))])
const change = (at: string, steps: object[], movesRunning = true) => ({
  act: 'change sequence',
  at,
  sequenceId: 'sq_x',
  start: { on: 'booking confirmed' },
  steps,
  stops: [],
  movesRunning,
})
const turn = (at: string, isOn: boolean, sequenceId: string | null = 'sq_x') => ({
  act: 'switch',
  at,
  sequenceId,
  isOn,
})

describe('a live sequence changed', () => {
  const later = [confirm, mail('eve', 'reminder', days(1, '19:00')), mail('three', 'reminder', three)]

  test('running runs keep their version, new ones have the new one', () => {
    const acts = [
      book('2026-05-14T08:00'),
      change('2026-05-15T08:00', later, false),
      { ...book('2026-05-15T09:00', 'confirmed', 'bk_2') },
    ]
    const result = play([around], acts, '2026-05-20T10:00')
    expect(result.runs.map(({ version }) => version)).toEqual([1, 2])
    expect(went(result).slice(2)).toEqual([
      ['eve', '2026-05-19T18:00'],
      ['eve', '2026-05-19T19:00'],
    ])
  })

  test('moved along, they follow the new timings and get the new steps', () => {
    const result = play(
      [around],
      [book('2026-05-14T08:00'), change('2026-05-15T08:00', later)],
      '2026-05-20T10:00',
    )
    expect(went(result)).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['eve', '2026-05-19T19:00'],
    ])
    expect(sendsOf(result, 'three')).toMatchObject([['dropped', null, 'two reminders']])
  })

  test('a timing that changed counts from now: what it makes late is late', () => {
    const early = [confirm, mail('eve', 'reminder', days(6))]
    const result = play(
      [around],
      [book('2026-05-14T08:00'), change('2026-05-15T08:00', early)],
      '2026-05-20T10:00',
    )
    expect(sendsOf(result, 'eve')).toMatchObject([['dropped', null, 'late']])
  })

  test('a new step before the last done one is not run; one after it is', () => {
    const steps = [
      mail('first', 'preparation', atOnce),
      confirm,
      mail('eve', 'reminder', days(1)),
      mail('wear', 'preparation', days(3)),
    ]
    const result = play(
      [around],
      [book('2026-05-14T08:00'), change('2026-05-15T08:00', steps)],
      '2026-05-20T09:00',
    )
    expect(went(result).map(([id]) => id)).toEqual(['confirm', 'wear', 'eve'])
    expect(sendsOf(result, 'first')).toEqual([])
  })

  test('what was approved stays as it was approved', () => {
    const waiting = sequence('x', 'booking confirmed', [
      mail('eve', 'reminder', days(1), { needsApproval: true }),
    ])
    const acts = [
      book('2026-05-14T08:00'),
      of('decide', '2026-05-15T07:00', { sequenceId: 'sq_x', stepId: 'st_eve', decision: 'approve' }),
      change('2026-05-15T08:00', [mail('eve', 'reminder', days(2), { needsApproval: true })]),
    ]
    expect(went(play([waiting], acts, '2026-05-20T09:00'))).toEqual([['eve', '2026-05-19T18:00']])
  })

  test('a step that is gone is void, and one that stays keeps its row', () => {
    const result = play(
      [around],
      [book('2026-05-14T08:00'), change('2026-05-15T08:00', [mail('wear', 'preparation', days(3))])],
      '2026-05-20T09:00',
    )
    expect(sendsOf(result, 'eve')).toMatchObject([['cancelled', '2026-05-19T18:00', 'stopped']])
    expect(went(result).map(([id]) => id)).toEqual(['confirm', 'wear'])
  })
})

describe('a pause', () => {
  test('holds back; lifted, what is past is missed and what is ahead goes', () => {
    const acts = [
      book('2026-05-14T08:00'),
      turn('2026-05-14T09:00', false),
      { ...book('2026-05-14T10:00', 'confirmed', 'bk_2') },
      turn('2026-05-16T09:00', true),
    ]
    const result = play([around], acts, '2026-05-20T09:00')
    expect(went(result)).toEqual([
      ['confirm', '2026-05-14T08:00'],
      ['eve', '2026-05-19T18:00'],
      ['eve', '2026-05-19T18:00'],
    ])
    expect(sendsOf(result, 'confirm')).toMatchObject([
      ['sent', '2026-05-14T08:00', null],
      ['missed', '2026-05-14T10:00', 'missed'],
    ])
  })

  test('of everything does the same', () => {
    const acts = [
      book('2026-05-14T08:00'),
      turn('2026-05-19T17:00', false, null),
      turn('2026-05-19T19:00', true, null),
    ]
    const result = play([around], acts, '2026-05-20T09:00')
    expect(sendsOf(result, 'eve')).toMatchObject([['missed', '2026-05-19T18:00', 'missed']])
  })
})

describe('those who were there already', () => {
  const standing = {
    bookings: [
      {
        id: 'bk_9',
        clientId: 'cl_1',
        serviceId: 'sv_1',
        start: '2026-05-20T10:00',
        end: '2026-05-20T12:00',
        status: 'confirmed',
        madeAt: '2026-05-01T09:00',
      },
      {
        id: 'bk_8',
        clientId: 'cl_1',
        serviceId: 'sv_1',
        start: '2026-05-02T10:00',
        end: '2026-05-02T12:00',
        status: 'completed',
        madeAt: '2026-05-01T09:00',
      },
      {
        id: 'bk_7',
        clientId: 'cl_1',
        serviceId: 'sv_1',
        start: '2026-05-21T10:00',
        end: '2026-05-21T12:00',
        status: 'requested',
        madeAt: '2026-05-01T09:00',
      },
    ],
  }
  const include = { act: 'include', at: '2026-05-14T09:00', sequenceId: 'sq_x' }
  const reminders = sequence('x', 'booking confirmed', [
    mail('week', 'reminder', days(7)),
    mail('eve', 'reminder', days(1)),
  ])

  test('start nothing by themselves', () => {
    expect(play([reminders], [], '2026-05-20T09:00', standing).runs).toEqual([])
  })

  test('included, only what is ahead comes, and including twice is including once', () => {
    const result = play(
      [reminders],
      [include, { ...include, at: '2026-05-14T10:00' }],
      '2026-05-20T09:00',
      standing,
    )
    expect(result.runs.map(({ subject, startedOn }) => [subject.id, startedOn])).toEqual([
      ['bk_9', 'inclusion'],
    ])
    expect(sendsOf(result, 'week')).toMatchObject([['dropped', null, 'late']])
    expect(went(result)).toEqual([['eve', '2026-05-19T18:00']])
  })

  test('a booking that is there completes by itself like any other', () => {
    const how = sequence('how', 'booking completed', [mail('how', 'follow-up', atOnce)])
    expect(went(play([how], [], '2026-05-22T09:00', standing))).toEqual([['how', '2026-05-21T08:00']])
  })

  test('unpaid invoices, enquiries in a stage, tags and birthdays', () => {
    const facts = {
      enquiries: [{ id: 'en_1', clientId: 'cl_1', stage: 'offer', receivedAt: '2026-05-01T09:00' }],
      invoices: [
        { id: 'in_1', clientId: 'cl_1', issuedAt: '2026-05-01T09:00' },
        { id: 'in_2', clientId: 'cl_1', issuedAt: '2026-05-01T09:00', paidAt: '2026-05-02T09:00' },
      ],
      clients: [
        {
          ...base.clients[0],
          tags: ['flown'],
          namedDates: [{ label: 'birthday', monthDay: '07-01', year: null }],
        },
      ],
    }
    const starting = (on: string, name: string | null = null) =>
      play(
        [sequence('x', on, [mail('m', 'follow-up', atOnce)], { start: { on, name } })],
        [include],
        '2026-05-14T10:00',
        facts,
      ).runs.map(({ subject }) => subject.id)
    expect(starting('invoice issued')).toEqual(['in_1'])
    expect(starting('enquiry stage entered', 'offer')).toEqual(['en_1'])
    expect(starting('enquiry stage entered', 'lost')).toEqual([])
    expect(starting('tag added', 'flown')).toEqual(['cl_1'])
    expect(starting('date known', 'birthday')).toEqual(['cl_1'])
    expect(starting('invoice paid')).toEqual([])
    expect(starting('booking moved')).toEqual([])
  })
})

describe('variations', () => {
  const vary = (scope: object, part: object) => ({ sequenceId: 'sq_x', stepId: 'st_eve', scope, ...part })
  const ofService = { of: 'service', serviceId: 'sv_1' }
  const ofClient = { of: 'client', clientId: 'cl_1' }
  const sentEve = (variations: object[]) => {
    const result = play([around], [book('2026-05-14T08:00')], '2026-05-20T09:00', { variations })
    const found = result.sends.find(({ key }) => key.stepId === 'st_eve')
    return {
      at: found?.sent?.iso.slice(0, 16),
      letter: found?.letterId,
      trace: found?.trace.map(({ code }) => code),
    }
  }

  test('general before nothing, the service before the general, the client before the service, field by field', () => {
    expect(sentEve([])).toMatchObject({ at: '2026-05-19T18:00', letter: 'lt_1' })
    const service = vary(ofService, {
      timing: { timing: days(1, '12:00'), lead: null },
      letterId: 'lt_service',
    })
    expect(sentEve([service])).toMatchObject({ at: '2026-05-19T12:00', letter: 'lt_service' })
    const client = vary(ofClient, { letterId: 'lt_client' })
    expect(sentEve([service, client])).toEqual({
      at: '2026-05-19T12:00',
      letter: 'lt_client',
      trace: ['client letter', 'service timing', 'offset'],
    })
  })

  test('of another service or step do not count', () => {
    const other = { ...vary({ of: 'service', serviceId: 'sv_2' }, { isOff: true }) }
    expect(sentEve([other])).toMatchObject({ at: '2026-05-19T18:00' })
    expect(sentEve([{ ...vary(ofService, { isOff: true }), stepId: 'st_confirm' }])).toMatchObject({
      at: '2026-05-19T18:00',
    })
  })

  test('off, on approval, and to others', () => {
    const run = (variation: object) =>
      sendsOf(
        play([around], [book('2026-05-14T08:00')], '2026-05-20T10:00', { variations: [variation] }),
        'eve',
      )
    expect(run(vary(ofClient, { isOff: true }))).toEqual([])
    expect(run(vary(ofClient, { needsApproval: true }))).toMatchObject([
      ['stale', '2026-05-19T18:00', 'stale'],
    ])
    const to = play([around], [book('2026-05-14T08:00')], '2026-05-20T09:00', {
      variations: [
        vary(ofClient, { recipients: [{ to: 'address', name: 'Mum', address: 'mum@home.example' }] }),
      ],
    })
    expect(to.sends.find(({ key }) => key.stepId === 'st_eve')?.recipient.address).toBe('mum@home.example')
  })

  test('act on running runs at once; a timing set later makes late what it makes late', () => {
    const acts = [
      book('2026-05-14T08:00'),
      of('vary', '2026-05-15T08:00', {
        sequenceId: 'sq_x',
        stepId: 'st_eve',
        timing: { timing: days(2, '12:00'), lead: null },
      }),
    ]
    expect(went(play([around], acts, '2026-05-20T09:00'))[1]).toEqual(['eve', '2026-05-18T12:00'])
    const late = [
      acts[0] ?? {},
      of('vary', '2026-05-18T13:00', {
        sequenceId: 'sq_x',
        stepId: 'st_eve',
        timing: { timing: days(2, '12:00'), lead: null },
      }),
    ]
    expect(sendsOf(play([around], late, '2026-05-20T09:00'), 'eve')).toMatchObject([
      ['dropped', null, 'late'],
    ])
  })

  test('that do not fit are refused with the reason', () => {
    const wrong = of('vary', '2026-05-15T08:00', { sequenceId: 'sq_x', stepId: 'st_none' })
    expect(() => play([around], [wrong], '2026-05-16T08:00')).toThrow(
      'There is no such step in this sequence.',
    )
    const timing = { timing: days(1), lead: { amount: 2, unit: 'days' } }
    const tooLong = of('vary', '2026-05-15T08:00', { sequenceId: 'sq_x', stepId: 'st_eve', timing })
    expect(() => play([around], [tooLong], '2026-05-16T08:00')).toThrow('longer than the step')
  })
})
