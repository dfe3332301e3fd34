import { describe, expect, test } from '@jest/globals'
import fc from 'fast-check'
import type { Service } from '../model/business.ts'
import { standardOffer, type Starts } from '../model/offer.ts'
import type { OpeningHours } from '../model/openingHours.ts'
import type { Settings } from '../planning/slice.ts'
import {
  exampleBusiness,
  examplePerson,
  exampleService,
  exampleSettings,
} from '../rehearsal/exampleBusiness.ts'
import { dayMs, epochDayOf, hourMs, isoDateOf, minuteMs } from '../time/calendar.ts'
import { realZones } from '../time/realZones.ts'
import { bookableDays, diaryOf, freeAt, freeTimes, type FreeTime, type Taken } from './freeTimes.ts'
import { startsOn } from './starts.ts'

/*
 * Against an independent reference: quarter hour by quarter hour, with the clock of each place read from the tz data
 * that Node's ICU brings (ECMA-402, Intl.DateTimeFormat), and every quarter hour of a booking marked one by one.
 */

const quarter = 15 * minuteMs

interface Wall {
  readonly date: string
  readonly minute: number
}

const formats = new Map<string, Intl.DateTimeFormat>()
const walls = new Map<string, Wall>()

function wallOf(zone: string, at: number): Wall {
  const key = `${zone} ${at}`
  const known = walls.get(key)
  if (known) return known
  const format =
    formats.get(zone) ??
    new Intl.DateTimeFormat('en-CA', {
      timeZone: zone,
      hourCycle: 'h23',
      year: 'numeric',
      month: '2-digit',
      day: '2-digit',
      hour: '2-digit',
      minute: '2-digit',
    })
  formats.set(zone, format)
  const parts = Object.fromEntries(format.formatToParts(at).map(({ type, value }) => [type, value]))
  const wall = {
    date: `${parts['year'] ?? ''}-${parts['month'] ?? ''}-${parts['day'] ?? ''}`,
    minute: Number(parts['hour']) * 60 + Number(parts['minute']),
  }
  walls.set(key, wall)
  return wall
}

const minutesOf = (time: string) => Number(time.slice(0, 2)) * 60 + Number(time.slice(3))
const weekdayOfDate = (date: string) => ((new Date(`${date}T00:00:00Z`).getUTCDay() + 6) % 7) + 1

const shown = new Map<string, number>()

/** When the clock of a place first shows a time on a date; put forward over it, as long after the gap's beginning. */
function shownAt(zone: string, date: string, minute: number): number {
  const key = `${zone} ${date} ${minute}`
  const at = shown.get(key) ?? lookedFor(zone, date, minute)
  shown.set(key, at)
  return at
}

function lookedFor(zone: string, date: string, minute: number): number {
  const from = Date.parse(`${date}T00:00:00Z`) - 15 * hourMs
  let first: number | null = null
  let last: { at: number; minute: number } | null = null
  for (let at = from; at < from + 54 * hourMs; at += quarter) {
    const wall = wallOf(zone, at)
    if (wall.date > date) break
    if (wall.date !== date) continue
    first ??= at
    if (wall.minute === minute) return at
    if (wall.minute < minute) last = { at, minute: wall.minute }
    else break
  }
  // Where the clock is put forward at midnight, the gap begins with the date.
  if (!last && first !== null) return first + minute * minuteMs
  if (!last) throw new Error('The clock never came near')
  return last.at + (minute - last.minute) * minuteMs
}

interface World {
  readonly settings: Settings
  readonly service: Service
  readonly taken: readonly Taken[]
  readonly now: number
  readonly partySize: number
  readonly zone: string
  readonly from: number
  readonly to: number
}

function beginsAt({ zone, service }: World, at: number): boolean {
  const { starts } = service.offer
  const { date, minute } = wallOf(zone, at)
  const durationMs = service.durationMinutes * minuteMs
  if (starts.kind === 'departures') {
    return starts.departures.some(
      (one) =>
        // One the clock leaves out goes later: so the date is looked through.
        one.from <= date &&
        date <= one.to &&
        one.weekdays.includes(weekdayOfDate(date)) &&
        shownAt(zone, date, minutesOf(one.at)) === at,
    )
  }
  if (shownAt(zone, date, minute) !== at) return false
  const open = starts.hours.weekly[weekdayOfDate(date) - 1] ?? []
  return open.some(({ from, to }) => {
    const first = minutesOf(from)
    return (
      minute >= first &&
      minute < minutesOf(to) &&
      (minute - first) % starts.everyMinutes === 0 &&
      at + durationMs <= shownAt(zone, date, minutesOf(to))
    )
  })
}

