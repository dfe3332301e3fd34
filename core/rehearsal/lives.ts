import fc from 'fast-check'
import { act, type Act } from './acts.ts'
import { bundle, type Bundle } from './bundle.ts'

/*
 * For tests: random lives of a booking. The generator knows what usually goes wrong: moves there and back, changes
 * taken back within minutes, moves too small to count, requests, misses, repeats, chains, branches, approvals, pauses,
 * several zones, nights, weekends and clock changes, and acts at the very instant something is due.
 */

const zones = ['Europe/Berlin', 'America/New_York', 'Australia/Lord_Howe', 'Africa/Casablanca'] as const
const start = { of: 'booking start' } as const
const minuteMs = 60_000
const dayMs = 1440 * minuteMs

const timeOfDay = fc.constantFrom('07:00', '09:00', '18:00', '18:30', '22:00')
const anchor = fc.constantFrom(
  start,
  start,
  start,
  { of: 'booking end' },
  { of: 'booking made' },
  { of: 'booking status', status: 'confirmed' },
  { of: 'booking moved' },
)
const exact = fc.record({
  kind: fc.constant('elapsed'),
  amount: fc.integer({ min: 1, max: 60 }),
  unit: fc.constantFrom('minutes', 'hours', 'hours', 'business hours'),
  direction: fc.constantFrom('before', 'before', 'after'),
  anchor,
})
const calendar = fc.record({
  kind: fc.constant('calendar'),
  amount: fc.integer({ min: 0, max: 6 }),
  unit: fc.constantFrom('days', 'days', 'working days', 'weeks', 'months'),
  direction: fc.constantFrom('before', 'before', 'after'),
  anchor,
  atTime: fc.option(timeOfDay),
})
const chained = fc
  .record({
    kind: fc.constant('after previous'),
    amount: fc.integer({ min: 0, max: 5 }),
    unit: fc.constantFrom('hours', 'days', 'working days'),
    atTime: fc.option(timeOfDay),
  })
  .map((one) => (one.unit === 'hours' ? { ...one, atTime: null } : one))
const timing = fc.oneof(fc.constant({ kind: 'at once' }), exact, exact, calendar, calendar, chained)

const purpose = fc.constantFrom(
  'confirmation',
  'change',
  'reminder',
  'reminder',
  'preparation',
  'preparation',
  'payment',
  'follow-up',
  'promotional',
)
const tagged = { field: 'client.tag', comparison: 'is', value: 'paid' }
const formCame = { field: 'since the run started: form received', comparison: 'is', value: true }
const completed = { field: 'booking.status', comparison: 'is', value: 'completed' }

const repeat = fc.record({
  every: fc.record({
    amount: fc.integer({ min: 1, max: 3 }),
    unit: fc.constantFrom('hours', 'days', 'days', 'working days', 'months'),
  }),
  untilCondition: fc.option(fc.constantFrom(tagged, formCame)),
  untilAnchor: fc.option(fc.constant(start)),
  atMost: fc.integer({ min: 2, max: 4 }),
})

const onlyDays = fc.constantFrom(
  null,
  null,
  null,
  null,
  'working days',
  { weekdays: [1, 2, 3] },
  { weekdays: [6, 7] },
)
const stepBody = fc.record({
  kind: fc.constant('mail'),
  letterId: fc.constant('lt_1'),
  purpose,
  timing,
  repeat: fc.option(repeat, { freq: 4 }),
  needsApproval: fc.constantFrom(false, false, false, true),
  ifMoved: fc.constantFrom(null, null, null, 'leave', 'send again'),
  ifLate: fc.constantFrom(null, null, null, 'drop', 'send now'),
  sendingHours: fc.constantFrom(null, null, null, 'ignore', 'later'),
  onlyIf: fc.constantFrom(null, null, null, null, tagged, completed, formCame),
  onlyDays,
})

interface Arm {
  readonly id: string
}

const numbered = (bodies: readonly object[], prefix: string): readonly Arm[] =>
  bodies.map((body, index) => ({ ...body, id: `st_${prefix}${index}` }))

const steps = fc
  .record({
    main: fc.array(stepBody, { minLength: 1, maxLength: 4 }),
    branch: fc.option(
      fc.record({
        condition: fc.constantFrom(tagged, formCame),
        amount: fc.integer({ min: 1, max: 4 }),
        yes: fc.array(stepBody, { maxLength: 1 }),
        no: fc.array(stepBody, { maxLength: 1 }),
        after: fc.array(stepBody, { maxLength: 1 }),
      }),
      { freq: 5 },
    ),
  })
  .map(({ main, branch }) => {
    const all: object[] = [...numbered(main, 'm')]
    if (!branch) return all
    const decided = { kind: 'after previous', amount: branch.amount, unit: 'days', atTime: null }
    return [
      ...all,
      {
        kind: 'branch',
        id: 'st_branch',
        condition: branch.condition,
        timing: decided,
        yes: numbered(branch.yes, 'y'),
        no: numbered(branch.no, 'n'),
      },
      ...numbered(branch.after, 'a'),
    ]
  })

