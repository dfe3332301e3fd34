import { describe, expect, test } from '@jest/globals'
import { act } from './acts.ts'
import { bundle } from './bundle.ts'
import { BundleFault } from './bundleSettings.ts'
import { atOnce, base, book, eve, every, mail, of, play, sequence, went } from './playing.ts'

describe('settle time', () => {
  const requested = sequence('asked', 'booking requested', [mail('asked', 'confirmation', atOnce)])
  const confirmed = sequence('yes', 'booking confirmed', [
    mail('yes', 'confirmation', atOnce),
    mail('eve', 'reminder', eve),
  ])
  const moved = sequence('moved', 'booking moved', [mail('moved', 'change', atOnce)], {
    start: { on: 'booking moved', again: every },
  })
  const cancelled = sequence('off', 'booking cancelled', [mail('off', 'cancellation', atOnce)])
  const all = [requested, confirmed, moved, cancelled]

  test('a request is answered when it has settled; confirmed right after, only the confirmation goes', () => {
    expect(went(play(all, [book('2026-05-14T08:00', 'requested')], '2026-05-14T09:00'))).toEqual([
      ['asked', '2026-05-14T08:02'],
    ])
    const quick = [book('2026-05-14T08:00', 'requested'), of('confirm', '2026-05-14T08:01')]
    expect(went(play(all, quick, '2026-05-14T09:00'))).toEqual([['yes', '2026-05-14T08:01']])
  })

  test('a booking made confirmed is confirmed at once', () => {
    expect(went(play(all, [book('2026-05-14T08:00')], '2026-05-14T08:00'))).toEqual([
      ['yes', '2026-05-14T08:00'],
    ])
  })

  test('asked for and cancelled within it, nothing is told', () => {
    const quick = [book('2026-05-14T08:00', 'requested'), of('cancel', '2026-05-14T08:01')]
    expect(went(play(all, quick, '2026-05-15T09:00'))).toEqual([])
  })

  test('two moves within it are one message; there and back is none', () => {
    const to = (at: string, day: string) =>
      of('move', at, { bookingId: 'bk_1', start: `2026-05-${day}T10:00`, end: `2026-05-${day}T12:00` })
    const twice = [book('2026-05-14T08:00'), to('2026-05-14T09:00', '22'), to('2026-05-14T09:01', '23')]
    expect(went(play(all, twice, '2026-05-14T10:00'))).toEqual([
      ['yes', '2026-05-14T08:00'],
      ['moved', '2026-05-14T09:02'],
    ])
    const back = [book('2026-05-14T08:00'), to('2026-05-14T09:00', '22'), to('2026-05-14T09:01', '20')]
    expect(went(play(all, back, '2026-05-14T10:00'))).toEqual([['yes', '2026-05-14T08:00']])
  })

  test('a move below the threshold is not told', () => {
    const small = [
      book('2026-05-14T08:00'),
      of('move', '2026-05-14T09:00', {
        bookingId: 'bk_1',
        start: '2026-05-20T10:10',
        end: '2026-05-20T12:10',
      }),
    ]
    expect(went(play(all, small, '2026-05-14T10:00'))).toEqual([['yes', '2026-05-14T08:00']])
  })

  test('cancelled: the run stops at once, the message goes when it has settled', () => {
    const result = play(all, [book('2026-05-14T08:00'), of('cancel', '2026-05-14T09:00')], '2026-05-25T10:00')
    expect(went(result)).toEqual([
      ['yes', '2026-05-14T08:00'],
      ['off', '2026-05-14T09:02'],
    ])
    expect(result.sends.find(({ key }) => key.stepId === 'st_eve')).toMatchObject({ state: 'cancelled' })
  })

  test('a message of the booking that falls due meanwhile waits for its end', () => {
    const late = [
      book('2026-05-14T08:00'),
      of('move', '2026-05-19T17:59', {
        bookingId: 'bk_1',
        start: '2026-05-20T10:30',
        end: '2026-05-20T12:30',
      }),
    ]
    expect(went(play([confirmed], late, '2026-05-19T19:00')).at(-1)).toEqual(['eve', '2026-05-19T18:01'])
  })
})

