import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { newEnquiry, type Enquiry } from '../../model/enquiry.ts'
import { onePressMove, type MovePart, type OnePressMove, type PressedMove } from '../../model/onePressMove.ts'
import type { Stage } from '../../model/pipeline.ts'
import type { Result } from '../../model/problem.ts'
import { endsOn, startRule, type Sequence, type SequenceVersion } from '../../model/sequence.ts'
import { plannableStates } from '../../model/sendState.ts'
import {
  at,
  exampleBookingInput,
  exampleClient,
  examplePerson,
  exampleSettings,
  exampleStep,
} from '../../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../../rehearsal/world.ts'
import { hourMs, minuteMs } from '../../time/calendar.ts'
import { realZones } from '../../time/realZones.ts'
import { settingsWithEffects, type Effect } from '../effects.ts'
import { makeBooking } from './bookingCommands.ts'
import { moveEnquiry, receiveEnquiry } from './enquiryCommands.ts'
import { pressMove, pressOnMany, takeMoveBack } from './moveCommands.ts'
import { offeredMoves } from './movePressing.ts'
import { putMove, removeMove, type MoveInput } from './moveSettings.ts'

/* Several things done in one press: all of them or none, and taken back while nothing has gone. */

const start = at(realZones, 'Europe/Berlin', '2026-05-14 09:00')
const stage = (name: string, meaning: Stage['meaning'] = 'open'): Stage => ({
  name,
  meaning,
  personInChargeId: null,
  deadlineDays: name === 'agreement' ? 7 : null,
  checklist: [],
})
const charters = {
  id: 'pl_charters',
  name: 'Charters',
  stages: [stage('new'), stage('offer'), stage('agreement'), stage('booked', 'won'), stage('lost', 'lost')],
  isActive: true,
  revision: 1,
}

const moveOf = (part: Partial<OnePressMove> & Pick<OnePressMove, 'name' | 'of'>): OnePressMove =>
  onePressMove.parse({
    id: `mv_${part.name.toLowerCase().replaceAll(' ', '-')}`,
    onlyIf: null,
    parts: [],
    isActive: true,
    revision: 1,
    ...part,
  })

const agreementParts: MovePart[] = [
  { kind: 'stage', stage: 'agreement', reason: '' },
  { kind: 'date stamp', label: 'agreement sent' },
  { kind: 'tag', tag: 'charter', adds: true },
  { kind: 'task', title: 'Ask whether it came', dueInDays: 5 },
  { kind: 'field', field: 'Agreement', value: 'sent' },
]
const sendAgreement = moveOf({
  name: 'Send the agreement',
  of: 'enquiry',
  onlyIf: { field: 'enquiry.stage', comparison: 'is', value: 'offer' },
  parts: agreementParts,
})
const callItOff = moveOf({
  name: 'Call it off',
  of: 'booking',
  parts: [
    { kind: 'status', status: 'cancelled' },
    { kind: 'tag', tag: 'weather', adds: true },
    { kind: 'field', field: 'Why', value: 'wind' },
  ],
})

const live = (id: string, on: Partial<SequenceVersion['start']>, part: Partial<SequenceVersion> = {}) => ({
  sequence: { id, name: id, state: 'live', liveSince: 0, currentVersion: 1 } satisfies Sequence,
  version: {
    sequenceId: id,
    version: 1,
    start: startRule.parse({ again: { kind: 'every time', gap: null }, ...on }),
    steps: [
      exampleStep({
        id: `st_${id.slice(3)}`,
        letterId: 'lt_starter-still',
        purpose: 'follow-up',
        timing: { kind: 'at once' },
        sendingHours: 'ignore',
      }),
    ],
    stops: [],
    ...part,
  } satisfies SequenceVersion,
})

/** A ladder on the offer, the agreement's letter, what is told of a cancellation, and a reminder of each booking. */
const sequences = [
  live(
    'sq_ladder',
    { on: 'enquiry stage entered', name: 'offer' },
    {
      steps: [
        exampleStep({
          id: 'st_later',
          letterId: 'lt_starter-still',
          purpose: 'follow-up',
          timing: {
            kind: 'elapsed',
            amount: 72,
            unit: 'hours',
            direction: 'after',
            anchor: { of: 'run started' },
          },
        }),
      ],
      stops: [endsOn('enquiry stage entered')],
    },
  ),
  live('sq_agreement', { on: 'enquiry move pressed', name: sendAgreement.name }),
  live('sq_cancelled', { on: 'booking cancelled' }),
  live('sq_weather', { on: 'tag added', name: 'weather' }),
  live(
    'sq_reminder',
    { on: 'booking confirmed' },
    {
      steps: [
        exampleStep({
          id: 'st_reminder',
          purpose: 'reminder',
          timing: {
            kind: 'elapsed',
            amount: 24,
            unit: 'hours',
            direction: 'before',
            anchor: { of: 'booking start' },
          },
        }),
      ],
    },
  ),
]

