import { describe, expect, test } from '@jest/globals'
import { evaluate, type ConditionFacts } from '../../conditions/evaluate.ts'
import { heldSince } from '../../conditions/heldSince.ts'
import type { OwnStatus } from '../../model/ownStatus.ts'
import { endsOn, type StartRule, type StopRule } from '../../model/sequence.ts'
import { calendarsOf } from '../../planning/slice.ts'
import {
  at,
  exampleClient,
  exampleService,
  exampleSettings,
  exampleStep,
} from '../../rehearsal/exampleBusiness.ts'
import { createWorld, type World } from '../../rehearsal/world.ts'
import { hourMs, minuteMs } from '../../time/calendar.ts'
import { realZones } from '../../time/realZones.ts'
import { settingsWithEffects } from '../effects.ts'
import {
  cancelBooking,
  confirmBooking,
  giveOwnStatus,
  makeBooking,
  moveBooking,
  settleNow,
} from './bookingCommands.ts'
import { settingsChanged } from './settingsCommands.ts'
import { removeOwnStatus, type OwnStatusInput } from './statusSettings.ts'

/* Statuses of the business's own: each a finer word for one that every booking knows. */

const start = at(realZones, 'Europe/Berlin', '2026-05-14 09:00')
const own = (name: string, part: Partial<OwnStatus> = {}): OwnStatus => ({
  id: `os_${name.replaceAll(' ', '')}`,
  name,
  meaning: 'confirmed',
  after: [],
  serviceIds: [],
  comes: null,
  comesSince: start,
  isActive: true,
  revision: 1,
  ...part,
})
const papersIn = own('papers in')
const weatherWatch = own('weather watch', { comes: { hours: 48, side: 'before', of: 'start' } })
const rainedOff = own('rained off', { meaning: 'cancelled', after: ['weather watch'] })

const entered: StartRule = {
  on: 'booking status entered',
  name: 'papers in',
  serviceIds: [],
  onlyIf: null,
  again: { kind: 'every time', gap: null },
}

function world(
  ownStatuses: readonly OwnStatus[] = [papersIn, weatherWatch, rainedOff],
  startRule: StartRule = entered,
  stops: readonly StopRule[] = [],
): World {
  const settings = exampleSettings(realZones, [
    exampleStep({ id: 'st_now', purpose: 'confirmation', timing: { kind: 'at once' } }),
  ])
  const sequenceVersions = settings.sequenceVersions.map((one) => ({
    ...one,
    start: startRule,
    stops: [...stops],
  }))
  const made = createWorld({ ...settings, ownStatuses, sequenceVersions }, exampleClient, start)
  book(made, '2026-05-20T19:00', '2026-05-20T21:00')
  return made
}

function book(of: World, startLocal: string, endLocal: string) {
  const asked = {
    clientId: exampleClient.id,
    serviceId: exampleService.id,
    startLocal,
    endLocal,
    partySize: 2,
    status: 'confirmed' as const,
    personInChargeId: null,
  }
  of.carryOut(makeBooking(of.slice(), asked, () => 0, of.context()))
}

const bookingOf = (of: World) => {
  const [booking] = of.facts().bookings
  if (!booking) throw new Error('There is no booking')
  return booking
}
function give(of: World, name: string | null) {
  const { id, revision } = bookingOf(of)
  return giveOwnStatus(of.slice(), id, revision, name, of.context())
}
const given = (of: World, name: string | null) => of.carryOut(give(of, name))
const refusal = (result: ReturnType<typeof give>) => (result.ok ? 'done' : result.problem.sentence)
const after = (of: World, minutes: number) => of.advance(of.now() + minutes * minuteMs)
const runsOf = (of: World) => of.facts().runs.map(({ state }) => state)

