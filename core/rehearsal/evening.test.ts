import { describe, expect, test } from '@jest/globals'
import { base, mail, of, play, sendsOf, sequence, went } from './playing.ts'

const letter = {
  id: 'lt_evening',
  name: 'This evening',
  moment: 'asked',
  subject: [{ kind: 'text', text: 'What happened today' }],
  sections: [
    {
      id: 'a',
      kind: 'text',
      paragraphs: [[{ kind: 'field', field: 'enquiry.progress', ifMissing: { kind: 'hold' } }]],
    },
  ],
}
const evening = (part: object = {}) =>
  sequence('x', 'enquiry received', [
    mail('evening', 'preparation', { kind: 'evening', atTime: '18:00' }, { letterId: 'lt_evening', ...part }),
  ])
const enquire = of('enquire', '2026-05-14T08:00', { id: 'en_1', stage: 'new' })
const on = (at: string, part: object = {}) =>
  of('evening letters', at, { enquiryId: 'en_1', isOn: true, ...part })
const tick = (at: string, lineId: string, sentence: string | null = `${lineId} is done.`) =>
  of('tick', at, { enquiryId: 'en_1', lineId, sentence })
const line = (act: string, at: string, lineId: string) => of(act, at, { enquiryId: 'en_1', lineId })
const run = (acts: object[], until = '2026-05-20T09:00', part: object = {}) =>
  play([evening(part)], [enquire, ...acts], until, { letters: [letter] })

describe('the evening letter', () => {
  test('is off until switched on for the enquiry, and earlier ticks are not told', () => {
    expect(went(run([tick('2026-05-14T09:00', 'route')]))).toEqual([])
    const late = run([
      tick('2026-05-14T09:00', 'route'),
      on('2026-05-14T10:00'),
      tick('2026-05-14T11:00', 'crew'),
    ])
    expect(went(late)).toEqual([['evening', '2026-05-14T18:00']])
  })

  test('earlier ticks are told where that was chosen', () => {
    const result = run([tick('2026-05-14T09:00', 'route'), on('2026-05-14T20:00', { tellsEarlier: true })])
    expect(went(result)).toEqual([['evening', '2026-05-15T18:00']])
  })

  test('tells what was ticked since the last one; the cut-off belongs to the next', () => {
    const result = run([
      on('2026-05-14T08:00'),
      tick('2026-05-14T17:59', 'route'),
      tick('2026-05-14T18:00', 'crew'),
      tick('2026-05-15T09:00', 'permit'),
    ])
    expect(went(result)).toEqual([
      ['evening', '2026-05-14T18:00'],
      ['evening', '2026-05-15T18:00'],
    ])
  })

  test('lines for the business alone are not told', () => {
    expect(went(run([on('2026-05-14T08:00'), tick('2026-05-14T09:00', 'billing', null)]))).toEqual([])
  })

  test('unticked before, a line is taken out; with none left nothing goes', () => {
    const acts = [
      on('2026-05-14T08:00'),
      tick('2026-05-14T09:00', 'route'),
      line('untick', '2026-05-14T10:00', 'route'),
    ]
    const result = run(acts)
    expect(went(result)).toEqual([])
    const again = run([...acts, tick('2026-05-14T11:00', 'route')])
    expect(went(again)).toEqual([['evening', '2026-05-14T18:00']])
  })

  test('a told line ticked again stays told, unless “tell again” is pressed', () => {
    const told = [
      on('2026-05-14T08:00'),
      tick('2026-05-14T09:00', 'route'),
      line('untick', '2026-05-15T10:00', 'route'),
      tick('2026-05-15T11:00', 'route'),
    ]
    expect(went(run(told))).toHaveLength(1)
    expect(went(run([...told, line('tell again', '2026-05-15T12:00', 'route')]))).toEqual([
      ['evening', '2026-05-14T18:00'],
      ['evening', '2026-05-15T18:00'],
    ])
  })

  test('ignores sending hours, but not closed days', () => {
    const business = {
      ...base.business,
      sendingHours: {
        weekly: Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ from: '08:00', to: '12:00' }] : [])),
      },
    }
    const acts = [enquire, on('2026-05-15T08:00'), tick('2026-05-15T19:00', 'route')]
    // Friday evening after the cut-off: Saturday and Sunday are closed.
    expect(went(play([evening()], acts, '2026-05-20T09:00', { letters: [letter], business }))).toEqual([
      ['evening', '2026-05-18T18:00'],
    ])
  })

  test('one that waits for approval keeps its lines; later ticks wait for the next', () => {
    const waits = { needsApproval: true }
    const acts = [on('2026-05-14T08:00'), tick('2026-05-14T09:00', 'route'), tick('2026-05-14T19:00', 'crew')]
    const result = run(acts, '2026-05-14T20:00', waits)
    expect(sendsOf(result, 'evening').map(([state, due]) => [state, due])).toEqual([
      ['waiting', '2026-05-14T18:00'],
      ['waiting', '2026-05-15T18:00'],
      ['cancelled', null],
    ])
  })

  test('what is not ticked, or ticked already, says so', () => {
    expect(() => run([line('untick', '2026-05-14T10:00', 'route')])).toThrow('This line is not ticked.')
    expect(() => run([tick('2026-05-14T10:00', 'route'), tick('2026-05-14T11:00', 'route')])).toThrow(
      'This line is ticked already.',
    )
    expect(() =>
      run([tick('2026-05-14T10:00', 'route'), line('tell again', '2026-05-14T11:00', 'route')]),
    ).toThrow('Only a ticked line that was told')
  })
})