function world(moves: readonly OnePressMove[] = [sendAgreement, callItOff]): World {
  const settings = exampleSettings(realZones, [])
  const rules = {
    pipelines: [charters],
    onePressMoves: moves,
    sequences: sequences.map(({ sequence }) => sequence),
    sequenceVersions: sequences.map(({ version }) => version),
    letters: settings.letters.map((one) => ({ ...one, isStarter: false })),
  }
  return createWorld({ ...settings, ...rules }, exampleClient, start)
}

function withOffer(of: World): Enquiry {
  const asked = newEnquiry(
    {
      id: `en_${of.facts().enquiries.length + 1}`,
      clientId: exampleClient.id,
      pipelineId: charters.id,
      stage: 'new',
      personInChargeId: examplePerson.id,
    },
    of.now(),
  )
  of.carryOut(receiveEnquiry(of.slice(), asked, of.context()))
  of.advance(of.now() + minuteMs)
  const seen = { id: asked.id, revision: 1 }
  of.carryOut(moveEnquiry(of.slice(), seen, { stage: 'offer', lostReason: '' }, of.context()))
  of.advance(of.now() + minuteMs)
  return enquiryOf(of, asked.id)
}

function enquiryOf(of: World, id = 'en_1'): Enquiry {
  const found = of.facts().enquiries.find((one) => one.id === id)
  if (!found) throw new Error('There is no enquiry')
  return found
}

function withBooking(of: World) {
  of.carryOut(makeBooking(of.slice(), exampleBookingInput, () => 0, of.context()))
  of.advance(of.now() + minuteMs)
  return bookingOf(of)
}

function bookingOf(of: World) {
  const [found] = of.facts().bookings
  if (!found) throw new Error('There is no booking')
  return found
}

const pressedBy = (result: Result<readonly Effect[]>): PressedMove => {
  if (!result.ok) throw new Error(result.problem.sentence)
  const put = result.value.findLast((effect) => effect.kind === 'put pressed move')
  if (!put) throw new Error('Nothing was noted')
  return put.pressed
}
const press = (of: World, move: OnePressMove, on: { readonly id: string; readonly revision: number }) => {
  const pressed = pressMove(of.slice(), move, { id: on.id, revision: on.revision }, of.context())
  of.carryOut(pressed)
  return pressedBy(pressed)
}
const refusal = (result: Result<readonly Effect[]>) => (result.ok ? 'done' : result.problem.sentence)

/** What stands for a client, but for counts of changes and what stays as a trace. */
function standing(of: World) {
  const { client, bookings, enquiries, runs, sends, happenings, invoices } = of.facts()
  const running = runs.filter(({ state }) => state === 'running')
  return {
    tags: client.tags,
    bookings: bookings.map((one) => ({ ...one, revision: 0 })),
    enquiries: enquiries.map((one) => ({ ...one, revision: 0 })),
    runs: running.map(({ id, held }) => [id, held]),
    ahead: sends
      .filter(({ state }) => plannableStates.includes(state))
      .map(({ id, state, dueAt }) => [id, state, dueAt]),
    happenings,
    invoices: invoices.filter(({ voidedAt }) => voidedAt === null),
  }
}

