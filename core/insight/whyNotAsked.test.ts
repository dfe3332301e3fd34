import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { confirmBooking, makeBooking, moveBooking } from '../engine/commands/bookingCommands.ts'
import { remedied } from '../engine/consequences/remedies.ts'
import { decideSend } from '../engine/commands/sendCommands.ts'
import type { Client } from '../model/client.ts'
import type { Condition } from '../model/condition.ts'
import type { Letter } from '../model/letter.ts'
import { done } from '../model/problem.ts'
import { startRule, stopRule, type Sequence, type SequenceVersion } from '../model/sequence.ts'
import type { MailStep } from '../model/step.ts'
import type { Settings } from '../planning/slice.ts'
import {
  at,
  exampleBookingInput,
  exampleClient,
  exampleService,
  exampleSettings,
  exampleSteps,
} from '../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../rehearsal/world.ts'
import { dayMs, hourMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import { whyNotAsked, type WhyNotAnswer } from './whyNotAsked.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const now = moment('2026-05-14 07:40')

/** A made-up business, client and booking, with something in the way of one message. */
interface Case {
  readonly step?: Partial<MailStep>
  readonly client?: Partial<Client>
  readonly sequence?: Partial<Sequence>
  readonly version?: Partial<SequenceVersion>
  readonly settings?: Partial<Settings>
  readonly status?: 'requested' | 'confirmed'
  readonly startLocal?: string
  /** The sequence goes live only after the booking was made. */
  readonly isLiveLater?: boolean
  readonly noBooking?: boolean
}

/** A letter that needs no booking, with one value that may be missing. */
const [anyLetter] = exampleSettings(realZones).letters
if (!anyLetter) throw new Error('no letter')
const plainLetter: Letter = {
  ...anyLetter,
  id: 'lt_plain',
  subject: [{ kind: 'text', text: 'A word from us' }],
  preheader: [],
  sections: [
    {
      id: 's1',
      kind: 'text',
      paragraphs: [
        [
          { kind: 'text', text: 'Hello ' },
          { kind: 'field', field: 'contact.firstName', ifMissing: { kind: 'hold' } },
        ],
      ],
    },
  ],
}

const [, evening] = exampleSteps
if (!evening) throw new Error('no step')
const eveningBefore: MailStep = { ...evening, id: 'st_x' }

function settingsFor({ step, sequence, version, settings }: Case): Settings {
  const base = exampleSettings(realZones, [{ ...eveningBefore, ...step }])
  return {
    ...base,
    sequences: base.sequences.map((one) => ({ ...one, ...sequence })),
    sequenceVersions: base.sequenceVersions.map((one) => ({ ...one, ...version })),
    letters: [...base.letters, plainLetter].map((one) => ({ ...one, isStarter: false })),
    ...settings,
  }
}

function worldFor(of: Case): World {
  const settings = settingsFor(of)
  const asDraft = (present: Settings): Settings => ({
    ...present,
    sequences: present.sequences.map((one) => ({ ...one, state: 'draft', liveSince: null })),
  })
  const client = { ...exampleClient, ...of.client }
  const world = createWorld(of.isLiveLater ? asDraft(settings) : settings, client, now)
  if (!of.noBooking) {
    const startLocal = of.startLocal ?? '2026-05-20T19:00'
    const endLocal = startLocal.replace(/T\d\d/, 'T23')
    const input = { ...exampleBookingInput, startLocal, endLocal, status: of.status ?? 'confirmed' }
    world.carryOut(makeBooking(world.slice(), input, () => 0, world.context()))
  }
  world.advance(now + 10 * 60_000)
  if (of.isLiveLater) {
    const liveSince = of.sequence?.state === 'draft' ? null : world.now() - 1
    world.changeSettings(() => ({
      ...settings,
      sequences: settings.sequences.map((one) => ({ ...one, liveSince })),
    }))
  }
  return world
}

const ask = (world: World, sequenceId = 'sq_1') => whyNotAsked({ sequenceId }, world.slice(), world.now())

/** Plays on until long after the event, a person approving what waits, and says whether the message went. */
function goes(world: World, { sequenceId, stepId, subject }: WhyNotAnswer): boolean {
  const sends = () =>
    world
      .facts()
      .sends.filter(
        (send) => send.sequenceId === sequenceId && send.stepId === stepId && send.subject.id === subject.id,
      )
  const end = world.now() + 9 * dayMs
  while (world.now() < end && !sends().some(({ state }) => state === 'sent')) {
    for (const { id, state } of sends()) {
      const approved = state === 'waiting' ? decideSend(world.slice(), id, 'approve', world.context()) : null
      if (approved?.ok) world.carryOut(approved)
    }
    world.advance(world.now() + 6 * hourMs)
  }
  return sends().some(({ state }) => state === 'sent')
}

/** Makes the changes of an answer really, one after the other, as a person would. */
function applyAll(world: World, { changes }: WhyNotAnswer) {
  for (const remedy of changes) {
    const result = remedied(world.slice(), remedy, world.context())
    if (!result.ok) throw new Error(result.problem.sentence)
    world.changeSettings(() => result.value.settings)
    world.carryOut(done(result.value.effects))
  }
}

const tag = (value: string): Condition => ({ field: 'client.tag', comparison: 'is', value })
const [contact] = exampleClient.contacts
if (!contact) throw new Error('no contact')
const start = (part: object) => ({ start: startRule.parse({ on: 'booking confirmed', ...part }) })
const variation = (scope: { of: 'client'; clientId: string } | { of: 'service'; serviceId: string }) => ({
  id: 'va_1',
  sequenceId: 'sq_1',
  stepId: 'st_x',
  scope,
  letterId: null,
  timing: null,
  recipients: null,
  needsApproval: null,
  isOff: true,
  timingSetAt: 0,
})
const starter = (settings: Settings) => settings.letters.map((one) => ({ ...one, isStarter: true }))
const elapsed = (of: { of: 'booking status'; status: 'completed' } | { of: 'run started' }, amount = 1) =>
  ({ kind: 'elapsed', amount, unit: 'hours', direction: 'after', anchor: of }) as const

/** What is in the way, the code of the first reason, and whether some changes would let the message come. */
const cases: readonly (readonly [string, Case, string, boolean])[] = [
  ['all sending held back', { settings: { isSendingOn: false } }, 'sending off', true],
  ['the client inactive', { client: { isActive: false } }, 'client inactive', true],
  ['the client held back', { client: { isHeldBack: true } }, 'client held back', true],
  ['a draft', { sequence: { state: 'draft', liveSince: null } }, 'not live', true],
  ['a paused sequence', { sequence: { state: 'paused' } }, 'paused', true],
  ['live only since', { isLiveLater: true }, 'before going live', true],
  ['only requested', { status: 'requested' }, 'another event', true],
  ['no booking at all', { noBooking: true }, 'another event', false],
  [
    'a start on a tag',
    {
      version: start({ on: 'tag added', name: 'family' }),
      step: { timing: { kind: 'at once' }, letterId: 'lt_plain' },
    },
    'another event',
    true,
  ],
  [
    'a start on a list',
    {
      version: start({ on: 'list joined', name: 'news' }),
      step: { timing: { kind: 'at once' }, letterId: 'lt_plain' },
    },
    'another event',
    true,
  ],
  [
    'a start on a form',
    { version: start({ on: 'form received' }), step: { timing: { kind: 'at once' }, letterId: 'lt_plain' } },
    'another event',
    true,
  ],
  [
    'a start on a named form',
    { version: start({ on: 'form received', name: 'health' }) },
    'another event',
    false,
  ],
  [
    'another service',
    {
      version: start({ serviceIds: ['sv_other'] }),
      settings: { services: [exampleService, { ...exampleService, id: 'sv_other', name: 'Other' }] },
    },
    'another service',
    false,
  ],
  ['a start condition on a tag', { version: start({ onlyIf: tag('family') }) }, 'condition', true],
  [
    'a start condition on the party',
    { version: start({ onlyIf: { field: 'booking.party size', comparison: 'is at least', value: 5 } }) },
    'condition',
    false,
  ],
  ['a step switched off', { step: { isOff: true } }, 'off', true],
  ['off for this client', {}, 'off', true],
  [
    'off for this service',
    { settings: { variations: [variation({ of: 'service', serviceId: 'sv_lesson' })] } },
    'off',
    true,
  ],
  ['a tag wanted', { step: { onlyIf: tag('family') } }, 'condition', true],
  [
    'a tag too many',
    { client: { tags: ['family'] }, step: { onlyIf: { none: [tag('family'), tag('press')] } } },
    'condition',
    true,
  ],
  [
    'another language',
    { step: { onlyIf: { field: 'client.language', comparison: 'is', value: 'de' } } },
    'condition',
    true,
  ],
  ['one of two', { step: { onlyIf: { any: [{ all: [tag('a'), tag('b')] }, tag('c')] } } }, 'condition', true],
  [
    'an answer wanted',
    { step: { onlyIf: { field: 'since the run started: answered', comparison: 'is', value: true } } },
    'condition',
    true,
  ],
  [
    'nobody to write to',
    { step: { recipients: [{ to: 'other contacts', letterId: null }] } },
    'no recipient',
    false,
  ],
  ['no address', { client: { contacts: [{ ...contact, email: null }] } }, 'no address', true],
  [
    'no consent',
    {
      client: { takesPromotional: false },
      step: { purpose: 'promotional', letterId: 'lt_starter-reminder' },
    },
    'no consent',
    true,
  ],
  [
    'a letter nobody has read',
    { settings: { letters: starter(exampleSettings(realZones)) } },
    'unread letter',
    true,
  ],
  ['booked too late for it', { startLocal: '2026-05-14T20:00' }, 'late', false],
  [
    'an event that has no value yet',
    { step: { timing: elapsed({ of: 'booking status', status: 'completed' }) } },
    'no value yet',
    false,
  ],
  [
    'a step before it',
    {
      version: {
        steps: [
          { ...eveningBefore, id: 'st_first' },
          { ...eveningBefore, timing: { kind: 'after previous', amount: 1, unit: 'days', atTime: null } },
        ],
      },
    },
    'previous step',
    false,
  ],
  [
    'a missing value',
    { step: { letterId: 'lt_plain' }, client: { contacts: [{ ...contact, firstName: '' }] } },
    'missing field',
    false,
  ],
  [
    'two things at once',
    { settings: { isSendingOn: false }, client: { contacts: [{ ...contact, email: null }] } },
    'sending off',
    true,
  ],
]

describe('why a message does not come', () => {
  test.each(cases)('%s', (name, of, code, comesThen) => {
    const world = worldFor(of)
    if (name === 'off for this client') {
      const put = {
        kind: 'put variation',
        variation: variation({ of: 'client', clientId: exampleClient.id }),
      } as const
      world.carryOut(done([put]))
    }
    const answer = ask(world).find(({ stepId }) => stepId === 'st_x')
    expect(answer?.because?.code).toBe(code)
    expect(answer?.because?.sentence).not.toBe('')
    expect(answer?.comesThen).toBe(comesThen)
    if (!answer || !comesThen) return
    expect(answer.words).toHaveLength(answer.changes.length)
    applyAll(world, answer)
    expect(goes(world, answer)).toBe(true)
  })

  test('nothing is in the way of one that goes', () => {
    const world = worldFor({})
    const [answer] = ask(world)
    expect(answer).toMatchObject({ because: null, changes: [], comesThen: true, send: { state: 'ready' } })
    expect(answer && goes(world, answer)).toBe(true)
  })

  test('asked for a letter, every step that sends it answers, and no other', () => {
    const world = worldFor({})
    const slice = world.slice()
    const [answer, ...others] = whyNotAsked({ letterId: eveningBefore.letterId }, slice, world.now())
    expect(answer?.stepId).toBe('st_x')
    expect(others).toEqual([])
    expect(whyNotAsked({ letterId: 'lt_starter-thanks' }, slice, world.now())).toEqual([])
  })

  test('a booking moved before the sequence went live: when it was moved, and when that went live', () => {
    const start = startRule.parse({ on: 'booking moved' })
    const world = worldFor({
      sequence: { liveSince: moment('2026-05-14 12:00') },
      version: { start, steps: [{ ...eveningBefore, id: 'st_x', timing: { kind: 'at once' } }] },
    })
    const [booking] = world.facts().bookings
    const times = { startLocal: '2026-05-20T19:00', endLocal: '2026-05-20T21:00' }
    world.carryOut(
      moveBooking(world.slice(), booking?.id ?? '', booking?.revision ?? 0, times, () => 0, world.context()),
    )
    world.advance(moment('2026-05-14 13:00'))
    const [answer] = ask(world)
    expect(answer).toMatchObject({
      subject: { kind: 'booking', id: booking?.id },
      because: { code: 'before going live', remedy: null },
      comesThen: false,
    })
    expect(answer?.because?.sentence).toMatch(/^It happened Thu 14 May.*, 07:\d\d, not after .* 12:00\)\.$/)
    expect(answer?.because?.change).toBe('It would have to happen once more that a booking is moved.')
  })

  test('a letter for another service: which letter comes here instead, by name', () => {
    const world = worldFor({})
    const other = {
      ...variation({ of: 'service', serviceId: 'sv_other' }),
      letterId: 'lt_starter-thanks',
      isOff: null,
    }
    world.changeSettings((present) => ({ ...present, variations: [other] }))
    const answers = whyNotAsked({ letterId: 'lt_starter-thanks' }, world.slice(), world.now())
    expect(answers.map(({ because }) => because?.code)).toContain('another letter')
    expect(answers[0]?.because?.sentence).toContain('“Thank you for coming” elsewhere')
    expect(answers[0]?.because?.sentence).toContain('for Kite lesson')
  })

  test('what is in the way even after all changes is said by name', () => {
    const world = worldFor({ version: { stops: [stopRule.parse({ on: 'answered', name: null })] } })
    for (const answer of ask(world)) {
      expect(answer.comesThen).toBe(answer.still === null)
      if (answer.still) expect(answer.still.sentence).not.toMatch(/something else|nobody/)
    }
  })

  test('a run that has stopped says why, and that it starts only once', () => {
    const answered = { on: 'answered', name: null } as const
    const world = worldFor({ version: { stops: [stopRule.parse(answered)] } })
    const [before] = ask(world)
    applyAll(world, {
      ...before,
      changes: [
        {
          kind: 'facts',
          subject: { kind: 'client', id: 'cl_1' },
          changes: [{ field: 'since the run started: answered', to: true, has: true }],
        },
      ],
    } as WhyNotAnswer)
    const [answer] = ask(world)
    expect(answer).toMatchObject({ because: { code: 'stopped' }, comesThen: false })
    expect(answer && goes(world, answer)).toBe(false)
  })

  test('the smallest of several ways is proposed', () => {
    const onlyIf = { any: [{ all: [tag('a'), tag('b'), tag('c')] }, { all: [tag('d'), tag('e')] }] }
    const [answer] = ask(worldFor({ step: { onlyIf } }))
    expect(answer?.because?.change).toBe('client.tag would have to be d. client.tag would have to be e.')
  })
})