function quartersOf(from: number, to: number): number[] {
  const all: number[] = []
  for (let at = from; at < to; at += quarter) all.push(at)
  return all
}

/** Whether somebody works at a moment, by the clock of the business alone. */
function isAtWork({ settings }: World, personId: string, at: number): boolean {
  const { hours } = settings.people.find(({ id }) => id === personId) ?? {}
  if (!hours) return true
  const { zone } = settings.business
  const { date } = wallOf(zone, at)
  if (hours.closedDates.includes(date)) return false
  return (hours.weekly[weekdayOfDate(date) - 1] ?? []).some(
    ({ from, to }) => shownAt(zone, date, minutesOf(from)) <= at && at < shownAt(zone, date, minutesOf(to)),
  )
}

function freeByReference(world: World): FreeTime[] {
  const { settings, service, taken, now, partySize } = world
  const { offer } = service
  const { zone: businessZone } = settings.business
  const buffered = (one: { serviceId: string; startAt: number; endAt: number }) => {
    const of = settings.services.find(({ id }) => id === one.serviceId)?.offer ?? offer
    const before = of.bufferBeforeMinutes * minuteMs
    return quartersOf(one.startAt - before, one.endAt + of.bufferAfterMinutes * minuteMs)
  }
  const found: FreeTime[] = []
  const today = Date.parse(wallOf(businessZone, now).date)
  const closed = offer.starts.kind === 'hours' ? offer.starts.hours.closedDates : offer.starts.closedDates
  for (const startAt of quartersOf(world.from, world.to)) {
    if (!beginsAt(world, startAt)) continue
    const date = wallOf(businessZone, startAt).date
    if (closed.includes(date)) continue
    if (startAt <= now || startAt - now < offer.noticeHours * hourMs) continue
    if (Date.parse(date) - today > offer.horizonDays * dayMs) continue
    const endAt = startAt + service.durationMinutes * minuteMs
    const own = new Set(buffered({ serviceId: service.id, startAt, endAt }))
    const same = taken.filter(
      (one) => offer.isShared && one.serviceId === service.id && one.startAt === startAt,
    )
    const others = taken.filter((one) => !same.includes(one) && buffered(one).some((at) => own.has(at)))
    if (others.some(({ serviceId }) => serviceId === service.id)) continue
    const able = offer.personIds.filter(
      (id) =>
        others.every((one) => one.personInChargeId !== id) &&
        quartersOf(startAt, endAt).every((at) => isAtWork(world, id, at)),
    )
    if (offer.personIds.length > 0 && able.length === 0) continue
    const known = able.find((id) => same.some((one) => one.personInChargeId === id))
    const seatsLeft = service.seats - same.reduce((sum, one) => sum + one.partySize, 0)
    if (seatsLeft < Math.max(1, partySize)) continue
    found.push({ startAt, endAt, seatsLeft, personId: known ?? able[0] ?? null })
  }
  return found
}

const zones = [
  'Europe/Berlin',
  'Atlantic/Azores',
  'America/New_York',
  'Asia/Kathmandu',
  'Australia/Lord_Howe',
  'Pacific/Apia',
] as const
/** Days about which clocks change somewhere, and an ordinary one (IANA tz database). */
const firstDays = [
  '2026-03-28',
  '2026-10-24',
  '2026-03-07',
  '2026-10-31',
  '2026-04-04',
  '2026-10-03',
  '2026-05-14',
]
const days = 3

const time = fc.integer({ min: 0, max: 95 }).map((at) => {
  const minute = at * 15
  return `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`
})
const openDay = fc
  .uniqueArray(time, { minLength: 0, maxLength: 4 })
  .map((times) => times.toSorted())
  .map((times) => [
    ...(times.length >= 2 ? [{ from: times[0] ?? '', to: times[1] ?? '' }] : []),
    ...(times.length >= 4 ? [{ from: times[2] ?? '', to: times[3] ?? '' }] : []),
  ])

const startsOf = (first: string): fc.Arbitrary<Starts> => {
  const date = fc.integer({ min: -1, max: days }).map((day) => isoDateOf(epochDayOf(first) + day))
  const closedDates = fc.uniqueArray(date, { maxLength: 1 })
  const departure = fc.record({
    at: time,
    weekdays: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 3, maxLength: 7 }),
    from: date,
    to: date.map((day) => isoDateOf(epochDayOf(day) + days)),
  })
  const holidays = fc.constant('open' as const)
  return fc.oneof(
    fc.record({
      kind: fc.constant('hours' as const),
      hours: fc.record({ weekly: fc.array(openDay, { minLength: 7, maxLength: 7 }), holidays, closedDates }),
      everyMinutes: fc.constantFrom(15, 30, 45, 60, 120),
    }),
    fc.record({
      kind: fc.constant('departures' as const),
      departures: fc.array(
        departure.filter(({ from, to }) => from <= to),
        { maxLength: 4 },
      ),
      holidays,
      closedDates,
    }),
  )
}