describe('a move of one press', () => {
  test('does all of its parts, then sends its letter, and says what it did', () => {
    const of = world()
    const pressed = press(of, sendAgreement, withOffer(of))
    expect(enquiryOf(of)).toMatchObject({
      stage: 'agreement',
      deadlineOn: '2026-05-21',
      answers: [{ question: 'Agreement', answer: 'sent' }],
    })
    expect(of.facts().client.tags).toContain('charter')
    expect(of.facts().happenings).toContainEqual({
      kind: 'date stamped',
      name: 'agreement sent',
      at: of.now(),
    })
    expect(pressed.said).toEqual([
      'Stage: agreement.',
      'Date noted: agreement sent.',
      'Tag “charter”.',
      'Task for Tuesday 19 May 2026: Ask whether it came.',
      '“Agreement”: sent.',
    ])
    expect(pressed.taskIds).toHaveLength(1)
    of.advance(of.now())
    expect(of.outbox()).toHaveLength(1)
  })

  test('is offered only where what it asks for holds and all of its parts are possible', () => {
    const of = world()
    const offer = withOffer(of)
    const names = () => {
      const pressed = { of: 'enquiry', item: enquiryOf(of) } as const
      return offeredMoves(pressed, of.slice(), of.context()).map(({ name }) => name)
    }
    expect(names()).toEqual([sendAgreement.name])
    press(of, sendAgreement, offer)
    expect(names()).toEqual([])
    const again = pressMove(of.slice(), sendAgreement, enquiryOf(of), of.context())
    expect(refusal(again)).toBe('What “Send the agreement” asks for does not hold for it at present.')
  })

  test.each<[string, MovePart, string]>([
    [
      'a stage its pipeline does not have',
      { kind: 'stage', stage: 'gone', reason: '' },
      'Its pipeline has no stage “gone”.',
    ],
    ['the stage it is in', { kind: 'stage', stage: 'offer', reason: '' }, 'It is in “offer” already.'],
    ['a status', { kind: 'status', status: 'cancelled' }, 'An enquiry has no status.'],
  ])('is refused as a whole for %s', (_, part, sentence) => {
    const tagFirst: MovePart = { kind: 'tag', tag: 'charter', adds: true }
    const of = world()
    const move = moveOf({ name: 'Try', of: 'enquiry', parts: [tagFirst, part] })
    const offer = withOffer(of)
    expect(refusal(pressMove(of.slice(), move, offer, of.context()))).toBe(sentence)
    expect(of.facts().client.tags).not.toContain('charter')
  })

  test('a letter of it that cannot go holds all of it back', () => {
    const of = world()
    const offer = withOffer(of)
    of.changeSettings((present) => ({
      ...present,
      letters: present.letters.map((one) => ({
        ...one,
        sections: [
          {
            id: 'a',
            kind: 'text',
            paragraphs: [[{ kind: 'field', field: 'enquiry.partySize', ifMissing: { kind: 'hold' } }]],
          },
        ],
      })),
    }))
    const result = pressMove(of.slice(), sendAgreement, offer, of.context())
    expect(refusal(result)).toMatch(/cannot go: .*: People asked for\. Nothing was done\.$/)
  })

  test('two people at once: the second is told', () => {
    const of = world()
    const seen = withOffer(of)
    press(of, sendAgreement, seen)
    expect(refusal(pressMove(of.slice(), sendAgreement, seen, of.context()))).toBe(
      'Somebody has changed this enquiry meanwhile. Look at it again, then decide.',
    )
  })

  test('on many, those it makes no sense for stay', () => {
    const of = world()
    const first = withOffer(of)
    const second = withOffer(of)
    press(of, sendAgreement, first)
    const done = pressOnMany(of.slice(), sendAgreement, [enquiryOf(of, first.id), second], of.context())
    expect(done.refusals.map(({ id }) => id)).toEqual([first.id])
    of.carryOut({ ok: true, value: done.effects })
    expect(enquiryOf(of, second.id).stage).toBe('agreement')
  })
})