describe('a status of the business’s own', () => {
  test('is entered once it has settled: its sequence starts then, and the booking keeps its seats and messages', () => {
    const of = world()
    given(of, 'papers in')
    expect(bookingOf(of)).toMatchObject({ status: 'confirmed', own: { status: 'papers in' } })
    expect(runsOf(of)).toEqual([])
    after(of, 3)
    expect(runsOf(of)).toEqual(['running'])
    expect(of.outbox()).toHaveLength(1)
    expect(bookingOf(of).own.settling).toBeNull()
  })

  test('given and taken back while it settles has never been; what it had stopped goes on', () => {
    const stopped = world(undefined, { ...entered, on: 'booking confirmed', name: null }, [
      { ...endsOn('booking status entered'), name: 'papers in' },
    ])
    expect(runsOf(stopped)).toEqual(['running'])
    given(stopped, 'papers in')
    expect(runsOf(stopped)).toEqual(['stopped'])
    given(stopped, null)
    expect(runsOf(stopped)).toEqual(['running'])
    expect(bookingOf(stopped).own).toEqual({ status: null, at: {}, settling: null })

    const started = world()
    given(started, 'papers in')
    given(started, null)
    after(started, 10)
    expect(runsOf(started)).toEqual([])
  })

  test('of quick changes only the last is told, and “now” does not wait', () => {
    const of = world(undefined, { ...entered, name: null })
    given(of, 'weather watch')
    given(of, 'papers in')
    const { id, revision } = bookingOf(of)
    of.carryOut(settleNow(of.slice(), id, revision, of.context()))
    expect(runsOf(of)).toEqual(['running'])
    after(of, 10)
    expect(of.outbox()).toHaveLength(1)
    const again = settleNow(of.slice(), id, bookingOf(of).revision, of.context())
    expect(again.ok ? '' : again.problem.sentence).toBe('Nothing is settling here any more.')
  })

  test('brings about what it means, and may be told to follow only some', () => {
    const of = world()
    expect(refusal(give(of, 'rained off'))).toBe(
      'A booking that is confirmed cannot become “rained off”. It follows only “weather watch”.',
    )
    given(of, 'weather watch')
    given(of, 'rained off')
    expect(bookingOf(of)).toMatchObject({ status: 'cancelled', own: { status: 'rained off' } })
    expect(bookingOf(of).cancellation).toEqual({ by: 'business', reason: '', feeCents: 0 })
    // Confirmed while that settles, it stands as before, with the status it had.
    const { id, revision } = bookingOf(of)
    of.carryOut(confirmBooking(of.slice(), id, revision, of.context()))
    expect(bookingOf(of)).toMatchObject({ status: 'confirmed', own: { status: 'weather watch' } })
  })

  test('ends with what it means: cancelled, a booking has none; moved, it keeps it', () => {
    const of = world()
    given(of, 'papers in')
    const moved = { startLocal: '2026-05-21T19:00', endLocal: '2026-05-21T21:00' }
    of.carryOut(
      moveBooking(of.slice(), bookingOf(of).id, bookingOf(of).revision, moved, () => 0, of.context()),
    )
    expect(bookingOf(of).own.status).toBe('papers in')
    of.carryOut(cancelBooking(of.slice(), bookingOf(of).id, bookingOf(of).revision, of.context()))
    expect(bookingOf(of).own.status).toBeNull()
    after(of, 10)
    expect(runsOf(of)).toEqual([])
  })

  test.each<[string, string | null, string]>([
    ['one there is not', 'blue', 'There is no status “blue”.'],
    ['none where there is none', null, 'It has no status of yours.'],
    ['one that is archived', 'old', '“old” is archived: no booking gets it any more.'],
    [
      'one whose meaning is not possible now',
      'over',
      'This booking is still ahead: it cannot have taken place.',
    ],
    ['one for another service', 'on the ground', 'not for bookings of'],
    ['one of requests', 'waiting', 'A booking that is confirmed cannot become “waiting”.'],
  ])('is refused: %s', (_, name, sentence) => {
    const of = world([
      own('old', { isActive: false }),
      own('over', { meaning: 'completed' }),
      own('on the ground', { serviceIds: ['sv_other'] }),
      own('waiting', { meaning: 'requested' }),
    ])
    expect(refusal(give(of, name))).toContain(sentence)
  })

  test('twice, and on a booking changed meanwhile: refused', () => {
    const of = world()
    given(of, 'papers in')
    expect(refusal(give(of, 'papers in'))).toBe('This booking is “papers in” already.')
    const stale = giveOwnStatus(of.slice(), bookingOf(of).id, 1, null, of.context())
    expect(refusal(stale)).toContain('changed this booking meanwhile')
  })
})