/** Hours of somebody who works most of most days: also over midnight, in two stretches that touch. */
const longDays = (first: string): fc.Arbitrary<OpeningHours> => {
  const day = fc.constantFrom<OpeningHours['weekly'][number]>(
    [{ from: '00:00', to: '24:00' as const }],
    [{ from: '05:00', to: '22:00' }],
    [
      { from: '06:00', to: '12:00' },
      { from: '12:00', to: '20:00' },
    ],
    [{ from: '13:00', to: '24:00' as const }],
    [],
  )
  const away = fc.integer({ min: 0, max: days - 1 }).map((index) => isoDateOf(epochDayOf(first) + index))
  return fc.record({
    weekly: fc.array(day, { minLength: 7, maxLength: 7 }),
    holidays: fc.constant('open' as const),
    closedDates: fc.uniqueArray(away, { maxLength: 1 }),
  })
}

const people = ['pe_ada', 'pe_bo', 'pe_cy']

const worlds: fc.Arbitrary<World> = fc
  .record({
    first: fc.constantFrom(...firstDays),
    zone: fc.constantFrom(...zones),
    home: fc.constantFrom(...zones),
  })
  .chain(({ first, zone, home }) => {
    const from = Date.parse(`${first}T00:00:00Z`)
    const moment = fc.integer({ min: 0, max: days * 96 - 1 }).map((at) => from + at * quarter)
    const taken = fc.record({
      serviceId: fc.constantFrom(exampleService.id, 'sv_other'),
      startAt: moment,
      length: fc.integer({ min: 1, max: 12 }),
      partySize: fc.integer({ min: 1, max: 3 }),
      personInChargeId: fc.constantFrom(null, ...people),
    })
    const buffer = fc.integer({ min: 0, max: 10 }).map((quarters) => quarters * 15)
    return fc
      .record({
        starts: startsOf(first),
        taken: fc.array(taken, { maxLength: 8 }),
        onStarts: fc.array(fc.nat(40), { maxLength: 4 }),
        durationMinutes: fc.integer({ min: 1, max: 16 }).map((quarters) => quarters * 15),
        buffers: fc.tuple(buffer, buffer, buffer, buffer),
        isShared: fc.boolean(),
        seats: fc.integer({ min: 1, max: 6 }),
        personIds: fc.subarray(people),
        hoursOfPeople: fc.array(fc.option(longDays(first)), { minLength: 3, maxLength: 3 }),
        now: moment.map((at) => at - dayMs),
        noticeHours: fc.constantFrom(0, 1, 24),
        horizonDays: fc.integer({ min: 1, max: 4 }),
        partySize: fc.integer({ min: 1, max: 4 }),
      })
      .map((made) => worldOf({ ...made, zone, home, from }))
  })

interface Made {
  readonly starts: Starts
  readonly taken: readonly (Omit<Taken, 'endAt'> & { length: number })[]
  readonly onStarts: readonly number[]
  readonly durationMinutes: number
  readonly buffers: readonly number[]
  readonly isShared: boolean
  readonly seats: number
  readonly personIds: readonly string[]
  readonly hoursOfPeople: readonly (OpeningHours | null)[]
  readonly now: number
  readonly noticeHours: number
  readonly horizonDays: number
  readonly partySize: number
  readonly zone: string
  readonly home: string
  readonly from: number
}