describe('what starts a run', () => {
  test('entering a stage, a tag, a form, an invoice issued or paid', () => {
    const sequences = [
      sequence('stage', '', [mail('stage', 'confirmation', atOnce)], {
        start: { on: 'enquiry stage entered', name: 'offer' },
      }),
      sequence('tag', '', [mail('tag', 'confirmation', atOnce)], {
        start: { on: 'tag added', name: 'voucher' },
      }),
      sequence('form', 'form received', [mail('form', 'confirmation', atOnce)]),
      sequence('invoice', 'invoice issued', [mail('invoice', 'confirmation', atOnce)]),
      sequence('paid', 'invoice paid', [mail('paid', 'confirmation', atOnce)]),
    ]
    const script = [
      of('enquire', '2026-05-14T08:00', { id: 'en_1', stage: 'new' }),
      of('enter stage', '2026-05-14T08:10', { enquiryId: 'en_1', stage: 'offer' }),
      of('client', '2026-05-14T08:20', { did: 'tag added', name: 'regular' }),
      of('client', '2026-05-14T08:30', { did: 'tag added', name: 'voucher' }),
      of('client', '2026-05-14T08:40', { did: 'form received', name: 'weights' }),
      of('issue invoice', '2026-05-14T08:50', { id: 'in_1', dueOn: '2026-05-20' }),
      of('pay', '2026-05-14T09:00', { invoiceId: 'in_1' }),
    ]
    expect(went(play(sequences, script, '2026-05-14T10:00'))).toEqual([
      ['stage', '2026-05-14T08:10'],
      ['tag', '2026-05-14T08:32'],
      ['form', '2026-05-14T08:40'],
      ['invoice', '2026-05-14T08:50'],
      ['paid', '2026-05-14T09:00'],
    ])
  })

  test('being in a stage already does nothing', () => {
    const stage = sequence('stage', '', [mail('stage', 'confirmation', atOnce)], {
      start: { on: 'enquiry stage entered', name: 'new', again: every },
    })
    const script = [
      of('enquire', '2026-05-14T08:00', { id: 'en_1', stage: 'new' }),
      of('enter stage', '2026-05-14T08:10', { enquiryId: 'en_1', stage: 'new' }),
    ]
    expect(went(play([stage], script, '2026-05-14T10:00'))).toEqual([['stage', '2026-05-14T08:00']])
  })

  test.each([
    [{ kind: 'once per client' }, 1],
    [{ kind: 'once per subject' }, 2],
    [{ kind: 'every time', gap: { amount: 3, unit: 'days' } }, 1],
    [{ kind: 'every time', gap: null }, 2],
  ])('starting again: %j', (again, times) => {
    const rule = { start: { on: 'booking confirmed', again } }
    const script = [book('2026-05-14T08:00'), book('2026-05-15T08:00', 'confirmed', 'bk_2')]
    const played = play(
      [sequence('yes', '', [mail('yes', 'confirmation', atOnce)], rule)],
      script,
      '2026-05-16T10:00',
    )
    expect(went(played)).toHaveLength(times)
  })

  test('conditions decide, and acts before going live do not count', () => {
    const german = {
      start: { on: 'booking confirmed', onlyIf: { field: 'client.language', comparison: 'is', value: 'de' } },
    }
    expect(
      went(
        play(
          [sequence('yes', '', [mail('yes', 'confirmation', atOnce)], german)],
          [book('2026-05-14T08:00')],
          '2026-05-15T10:00',
        ),
      ),
    ).toEqual([])
    const later = sequence('yes', 'booking confirmed', [mail('yes', 'confirmation', atOnce)], {
      liveSince: '2026-05-14T08:00',
    })
    expect(went(play([later], [book('2026-05-14T08:00')], '2026-05-15T10:00'))).toEqual([])
    expect(went(play([later], [book('2026-05-14T08:01')], '2026-05-15T10:00'))).toHaveLength(1)
  })
})

describe('what stops a run', () => {
  const ladder = [
    mail('answer', 'follow-up', atOnce, { sendingHours: 'ignore' }),
    mail('again', 'follow-up', { kind: 'after previous', amount: 3, unit: 'days', atTime: '10:00' }),
  ]
  const enquiry = sequence('ask', 'enquiry received', ladder, {
    stops: [{ on: 'answered' }, { on: 'booked' }],
  })
  const asked = of('enquire', '2026-05-14T08:00', { id: 'en_1', stage: 'new', wishedOn: '2026-08-01' })

  test.each([
    ['an answer', of('client', '2026-05-15T08:00', { did: 'answered' })],
    ['a booking', book('2026-05-15T08:00')],
  ])('%s', (_, stop) => {
    const result = play([enquiry], [asked, stop], '2026-05-30T10:00')
    expect(went(result)).toEqual([['answer', '2026-05-14T08:00']])
    expect(result.runs[0]).toMatchObject({ state: 'stopped' })
  })

  test('nothing: the ladder goes on', () => {
    expect(went(play([enquiry], [asked], '2026-05-30T10:00'))).toEqual([
      ['answer', '2026-05-14T08:00'],
      ['again', '2026-05-17T10:00'],
    ])
  })

  test('a cancelled booking stops its own runs and those of its invoices', () => {
    const due = mail('due', 'payment', {
      kind: 'calendar',
      amount: 3,
      unit: 'days',
      direction: 'before',
      anchor: { of: 'invoice due' },
      atTime: '09:00',
    })
    const script = [
      book('2026-05-14T08:00'),
      of('issue invoice', '2026-05-14T08:10', { id: 'in_1', bookingId: 'bk_1', dueOn: '2026-05-19' }),
      of('cancel', '2026-05-14T09:00'),
    ]
    const result = play([sequence('pay', 'invoice issued', [due])], script, '2026-05-30T10:00')
    expect(went(result)).toEqual([])
    expect(result.runs[0]).toMatchObject({ state: 'stopped', stoppedReason: 'The booking was cancelled.' })
  })
})