describe('taken back', () => {
  test.each<[string, (of: World) => PressedMove]>([
    ['on an enquiry', (of) => press(of, sendAgreement, withOffer(of))],
    ['on a booking, while that settles', (of) => press(of, callItOff, withBooking(of))],
  ])('%s, everything stands as it was before, and it can be pressed anew', (_, pressing) => {
    const of = world()
    withBooking(of)
    withOffer(of)
    const other = world()
    withBooking(other)
    withOffer(other)
    const pressed = pressing(of)
    const before =
      pressed.was.of === 'booking'
        ? (withBooking(other), standing(other))
        : (withOffer(other), standing(other))
    expect(standing(of)).not.toEqual(before)
    of.carryOut(takeMoveBack(of.slice(), pressed, of.context()))
    expect(standing(of)).toEqual(before)
    const [item, move] =
      pressed.was.of === 'booking'
        ? [bookingOf(of), callItOff]
        : [enquiryOf(of, pressed.was.enquiry.id), sendAgreement]
    expect(press(of, move, item).said).toEqual(pressed.said)
  })

  test('once its letter has gone it stays', () => {
    const of = world()
    const pressed = press(of, sendAgreement, withOffer(of))
    of.advance(of.now())
    expect(refusal(takeMoveBack(of.slice(), pressed, of.context()))).toBe(
      'Something of it has gone out or is done already: it cannot be taken back any more.',
    )
  })

  test('once somebody has changed it since, it stays', () => {
    const of = world()
    const quiet = moveOf({
      name: 'Note it',
      of: 'enquiry',
      parts: [{ kind: 'field', field: 'A', value: 'b' }],
    })
    const pressed = press(of, quiet, withOffer(of))
    const to = { stage: 'agreement', lostReason: '' }
    of.carryOut(moveEnquiry(of.slice(), enquiryOf(of), to, of.context()))
    expect(refusal(takeMoveBack(of.slice(), pressed, of.context()))).toBe(
      'It has been changed since: it cannot be taken back any more.',
    )
  })

  test('a cancellation that has settled stays', () => {
    const of = world([moveOf({ ...callItOff, parts: [{ kind: 'status', status: 'cancelled' }] })])
    of.changeSettings((present) => ({ ...present, isSendingOn: false }))
    const pressed = press(of, callItOff, withBooking(of))
    of.advance(of.now() + hourMs)
    expect(refusal(takeMoveBack(of.slice(), pressed, of.context()))).toMatch(/settled by now|gone out/)
  })

  test('property: whatever its parts, taken back it leaves nothing behind', () => {
    const part: fc.Arbitrary<MovePart> = fc.oneof(
      fc.record({ kind: fc.constant('date stamp' as const), label: fc.constantFrom('a', 'b') }),
      fc.record({
        kind: fc.constant('tag' as const),
        tag: fc.constantFrom('weather', 'charter', 'regular'),
        adds: fc.boolean(),
      }),
      fc.record({ kind: fc.constant('task' as const), title: fc.constant('Call'), dueInDays: fc.nat(9) }),
      fc.record({
        kind: fc.constant('field' as const),
        field: fc.constantFrom('A', 'B'),
        value: fc.constantFrom('', 'x', 'y'),
      }),
      fc.record({
        kind: fc.constant('stage' as const),
        stage: fc.constantFrom('agreement', 'booked', 'lost'),
        reason: fc.constant(''),
      }),
    )
    const oneWay = (parts: readonly MovePart[]) => parts.filter(({ kind }) => kind === 'stage').length < 2
    fc.assert(
      fc.property(fc.array(part, { minLength: 1, maxLength: 6 }).filter(oneWay), (parts) => {
        const of = world()
        const offer = withOffer(of)
        withBooking(of)
        const before = standing(of)
        const pressed = press(of, moveOf({ name: 'Any', of: 'enquiry', parts }), offer)
        of.carryOut(takeMoveBack(of.slice(), pressed, of.context()))
        expect(standing(of)).toEqual(before)
      }),
      { numRuns: 60 },
    )
  })
})

describe('a move is put together', () => {
  const input = (part: Partial<MoveInput> = {}): MoveInput => ({
    name: 'Thank them',
    of: 'enquiry',
    onlyIf: null,
    parts: [{ kind: 'tag', tag: 'thanked', adds: true }],
    isActive: true,
    ...part,
  })
  const put = (of: World, part: Partial<MoveInput> = {}, letterId: string | null = null) => {
    const letter = letterId === null ? null : { letterId, waits: true }
    const change = { id: null, revision: 0, move: input(part), letter }
    return putMove(of.slice().settings, change, [], of.context())
  }

  test('with a letter it has a live sequence that starts on it', () => {
    const of = world()
    const decided = put(of, {}, 'lt_starter-still')
    if (!decided.ok) throw new Error(decided.problem.sentence)
    of.changeSettings((present) => settingsWithEffects(present, decided.value))
    const move = of.slice().settings.onePressMoves.at(-1)
    const sequence = of.slice().settings.sequences.at(-1)
    expect(sequence).toMatchObject({ name: 'Thank them', state: 'live' })
    press(of, move ?? sendAgreement, withOffer(of))
    const waits = of.facts().sends.filter(({ sequenceId }) => sequenceId === sequence?.id)
    expect(waits.map(({ state }) => state)).toEqual(['waiting'])
  })

  test.each<[string, (of: World) => Result<readonly Effect[]>, string]>([
    [
      'a name that is taken',
      (of) => put(of, { name: 'send the agreement' }),
      'There is a move “send the agreement” already.',
    ],
    ['nothing to do', (of) => put(of, { parts: [] }), 'A move needs something to do, or a letter.'],
    ['a letter there is not', (of) => put(of, {}, 'lt_none'), 'There is no such letter any more.'],
    [
      'another name while something starts on it',
      (of) =>
        putMove(
          of.slice().settings,
          { id: sendAgreement.id, revision: 1, move: input(), letter: null },
          ['sequence “sq_agreement”'],
          of.context(),
        ),
      '“Send the agreement” is what starts sequence “sq_agreement”. Let that start on something else first.',
    ],
    [
      'being deleted while something starts on it',
      (of) => removeMove(of.slice().settings, sendAgreement.id, ['sequence “sq_agreement”'], of.context()),
      'It starts sequence “sq_agreement”. Archive it instead.',
    ],
  ])('is refused for %s', (_, decide, sentence) => {
    expect(refusal(decide(world()))).toBe(sentence)
  })
})