describe('a date that passes', () => {
  const comes: StartRule = { ...entered, name: 'weather watch' }

  test('gives the status at its moment, once for its time and again for the next', () => {
    const of = world(undefined, comes)
    const watchAt = bookingOf(of).startAt - 48 * hourMs
    of.advance(watchAt - 1)
    expect(bookingOf(of).own.status).toBeNull()
    of.advance(watchAt)
    expect(bookingOf(of).own).toMatchObject({ status: 'weather watch', at: { 'weather watch': watchAt } })
    // Nobody has done it who could take it back: what starts on it starts at once, and nothing waits.
    expect(bookingOf(of).own.settling).toBeNull()
    expect(runsOf(of)).toEqual(['running'])
    given(of, 'papers in')
    of.advance(watchAt + 10 * hourMs)
    expect(bookingOf(of).own.status).toBe('papers in')
    const moved = { startLocal: '2026-05-27T19:00', endLocal: '2026-05-27T21:00' }
    of.carryOut(
      moveBooking(of.slice(), bookingOf(of).id, bookingOf(of).revision, moved, () => 0, of.context()),
    )
    of.advance(bookingOf(of).startAt - 47 * hourMs)
    expect(bookingOf(of).own.status).toBe('weather watch')
  })

  test('a booking made after its moment gets it at once; a cancelled one never', () => {
    const of = world(undefined, comes)
    of.carryOut(cancelBooking(of.slice(), bookingOf(of).id, 1, of.context()))
    of.advance(at(realZones, 'Europe/Berlin', '2026-05-19 12:00'))
    expect(bookingOf(of).own.status).toBeNull()
    book(of, '2026-05-20T08:00', '2026-05-20T10:00')
    after(of, 1)
    expect(of.facts().bookings.map((one) => one.own.status)).toEqual([null, 'weather watch'])
    expect(of.outbox()).toHaveLength(1)
  })

  test('of two that come late at once the one that was meant last stays', () => {
    const noHurry = own('a day before', { comes: { hours: 24, side: 'before', of: 'start' } })
    const of = world([noHurry, weatherWatch], comes)
    of.advance(at(realZones, 'Europe/Berlin', '2026-05-22 12:00'))
    book(of, '2026-05-22T20:00', '2026-05-22T22:00')
    after(of, 1)
    const late = of.facts().bookings.at(-1)
    expect(Object.keys(late?.own.at ?? {})).toEqual(['weather watch', 'a day before'])
    expect(late?.own.status).toBe('a day before')
  })

  test('that had passed when the status was set up does not count', () => {
    const lateSince = at(realZones, 'Europe/Berlin', '2026-05-19 12:00')
    const of = world([own('weather watch', { ...weatherWatch, comesSince: lateSince })], comes)
    of.advance(bookingOf(of).endAt + hourMs)
    expect(bookingOf(of).own.at).toEqual({})
  })
})