function worldOf(made: Made): World {
  const { zone, home, from, now, partySize, durationMinutes, seats } = made
  const [before = 0, after = 0, beforeOther = 0, afterOther = 0] = made.buffers
  const service: Service = {
    ...exampleService,
    placeZone: zone === home ? null : zone,
    durationMinutes,
    seats,
    offer: {
      ...standardOffer,
      starts: made.starts,
      bufferBeforeMinutes: before,
      bufferAfterMinutes: after,
      isShared: made.isShared,
      personIds: [...made.personIds],
      noticeHours: made.noticeHours,
      horizonDays: made.horizonDays,
    },
  }
  const other: Service = {
    ...exampleService,
    id: 'sv_other',
    offer: { ...standardOffer, bufferBeforeMinutes: beforeOther, bufferAfterMinutes: afterOther },
  }
  const settings: Settings = {
    ...exampleSettings(realZones),
    business: { ...exampleBusiness, zone: home },
    people: people.map((id, index) => ({ ...examplePerson, id, hours: made.hoursOfPeople[index] ?? null })),
    services: [service, other],
  }
  const anywhere = made.taken.map(({ length, ...one }) => ({ ...one, endAt: one.startAt + length * quarter }))
  // Some stand exactly where the service begins, as bookings mostly do.
  const first = epochDayOf(wallOf(zone, from).date)
  const begins = [0, 1, 2].flatMap((day) =>
    startsOn(settings, service, first + day).map(({ startAt }) => startAt),
  )
  const onStart = made.onStarts.flatMap((index): Taken[] => {
    const startAt = begins[index % Math.max(1, begins.length)]
    if (startAt === undefined) return []
    const endAt = startAt + durationMinutes * minuteMs
    const personInChargeId = made.personIds[index % Math.max(1, made.personIds.length)] ?? null
    return [{ serviceId: service.id, startAt, endAt, partySize: 1 + (index % 2), personInChargeId }]
  })
  return {
    settings,
    service,
    taken: [...anywhere, ...onStart],
    now,
    partySize,
    zone,
    from: from - dayMs,
    to: from + (days + 2) * dayMs,
  }
}

describe('free times', () => {
  test('are those of a slow look at each quarter hour, over random calendars', () => {
    const numRuns = process.env['VORFREUDE_FULL'] === 'yes' ? 20_000 : 2000
    let most = 0
    let withSome = 0
    fc.assert(
      fc.property(worlds, (world) => {
        const { settings, service, taken, now, partySize, zone } = world
        const range = {
          fromDay: epochDayOf(wallOf(zone, world.from).date),
          toDay: epochDayOf(wallOf(zone, world.to).date),
        }
        const ours = freeTimes(settings, service, diaryOf(settings, taken), { ...range, now, partySize })
        const within = ours.filter(({ startAt }) => startAt >= world.from && startAt < world.to)
        expect(within).toEqual(freeByReference(world))
        most = Math.max(most, within.length)
        withSome += within.length > 0 ? 1 : 0
      }),
      { numRuns, seed: 20_261_129 },
    )
    // The calendars are no empty ones.
    expect(withSome).toBeGreaterThan(numRuns / 5)
    expect(most).toBeGreaterThan(20)
  }, 600_000)

  const at = (text: string) => Date.parse(text)
  const settings = exampleSettings(realZones)
  const departures = (offer: Partial<Service['offer']> = {}): Service => ({
    ...exampleService,
    offer: {
      ...standardOffer,
      starts: {
        kind: 'departures',
        departures: [{ at: '02:30', weekdays: [7], from: '2026-03-01', to: '2026-03-31' }],
        holidays: 'open',
        closedDates: [],
      },
      ...offer,
    },
  })

  test('a departure at a time the clock leaves out goes when it would have been (RFC 5545, 3.3.5)', () => {
    // Europe/Berlin, 29 March 2026: 02:00 becomes 03:00 (IANA tz database).
    expect(startsOn(settings, departures(), epochDayOf('2026-03-29'))).toEqual([
      { startAt: at('2026-03-29T01:30:00Z'), endAt: at('2026-03-29T03:30:00Z') },
    ])
  })

  test('somebody who is on another booking then cannot do it, and one in charge of the departure takes further guests', () => {
    const service = departures({ personIds: ['pe_ada'], isShared: true })
    const all = { ...settings, services: [service] }
    const [start] = startsOn(all, service, epochDayOf('2026-03-29'))
    if (!start) throw new Error('There is a departure that day')
    const guests = { ...start, serviceId: service.id, partySize: 1, personInChargeId: 'pe_ada' }
    expect(freeAt(all, service, diaryOf(all, [guests]), start)).toMatchObject({
      seatsLeft: 3,
      personId: 'pe_ada',
    })
    const elsewhere = { ...guests, serviceId: 'sv_gone', startAt: start.startAt + hourMs }
    expect(freeAt(all, service, diaryOf(all, [elsewhere]), start)).toBeNull()
  })

  test('clients look ahead to the last date of the horizon, by the clock of the business', () => {
    const service = { ...departures({ horizonDays: 3 }), placeZone: 'Pacific/Kiritimati' }
    const now = at('2026-05-14T21:59:00Z')
    const { fromDay, toDay } = bookableDays(settings, service, now)
    expect([isoDateOf(fromDay), isoDateOf(toDay)]).toEqual(['2026-05-15', '2026-05-18'])
  })
})
