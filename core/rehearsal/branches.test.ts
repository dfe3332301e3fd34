import { describe, expect, test } from '@jest/globals'
import { atOnce, book, mail, of, play, sendsOf, sequence, went } from './playing.ts'

const answered = { field: 'since the run started: answered', comparison: 'is', value: true }
const afterPrevious = (amount: number, unit = 'days') => ({
  kind: 'after previous',
  amount,
  unit,
  atTime: null,
})
const branch = (
  id: string,
  yes: object[],
  no: object[],
  timing: object = afterPrevious(2),
  condition: object = answered,
) => ({
  kind: 'branch',
  id: `st_${id}`,
  condition,
  timing,
  yes,
  no,
})
const followUp = (id: string, timing: object = atOnce) => mail(id, 'follow-up', timing)
const beforeStart = (amount: number, unit: 'days' | 'hours') =>
  unit === 'hours'
    ? { kind: 'elapsed', amount, unit, direction: 'before', anchor: { of: 'booking start' } }
    : { kind: 'calendar', amount, unit, direction: 'before', anchor: { of: 'booking start' }, atTime: null }

const asked = (...steps: object[]) =>
  sequence('ask', 'enquiry received', [mail('offer', 'confirmation', atOnce), ...steps])
const enquire = of('enquire', '2026-05-14T10:00', { id: 'en_1', stage: 'new' })
const answer = (at: string) => of('client', at, { did: 'answered' })

describe('a branch', () => {
  const plain = asked(
    branch('did', [followUp('thanks')], [followUp('nudge')]),
    followUp('last', afterPrevious(1)),
  )

  test('takes its first arm as soon as the condition holds, and the other is skipped', () => {
    const result = play([plain], [enquire, answer('2026-05-15T11:00')], '2026-05-20T12:00')
    expect(went(result)).toEqual([
      ['offer', '2026-05-14T10:00'],
      ['thanks', '2026-05-15T11:00'],
      ['last', '2026-05-16T11:00'],
    ])
    expect(sendsOf(result, 'nudge')).toEqual([['skipped', null, 'branch']])
    expect(result.runs[0]?.branches).toMatchObject([{ stepId: 'st_did', arm: 'yes' }])
  })

  test('takes its second arm when the latest moment has come without it', () => {
    const result = play([plain], [enquire], '2026-05-20T12:00')
    expect(went(result)).toEqual([
      ['offer', '2026-05-14T10:00'],
      ['nudge', '2026-05-16T10:00'],
      ['last', '2026-05-17T10:00'],
    ])
    expect(sendsOf(result, 'thanks')).toEqual([['skipped', null, 'branch']])
  })

  test('undecided, its arms and what follows are expected', () => {
    const result = play([plain], [enquire], '2026-05-15T12:00')
    for (const id of ['thanks', 'nudge']) expect(sendsOf(result, id)).toEqual([['expected', null, 'branch']])
    expect(sendsOf(result, 'last')).toEqual([['expected', null, 'previous step']])
  })

  test('what comes after the latest moment no longer counts', () => {
    const result = play([plain], [enquire, answer('2026-05-16T10:01')], '2026-05-20T12:00')
    expect(went(result).map(([id]) => id)).toEqual(['offer', 'nudge', 'last'])
  })

  test('with an empty arm the next step counts from the decision', () => {
    const empty = asked(branch('did', [followUp('thanks')], []), followUp('last', afterPrevious(1)))
    expect(went(play([empty], [enquire], '2026-05-20T12:00'))).toEqual([
      ['offer', '2026-05-14T10:00'],
      ['last', '2026-05-17T10:00'],
    ])
  })

  test('is decided some time before an anchor, by a fact', () => {
    const paid = { field: 'invoice.paid', comparison: 'is', value: true }
    const isLarge = {
      field: 'booking.hours between booking and start',
      comparison: 'is at least',
      value: 100,
    }
    const steps = [
      branch(
        'long',
        [mail('early', 'preparation', atOnce)],
        [mail('short', 'preparation', atOnce)],
        beforeStart(1, 'days'),
        isLarge,
      ),
    ]
    const long = play(
      [sequence('x', 'booking confirmed', steps)],
      [book('2026-05-14T09:00')],
      '2026-05-20T09:00',
    )
    expect(went(long)).toEqual([['early', '2026-05-14T09:00']])
    const unpaid = [branch('paid', [], [mail('chase', 'preparation', atOnce)], beforeStart(1, 'days'), paid)]
    const result = play(
      [sequence('x', 'booking confirmed', unpaid)],
      [book('2026-05-14T09:00')],
      '2026-05-20T09:00',
    )
    expect(went(result)).toEqual([['chase', '2026-05-19T10:00']])
  })

  test('within a branch waits for the one around it', () => {
    const signed = { field: 'since the run started: signed', comparison: 'is', value: true }
    const inner = branch('inner', [followUp('both')], [followUp('one')], afterPrevious(1), signed)
    const nested = asked(branch('outer', [inner], [followUp('none')]))
    const acts = [enquire, answer('2026-05-14T12:00'), of('client', '2026-05-15T09:00', { did: 'signed' })]
    const result = play([nested], acts, '2026-05-20T12:00')
    expect(went(result)).toEqual([
      ['offer', '2026-05-14T10:00'],
      ['both', '2026-05-15T09:00'],
    ])
    expect(sendsOf(result, 'none')).toEqual([['skipped', null, 'branch']])
    const without = play([nested], [enquire], '2026-05-20T12:00')
    expect(went(without).map(([id]) => id)).toEqual(['offer', 'none'])
    expect(sendsOf(without, 'both')).toEqual([['skipped', null, 'branch']])
  })

  test('a stopped run decides nothing any more', () => {
    const stopping = { ...plain, stops: [{ on: 'booked' }] }
    const result = play([stopping], [enquire, book('2026-05-15T09:00')], '2026-05-25T12:00')
    expect(went(result).map(([id]) => id)).toEqual(['offer'])
    expect(sendsOf(result, 'nudge')).toEqual([['cancelled', null, 'stopped']])
  })
})
