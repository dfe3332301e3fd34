import { standardOffer } from '#core/model/offer.ts'
import type { Booking } from '#core/model/booking.ts'
import type { PlainStep } from '#core/model/step.ts'
import { planClient } from '#core/planning/planClient.ts'
import type { PlannedSend } from '#core/planning/planStep.ts'
import { calendarsOf, factsOf, sendingTimesFor, type Settings, type Slice } from '#core/planning/slice.ts'
import {
  exampleBooking,
  exampleClient,
  exampleRun,
  exampleSettings,
  exampleStep,
} from '#core/rehearsal/exampleBusiness.ts'
import { recipientsOf } from '#core/sequences/recipients.ts'
import { addCalendar, addExact } from '#core/time/arithmetic.ts'
import { dayMs, hourMs, minuteOfDay } from '#core/time/calendar.ts'
import { dateAndTime } from '#core/time/format.ts'
import { lastOpenUpTo } from '#core/time/openTimes.ts'
import { realZones } from '#core/time/realZones.ts'
import { median, sayMachine } from './measuring.ts'

/*
 * How long the planner takes for many bookings, as a ratio to one hand-written loop that does rules 1 to 4 and builds
 * the same result objects, in the same run. `./run bench [BOOKINGS]`; ten steps a booking, five zones, median of 5.
 */

const bookingCount = Number(process.argv[2] ?? 20_000)
const rounds = 5
const zoneNames = [
  'Europe/Berlin',
  'America/New_York',
  'Asia/Kolkata',
  'Pacific/Auckland',
  'Africa/Casablanca',
]
const origin = Date.UTC(2026, 0, 5, 8, 0)

const mail = (index: number, timing: PlainStep['timing']) =>
  exampleStep({ id: `st_${index}`, letterId: 'lt_1', purpose: 'preparation', timing })

const steps = Array.from({ length: 10 }, (_, index) =>
  index % 2 === 0
    ? mail(index, {
        kind: 'calendar',
        amount: index + 1,
        unit: 'days',
        direction: 'before',
        anchor: { of: 'booking start' },
        atTime: '18:00',
      })
    : mail(index, {
        kind: 'elapsed',
        amount: 3 * index,
        unit: 'hours',
        direction: 'before',
        anchor: { of: 'booking start' },
      }),
)

const settings: Settings = {
  ...exampleSettings(realZones, steps),
  isHoliday: (day) => day % 37 === 0,
  services: zoneNames.map((placeZone, index) => ({
    id: `sv_${index}`,
    name: placeZone,
    place: '',
    placeZone,
    durationMinutes: 120,
    seats: 100,
    offer: standardOffer,
    revision: 1,
    isActive: true,
  })),
}

function bookingAt(index: number): Booking {
  const startAt = origin + (20 + (index % 300)) * dayMs + (index % 16) * hourMs
  return {
    ...exampleBooking(startAt, origin),
    id: `bk_${index}`,
    serviceId: `sv_${index % zoneNames.length}`,
  }
}

function sliceOf(booking: Booking): Slice {
  const run = exampleRun({
    id: `ru_${booking.id}`,
    subject: { kind: 'booking', id: booking.id },
    startedAt: origin,
  })
  return { settings, facts: factsOf(exampleClient, { bookings: [booking], runs: [run] }) }
}

function withPlanner(count: number): number {
  let planned = 0
  for (let index = 0; index < count; index += 1)
    planned += planClient(sliceOf(bookingAt(index)), origin).length
  return planned
}

const nothingElse = {
  dropped: null,
  skipped: null,
  voided: null,
  awaits: null,
  estimateAt: null,
  index: 0,
  againSince: null,
  answer: null,
  row: null,
  lostTo: null,
} as const

/** The baseline: wanted time and sending hours only, written out in one loop, with the same objects at the end. */
function byHand(count: number): number {
  let planned = 0
  const { office } = calendarsOf(settings)
  const [recipient] = recipientsOf(
    [{ to: 'primary contact', letterId: null }],
    { client: exampleClient, business: settings.business, people: [], personInCharge: null, named: null },
    'email',
  )
  for (let index = 0; index < count; index += 1) {
    const { facts } = sliceOf(bookingAt(index))
    const [booking] = facts.bookings
    const [run] = facts.runs
    if (!booking || !run || !recipient) continue
    const zoneName = zoneNames[index % zoneNames.length] ?? ''
    const zone = realZones.zone(zoneName)
    const times = sendingTimesFor(settings, zoneName)
    const results: PlannedSend[] = []
    for (const one of steps) {
      const { timing } = one
      if (timing.kind !== 'calendar' && timing.kind !== 'elapsed') continue
      const wanted =
        timing.kind === 'elapsed'
          ? addExact(booking.startAt, -timing.amount, timing.unit, office)
          : addCalendar(zone, booking.startAt, timing, 'before', minuteOfDay('18:00'), office)
      if (wanted === null) continue
      const due = lastOpenUpTo(times, wanted)
      const words = `${timing.amount} ${timing.unit} before the start of the booking (${dateAndTime(zone, booking.startAt)}): ${dateAndTime(zone, wanted)}.`
      const trace = [
        { rule: 'wanted', before: booking.startAt, after: wanted, code: 'offset', sentence: words },
      ]
      if (due !== null && due !== wanted) {
        const sentence = `${dateAndTime(times.zone, wanted)} is outside the sending hours: earlier, ${dateAndTime(times.zone, due)}.`
        trace.push({ rule: 'sending hours', before: wanted, after: due, code: 'moved earlier', sentence })
      }
      results.push({
        anchorValue: String(booking.startAt),
        occurrence: 0,
        wantedAt: wanted,
        notBefore: origin,
        notAfter: booking.startAt - hourMs,
        dueAt: due,
        ruledAt: due,
        trace,
        run,
        step: one,
        recipient,
        openTimes: times,
        ...nothingElse,
      })
    }
    planned += results.length
  }
  return planned
}

function timed(work: () => number): { ms: number; planned: number } {
  const from = performance.now()
  const planned = work()
  return { ms: performance.now() - from, planned }
}

function measure(count: number) {
  const planner: number[] = []
  const hand: number[] = []
  let planned = 0
  for (let round = 0; round < rounds; round += 1) {
    const one = timed(() => withPlanner(count))
    planner.push(one.ms)
    planned = one.planned
    hand.push(timed(() => byHand(count)).ms)
  }
  const spread = `${Math.round(Math.min(...planner))}–${Math.round(Math.max(...planner))} ms`
  return { planned, planner: median(planner), hand: median(hand), spread }
}

measure(Math.min(bookingCount, 1000))
const large = measure(bookingCount)
const small = measure(Math.max(1, Math.floor(bookingCount / 10)))
const megabytes = Math.round(process.memoryUsage().rss / 2 ** 20)

sayMachine()
process.stdout.write(`${large.planned} sends planned: ${Math.round(large.planner)} ms (${large.spread})
the same by hand: ${Math.round(large.hand)} ms
ratio: ${(large.planner / large.hand).toFixed(2)} (at most 3 is wanted)
ten times the bookings: ${(large.planner / small.planner).toFixed(1)} times the time (at most 15 is wanted)
memory: ${megabytes} MB
`)