const anyTest: fc.Arbitrary<Condition> = fc.oneof(
  fc.constantFrom('a', 'b', 'c').map(tag),
  fc.constantFrom('a', 'b').map((value): Condition => ({ field: 'client.tag', comparison: 'is not', value })),
  fc
    .constantFrom('en', 'de')
    .map((value): Condition => ({ field: 'client.language', comparison: 'is', value })),
  fc.constant<Condition>({ field: 'client.list', comparison: 'is one of', value: ['news', 'club'] }),
  fc
    .constantFrom(2, 5)
    .map((value): Condition => ({ field: 'booking.party size', comparison: 'is at least', value })),
  fc
    .constantFrom('answered' as const, 'opened' as const)
    .chain((what) =>
      fc
        .boolean()
        .map((value): Condition => ({ field: `since the run started: ${what}`, comparison: 'is', value })),
    ),
)
const anyCondition: fc.Arbitrary<Condition | null> = fc.oneof(
  fc.constant(null),
  anyTest,
  fc
    .array(anyTest, { minLength: 1, maxLength: 3 })
    .chain((parts) => fc.constantFrom<Condition>({ all: parts }, { any: parts }, { none: parts })),
)
const anyCase: fc.Arbitrary<Case> = fc.record({
  step: fc.record({
    onlyIf: anyCondition,
    isOff: fc.constantFrom(false, false, true),
    needsApproval: fc.boolean(),
    purpose: fc.constantFrom('reminder' as const, 'promotional' as const),
  }),
  client: fc.record({
    tags: fc.subarray(['a', 'b', 'c']),
    language: fc.constantFrom('en' as const, 'de' as const),
    takesPromotional: fc.boolean(),
    isActive: fc.constantFrom(true, true, true, false),
    isHeldBack: fc.constantFrom(false, false, true),
    contacts: fc.constantFrom([contact], [contact], [{ ...contact, email: null }]),
  }),
  sequence: fc.constantFrom<Partial<Sequence>>(
    {},
    {},
    { state: 'paused' },
    { state: 'draft', liveSince: null },
  ),
  version: anyCondition.map((onlyIf) => start({ onlyIf })),
  settings: fc.constantFrom<Partial<Settings>>(
    {},
    {},
    { isSendingOn: false },
    { letters: starter(exampleSettings(realZones)) },
  ),
  status: fc.constantFrom('confirmed' as const, 'confirmed' as const, 'requested' as const),
  isLiveLater: fc.boolean(),
})

describe('the smallest change', () => {
  test('once made, the message really comes; without it, it really does not', () => {
    let brought = 0
    fc.assert(
      fc.property(anyCase, (of) => {
        for (const [index, answer] of ask(worldFor(of)).entries()) {
          const untouched = worldFor(of)
          expect(goes(untouched, answer)).toBe(answer.because === null)
          if (!answer.comesThen) continue
          const world = worldFor(of)
          const again = ask(world)[index]
          if (!again) throw new Error('no answer')
          applyAll(world, again)
          expect(goes(world, again)).toBe(true)
          if (again.changes.length > 0) brought += 1
        }
      }),
      { numRuns: 300 },
    )
    // A check that cannot fail would never see a message come.
    expect(brought).toBeGreaterThan(50)
  })

  test('confirming by hand is what “booking confirmed” asks for', () => {
    const world = worldFor({ status: 'requested' })
    const [answer] = ask(world)
    expect(answer?.words).toEqual(['booking.status would have to be confirmed.'])
    const [booking] = world.facts().bookings
    world.carryOut(confirmBooking(world.slice(), booking?.id ?? '', booking?.revision ?? 0, world.context()))
    expect(answer && goes(world, answer)).toBe(true)
  })
})