describe('approval', () => {
  const careful = sequence('yes', 'booking confirmed', [
    mail('eve', 'reminder', eve, { needsApproval: true }),
  ])
  const decide = (at: string, decision: string) =>
    of('decide', at, { sequenceId: 'sq_yes', stepId: 'st_eve', decision })

  test('what waits does not go; approved it goes at its planned time', () => {
    expect(went(play([careful], [book('2026-05-14T08:00')], '2026-05-25T10:00'))).toEqual([])
    const approved = [book('2026-05-14T08:00'), decide('2026-05-15T09:00', 'approve')]
    expect(went(play([careful], approved, '2026-05-25T10:00'))).toEqual([['eve', '2026-05-19T18:00']])
  })

  test('not approved before its last chance it is stale, and never sent late', () => {
    const result = play([careful], [book('2026-05-14T08:00')], '2026-05-25T10:00')
    expect(result.sends[0]).toMatchObject({
      state: 'stale',
      reason: { sentence: 'It was not approved before its last chance.' },
    })
    const late = [book('2026-05-14T08:00'), decide('2026-05-20T09:30', 'approve')]
    expect(() => play([careful], late, '2026-05-25T10:00')).toThrow('There is no open message')
  })

  test('approved after its planned time it goes at the next open moment up to its bound', () => {
    const evening = [book('2026-05-14T08:00'), decide('2026-05-19T21:00', 'approve')]
    expect(went(play([careful], evening, '2026-05-25T10:00'))).toEqual([['eve', '2026-05-20T08:00']])
  })

  test('a condition that no longer holds skips the message, and says which', () => {
    const only = { onlyIf: { field: 'client.tag', comparison: 'is', value: 'family' } }
    const result = play(
      [sequence('yes', 'booking confirmed', [mail('eve', 'reminder', eve, only)])],
      [book('2026-05-14T08:00')],
      '2026-05-25T10:00',
    )
    expect(result.sends[0]).toMatchObject({
      state: 'skipped',
      reason: { sentence: 'client.tag is family: it has no value.' },
    })
  })
})

describe('a bundle at fault', () => {
  const fault = (run: () => unknown) => {
    try {
      run()
    } catch (caught) {
      if (caught instanceof BundleFault) return `${caught.path}: ${caught.message}`
      throw caught
    }
    return null
  }
  const yes = sequence('yes', 'booking confirmed', [mail('yes', 'confirmation', atOnce)])

  test('names the path and the reason', () => {
    const unknownZone = { business: { ...base.business, zone: 'Middle-earth/Shire' } }
    expect(fault(() => play([yes], [], '2026-05-15T10:00', unknownZone))).toBe(
      'business.zone: There is no time zone named Middle-earth/Shire.',
    )
    const wrongLead = sequence('x', 'booking confirmed', [
      mail('x', 'reminder', eve, { lead: { amount: 2, unit: 'days' } }),
    ])
    expect(fault(() => play([wrongLead], [], '2026-05-15T10:00'))).toMatch(
      /^sequences\.0\.steps\.0: The lead of 2 days is longer/,
    )
    expect(fault(() => play([yes], [of('confirm', '2026-05-14T08:00')], '2026-05-15T10:00'))).toBe(
      'script.0: There is no such booking.',
    )
    expect(
      fault(() => play([yes], [{ ...book('2026-05-14T08:00'), clientId: 'cl_2' }], '2026-05-15T10:00')),
    ).toBe('script.0.clientId: There is no client cl_2.')
  })

  test('refuses what it does not know', () => {
    expect(bundle.safeParse({ ...base, sequences: [yes], weather: 'fine' }).success).toBe(false)
    expect(act.safeParse({ ...book('soon') }).success).toBe(false)
  })
})
