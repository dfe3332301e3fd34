import { describe, expect, test } from '@jest/globals'
import { atOnce, book, mail, of, play, sendsOf, sequence, went } from './playing.ts'

const action = (id: string, kind: string, part: object = {}, timing: object = atOnce) => ({
  kind,
  id: `st_${id}`,
  timing,
  ...part,
})
const booked = (...steps: object[]) => sequence('x', 'booking confirmed', steps)
const hour = { kind: 'after previous', amount: 1, unit: 'hours', atTime: null }

describe('steps that are no message', () => {
  test('a tag is added once, starts what starts on it, and is taken off again', () => {
    const onTag = sequence('tagged', 'tag added', [mail('tagged', 'confirmation', atOnce)])
    const first = booked(
      action('add', 'tag', { tag: 'flown' }),
      action('again', 'tag', { tag: 'flown' }, hour),
      action('off', 'tag', { tag: 'flown', adds: false }, hour),
    )
    const result = play([first, onTag], [book('2026-05-14T23:30')], '2026-05-15T06:00')
    // They write to nobody and keep to no sending hours.
    expect(went(result)).toEqual([
      ['add', '2026-05-14T23:30'],
      ['tagged', '2026-05-14T23:32'],
      ['again', '2026-05-15T00:30'],
      ['off', '2026-05-15T01:30'],
    ])
  })

  test('a status: the booking is cancelled and its own run stops', () => {
    const unpaid = { field: 'booking.status', comparison: 'is', value: 'confirmed' }
    const release = action('release', 'status', { status: 'cancelled', onlyIf: unpaid }, hour)
    const sorry = sequence('sorry', 'booking cancelled', [mail('sorry', 'cancellation', atOnce)])
    const result = play([booked(release), sorry], [book('2026-05-14T09:00')], '2026-05-14T12:00')
    expect(went(result)).toEqual([
      ['release', '2026-05-14T10:00'],
      ['sorry', '2026-05-14T10:02'],
    ])
    expect(result.runs.map(({ state }) => state)).toEqual(['stopped', 'running'])
  })

  test('a stage, where there is an enquiry; without one it fails and says so', () => {
    const offered = sequence('offered', 'enquiry stage entered', [mail('offered', 'confirmation', atOnce)], {
      start: { on: 'enquiry stage entered', name: 'offer' },
    })
    const move = [action('move', 'stage', { stage: 'offer' }, hour)]
    const result = play(
      [sequence('e', 'enquiry received', move), offered],
      [of('enquire', '2026-05-14T09:00', { id: 'en_1', stage: 'new' })],
      '2026-05-14T12:00',
    )
    expect(went(result).map(([id]) => id)).toEqual(['move', 'offered'])
    const without = play([booked(...move)], [book('2026-05-14T09:00')], '2026-05-14T12:00')
    expect(without.sends[0]).toMatchObject({
      state: 'failed',
      reason: { sentence: 'There is no enquiry whose stage could change.' },
    })
  })

  test('a date is stamped, and a later step hangs on it', () => {
    const anchor = { of: 'date stamped', label: 'agreement sent' }
    const result = play(
      [
        booked(
          action('stamp', 'date stamp', { label: 'agreement sent' }, hour),
          mail('ask', 'follow-up', {
            kind: 'calendar',
            amount: 1,
            unit: 'days',
            direction: 'after',
            anchor,
            atTime: '09:00',
          }),
        ),
      ],
      [book('2026-05-14T09:00')],
      '2026-05-16T12:00',
    )
    expect(went(result)).toEqual([
      ['stamp', '2026-05-14T10:00'],
      ['ask', '2026-05-15T09:00'],
    ])
  })

  test('a list is joined and left', () => {
    const onList = { field: 'client.list', comparison: 'is', value: 'news' }
    const result = play(
      [
        booked(
          action('join', 'list', { list: 'news' }),
          action('on', 'task', { title: 'On it', onlyIf: onList }, hour),
          action('leave', 'list', { list: 'news', joins: false }, hour),
          action('off', 'task', { title: 'Still on it', onlyIf: onList }, hour),
        ),
      ],
      [book('2026-05-14T09:00')],
      '2026-05-15T12:00',
    )
    expect(went(result).map(([id]) => id)).toEqual(['join', 'on', 'leave'])
    expect(sendsOf(result, 'off')).toMatchObject([['skipped', '2026-05-14T12:00', 'condition']])
  })

  test('another sequence is started for the same booking, once, and stopped', () => {
    const other = sequence('other', 'signed', [
      mail('hello', 'confirmation', atOnce),
      mail('later', 'preparation', hour),
    ])
    const starting = booked(
      action('start', 'sequence', { sequenceId: 'sq_other' }),
      action('start2', 'sequence', { sequenceId: 'sq_other' }, { ...hour, unit: 'minutes', amount: 5 }),
      action(
        'stop',
        'sequence',
        { sequenceId: 'sq_other', starts: false },
        { ...hour, unit: 'minutes', amount: 5 },
      ),
    )
    const result = play([starting, other], [book('2026-05-14T09:00')], '2026-05-14T12:00')
    expect(went(result).map(([id]) => id)).toEqual(['hello', 'start', 'start2', 'stop'])
    expect(sendsOf(result, 'later')).toMatchObject([['cancelled', '2026-05-14T10:00', 'stopped']])
    expect(result.runs.filter(({ sequenceId }) => sequenceId === 'sq_other')).toMatchObject([
      {
        subject: { kind: 'booking', id: 'bk_1' },
        startedOn: 'sequence',
        stoppedReason: 'A step of another sequence stopped it.',
      },
    ])
  })

  test('a text message goes to the telephone, or is blocked where there is none', () => {
    const text = action('text', 'text message', {
      purpose: 'reminder',
      words: [{ kind: 'text', text: 'See you soon' }],
    })
    const withPhone = {
      clients: [{ id: 'cl_1', contacts: [{ id: 'ct_1', email: null, phone: '+49 170 0000001' }] }],
    }
    const result = play([booked(text)], [book('2026-05-14T09:00')], '2026-05-14T12:00', withPhone)
    expect(result.sends).toMatchObject([{ state: 'sent', recipient: { address: '+49 170 0000001' } }])
    expect(sendsOf(play([booked(text)], [book('2026-05-14T09:00')], '2026-05-14T12:00'), 'text')).toEqual([
      ['blocked', '2026-05-14T09:00', 'no address'],
    ])
  })

  test('a note to staff goes to the person in charge, and where nobody is, to the business', () => {
    const note = action('note', 'note to staff', {
      about: 'New booking',
      words: [{ kind: 'text', text: 'Look' }],
    })
    const people = { people: [{ id: 'pe_1', name: 'Ada', email: 'ada@kiteworks.example' }] }
    const charged = { ...book('2026-05-14T09:00'), personInChargeId: 'pe_1' }
    const result = play([booked(note)], [charged], '2026-05-14T12:00', people)
    expect(result.sends[0]?.recipient).toEqual({ id: 'pe_1', address: 'ada@kiteworks.example' })
    const nobody = play([booked(note)], [book('2026-05-14T09:00')], '2026-05-14T12:00', people)
    expect(nobody.sends[0]?.recipient).toEqual({ id: 'business', address: 'business@bundle.example' })
  })

  test('a step switched off plans nothing, and the next counts from the one before it', () => {
    const steps = [
      mail('one', 'confirmation', atOnce),
      mail('off', 'preparation', hour, { isOff: true }),
      mail('two', 'preparation', hour),
    ]
    const result = play([booked(...steps)], [book('2026-05-14T09:00')], '2026-05-14T12:00')
    expect(went(result)).toEqual([
      ['one', '2026-05-14T09:00'],
      ['two', '2026-05-14T10:00'],
    ])
  })
})