const again = { kind: 'every time', gap: null }
const sequenceOf = (id: string) =>
  fc
    .record({
      on: fc.constantFrom(
        'booking confirmed',
        'booking confirmed',
        'booking moved',
        'booking requested',
        'booking cancelled',
        'booking completed',
        'booking made or confirmed',
        'tag added',
      ),
      steps,
      stops: fc.constantFrom(
        [],
        [],
        [{ on: 'event over' }],
        [{ on: 'form received' }],
        [{ on: 'form received', does: 'holds' }],
        [{ on: 'booking confirmed' }],
      ),
    })
    .map(({ on, steps: own, stops }) => ({
      id: `sq_${id}`,
      start: { on, ...(on === 'booking moved' || on === 'tag added' ? { again } : {}) },
      stops,
      steps: own.map((one) => renamed(one, id)),
    }))

/** Step ids are told apart by their sequence, so that a person's decision names one step. */
function renamed(step: object, by: string): object {
  const { id, yes, no } = step as { id: string; yes?: object[]; no?: object[] }
  const arms =
    yes && no ? { yes: yes.map((one) => renamed(one, by)), no: no.map((one) => renamed(one, by)) } : {}
  return { ...step, ...arms, id: `${id}-${by}` }
}

const hours = fc.constantFrom(
  { from: '08:00', to: '20:00', days: 7 },
  { from: '08:00', to: '18:00', days: 5 },
  { from: '00:00', to: '24:00', days: 7 },
)
const week = ({ from, to, days }: { from: string; to: string; days: number }) =>
  Array.from({ length: 7 }, (_, index) => (index < days ? [{ from, to }] : []))

/** Minutes until the next act; often within the settle time of the one before. */
const gap = fc.oneof(
  fc.constantFrom(0, 1, 1, 2, 3, 10, 60),
  fc.integer({ min: 1, max: 1440 }),
  fc.integer({ min: 1440, max: 6 * 1440 }),
)
const happening = fc.oneof(
  fc.record({ what: fc.constant('move' as const), byMinutes: fc.integer({ min: -4 * 1440, max: 8 * 1440 }) }),
  fc.record({
    what: fc.constant('move' as const),
    byMinutes: fc.constantFrom(-14, -10, -5, 5, 10, 14, 15, 20),
  }),
  fc.record({ what: fc.constant('back' as const) }),
  fc.record({ what: fc.constant('back' as const) }),
  fc.record({ what: fc.constantFrom('cancel' as const, 'miss' as const, 'complete' as const) }),
  fc.record({ what: fc.constant('confirm' as const) }),
  fc.record({ what: fc.constant('confirm' as const) }),
  fc.record({
    what: fc.constant('client' as const),
    did: fc.constantFrom('opened', 'form received', 'tag added', 'tag removed'),
  }),
  fc.record({
    what: fc.constant('decide' as const),
    decision: fc.constantFrom('approve', 'approve', 'skip', 'hold back', 'send now'),
    pick: fc.nat(20),
  }),
  fc.record({
    what: fc.constant('postpone' as const),
    byMinutes: fc.integer({ min: 1, max: 3000 }),
    pick: fc.nat(20),
  }),
  fc.record({ what: fc.constant('switch' as const), pick: fc.nat(3) }),
)
export type Happening = typeof happening extends fc.Arbitrary<infer One> ? One : never

/** One thing that happens, some time after the one before, perhaps at the very instant something is due. */
export interface Turn {
  readonly gapMinutes: number
  readonly isAtDue: boolean
  readonly happens: Happening
}

export interface LifePlan {
  readonly bundle: Bundle
  readonly startAt: number
  readonly bookedAt: number
  readonly status: 'requested' | 'confirmed'
  readonly turns: readonly Turn[]
}

export const bookingHours = 2