describe('conditions', () => {
  test('ask for the present one, for all there have been, and since when', () => {
    const of = world()
    after(of, 60)
    given(of, 'papers in')
    const givenAt = of.now()
    after(of, 60)
    const [booking] = of.facts().bookings
    const { client, bookings } = of.facts()
    const { office } = calendarsOf(of.slice().settings)
    const facts: ConditionFacts = {
      now: of.now(),
      runStartedAt: start,
      client,
      booking: booking ?? null,
      enquiry: null,
      invoice: null,
      bookings,
      happenings: [],
      clock: { zone: realZones.zone('Europe/Berlin'), officeHours: office },
    }
    const isIn = { field: 'booking.own status', comparison: 'is', value: 'papers in' } as const
    expect(evaluate(isIn, facts).holds).toBe(true)
    // It counts as entered when it had settled.
    expect(heldSince(isIn, facts)).toBe(givenAt + 2 * minuteMs)
    expect(heldSince({ ...isIn, comparison: 'is not', value: 'weather watch' }, facts)).toBe(start)
    const ever = { field: 'booking.status ever reached', comparison: 'is', value: 'papers in' } as const
    expect(evaluate(ever, facts).holds).toBe(true)
  })
})

describe('set up', () => {
  const settings = { ...exampleSettings(realZones), ownStatuses: [papersIn, rainedOff] }
  const context = { now: start, personId: null, newId: (prefix: string) => `${prefix}_new` }
  const input: OwnStatusInput = {
    name: 'packed',
    meaning: 'confirmed',
    after: [],
    serviceIds: [],
    comes: null,
    isActive: true,
  }
  const change = (ownStatus: OwnStatusInput, id: string | null = null, revision = 0) =>
    settingsChanged(settings, { of: 'own status', id, revision, ownStatus }, context)

  test('is added, and changed on the revision it was seen in', () => {
    const added = change(input)
    if (!added.ok) throw new Error(added.problem.sentence)
    expect(settingsWithEffects(settings, added.value).ownStatuses).toHaveLength(3)
    expect(change({ ...input, name: 'papers in' }, papersIn.id, 1).ok).toBe(true)
    const stale = change({ ...input, name: 'papers in' }, papersIn.id, 4)
    expect(stale.ok ? '' : stale.problem.code).toBe('changed meanwhile')
  })

  test.each<[string, Partial<OwnStatusInput>, string, string]>([
    ['a name that is taken', { name: 'Papers In' }, 'name', 'There is a status “Papers In” already.'],
    ['one it cannot follow', { after: ['blue'] }, 'after', 'no status “blue” that it could follow'],
    ['after itself', { after: ['packed'] }, 'after', '“packed” cannot follow itself.'],
    [
      'after what cannot become it',
      { meaning: 'completed', after: ['missed'] },
      'after',
      'cannot become completed',
    ],
    [
      'after one whose meaning cannot become it',
      { meaning: 'missed', after: ['rained off'] },
      'after',
      '“rained off” means cancelled, and a booking that is cancelled cannot become missed.',
    ],
    [
      'taken place before it begins',
      { meaning: 'completed', comes: { hours: 2, side: 'before', of: 'start' } },
      'comes',
      'still ahead cannot be completed',
    ],
  ])('is refused: %s', (_, part, path, sentence) => {
    const result = change({ ...input, ...part })
    if (result.ok) throw new Error('It was accepted')
    expect(result.problem).toMatchObject({ field: path })
    expect(result.problem.sentence).toContain(sentence)
  })

  test('a name or a meaning is for good', () => {
    for (const part of [{ name: 'documents in' }, { name: 'papers in', meaning: 'requested' as const }]) {
      const result = change({ ...input, ...part }, papersIn.id, 1)
      expect(result.ok ? '' : result.problem.sentence).toContain('keeps its name and its meaning')
    }
  })

  test('is deleted only where nothing depends on it', () => {
    const used = removeOwnStatus(settings, papersIn.id, ['3 bookings'], context)
    expect(used.ok ? '' : used.problem.sentence).toBe('It is still used: 3 bookings. Archive it instead.')
    const removed = removeOwnStatus(settings, papersIn.id, [], context)
    if (!removed.ok) throw new Error(removed.problem.sentence)
    expect(settingsWithEffects(settings, removed.value).ownStatuses).toEqual([rainedOff])
  })
})