describe('recipients', () => {
  const clients = [
    {
      id: 'cl_1',
      contacts: [
        { id: 'ct_1', firstName: 'Ida', email: 'home@lund.example' },
        { id: 'ct_2', firstName: 'Bo', email: 'HOME@lund.example' },
        { id: 'ct_3', firstName: 'Ro', email: 'ro@lund.example' },
      ],
    },
  ]
  const people = [
    { id: 'pe_1', name: 'Ada', email: 'ada@kiteworks.example' },
    { id: 'pe_2', name: 'Gone', email: 'gone@kiteworks.example', isActive: false },
  ]
  const to = (...rules: object[]) =>
    play(
      [booked(mail('m', 'confirmation', atOnce, { recipients: rules }))],
      [book('2026-05-14T09:00')],
      '2026-05-14T10:00',
      { clients, people },
    ).sends.map(({ recipient, letterId }) => [recipient.id, letterId])

  test('one address gets one copy, also in another case', () => {
    expect(to({ to: 'all contacts' })).toEqual([
      ['ct_1', 'lt_1'],
      ['ct_3', 'lt_1'],
    ])
  })

  test('the other contacts, named ones, the team that is still there, a further address, a copy', () => {
    expect(to({ to: 'other contacts' }).map(([id]) => id)).toEqual(['ct_2', 'ct_3'])
    expect(to({ to: 'named contacts', contactIds: ['ct_3'] }).map(([id]) => id)).toEqual(['ct_3'])
    expect(to({ to: 'team' }).map(([id]) => id)).toEqual(['pe_1'])
    expect(
      to({ to: 'address', name: 'Tax office', address: 'Tax@office.example' }, { to: 'copy to self' }).map(
        ([id]) => id,
      ),
    ).toEqual(['address:tax@office.example', 'copy'])
  })

  test('each kind may have its own letter', () => {
    expect(to({ to: 'primary contact' }, { to: 'team', letterId: 'lt_team' })).toEqual([
      ['ct_1', 'lt_1'],
      ['pe_1', 'lt_team'],
    ])
  })
})