export const lifePlan: fc.Arbitrary<LifePlan> = fc
  .record({
    zone: fc.constantFrom(...zones),
    placeZone: fc.constantFrom(null, null, ...zones),
    clientZone: fc.constantFrom(null, null, null, ...zones),
    hours,
    settleMinutes: fc.constantFrom(2, 2, 2, 0),
    gapHours: fc.constantFrom(0, 24),
    sequences: fc.tuple(sequenceOf('a'), sequenceOf('b'), sequenceOf('c')).map((all) => all),
    count: fc.integer({ min: 1, max: 3 }),
    // About the clock changes of spring, in the four zones on different days.
    bookedAt: fc
      .integer({ min: 0, max: 60 * 24 * 60 })
      .map((minutes) => Date.parse('2026-03-01T08:00:00Z') + minutes * minuteMs),
    leadMinutes: fc.integer({ min: 90, max: 14 * 1440 }),
    status: fc.constantFrom('requested' as const, 'confirmed' as const, 'confirmed' as const),
    turns: fc.array(
      fc.record({ gapMinutes: gap, isAtDue: fc.constantFrom(false, false, false, true), happens: happening }),
      { maxLength: 9 },
    ),
  })
  .map(({ bookedAt, leadMinutes, status, turns, ...rest }) => {
    const { sequences, count, zone, placeZone, clientZone, settleMinutes, gapHours } = rest
    const read = bundle.parse({
      format: 'vorfreude-bundle-1',
      now: new Date(bookedAt).toISOString(),
      business: {
        zone,
        settleMinutes,
        promotionalGapHours: gapHours,
        sendingHours: { weekly: week(rest.hours) },
        officeHours: { weekly: week({ from: '09:00', to: '17:00', days: 5 }) },
      },
      services: [{ id: 'sv_1', placeZone }],
      clients: [{ id: 'cl_1', zone: clientZone, contacts: [{ id: 'ct_1', email: 'oona@siltanen.example' }] }],
      sequences: sequences.slice(0, count),
      events: [],
    })
    return { bundle: read, bookedAt, startAt: bookedAt + leadMinutes * minuteMs, status, turns }
  })

/** What a life looks like from outside while it goes on: what the next act is made from. */
export interface Sight {
  readonly now: number
  readonly nextAt: number | null
  readonly startAt: number
  readonly endAt: number
  /** Times it has had, oldest first. */
  readonly earlier: readonly { readonly startAt: number; readonly endAt: number }[]
  readonly open: readonly { readonly sequenceId: string; readonly stepId: string }[]
  readonly paused: readonly string[]
  readonly isSendingOn: boolean
  readonly sequenceIds: readonly string[]
}

const iso = (at: number) => new Date(at).toISOString()
const of = { clientId: 'cl_1' }

/** The act that books. */
export function bookingAct({ bookedAt, startAt, status }: LifePlan): Act {
  const end = startAt + bookingHours * 60 * minuteMs
  const times = { start: iso(startAt), end: iso(end) }
  return act.parse({ act: 'book', at: iso(bookedAt), ...of, id: 'bk_1', serviceId: 'sv_1', status, ...times })
}

/** When the next turn is: after its gap, or at the instant at which something is due before that. */
export function momentOfTurn({ gapMinutes, isAtDue }: Turn, { now, nextAt }: Sight): number {
  const at = now + gapMinutes * minuteMs
  return isAtDue && nextAt !== null && nextAt > now && nextAt < now + 30 * dayMs ? nextAt : at
}

/** The act of a turn at a moment; null: there is nothing to do it to. */
export function actOf({ happens }: Turn, at: number, sight: Sight): Act | null {
  const named = (name: string, part: object) => act.parse({ act: name, at: iso(at), ...part })
  const booking = { ...of, bookingId: 'bk_1' }
  const pick = 'pick' in happens ? sight.open[happens.pick % Math.max(1, sight.open.length)] : undefined
  switch (happens.what) {
    case 'move': {
      const by = happens.byMinutes * minuteMs
      return named('move', { ...booking, start: iso(sight.startAt + by), end: iso(sight.endAt + by) })
    }
    case 'back': {
      const before = sight.earlier.at(-2)
      if (!before) return null
      return named('move', { ...booking, start: iso(before.startAt), end: iso(before.endAt) })
    }
    case 'client':
      return named('client', { ...of, did: happens.did, name: happens.did.startsWith('tag') ? 'paid' : '' })
    case 'decide':
      return pick ? named('decide', { ...of, ...pick, decision: happens.decision }) : null
    case 'postpone':
      return pick ? named('postpone', { ...of, ...pick, to: iso(at + happens.byMinutes * minuteMs) }) : null
    case 'switch': {
      if (happens.pick === 0) return named('switch', { sequenceId: null, isOn: !sight.isSendingOn })
      const sequenceId = sight.sequenceIds[happens.pick % sight.sequenceIds.length] ?? ''
      return named('switch', { sequenceId, isOn: sight.paused.includes(sequenceId) })
    }
    default:
      return named(happens.what, booking)
  }
}
