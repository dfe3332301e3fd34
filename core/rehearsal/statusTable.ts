import { diaryOf } from '../booking/freeTimes.ts'
import {
  cancelBooking,
  completeByHand,
  confirmBooking,
  makeBooking,
  missBooking,
  moveBooking,
} from '../engine/commands/bookingCommands.ts'
import { cancelByClient, moveByClient } from '../engine/commands/clientBooking.ts'
import type { Effect } from '../engine/effects.ts'
import type { Booking } from '../model/booking.ts'
import type { Result } from '../model/problem.ts'
import { standardOffer } from '../model/offer.ts'
import type { Settings } from '../planning/slice.ts'
import { starterDesigns } from '../sequences/starterDesigns.ts'
import { dateAndTime } from '../time/format.ts'
import { instantOfLocal } from '../time/localText.ts'
import type { ZoneTable } from '../time/zones.ts'
import { exampleBusiness, exampleClient, exampleService, exampleSettings } from './exampleBusiness.ts'
import { createWorld, type World } from './world.ts'

/*
 * Which messages follow from what happens to a booking, by whom and when: played through the real engine with all ready-made
 * sequences live. A table for people, made anew by `./run formats` and compared by a test.
 */

const year = 2026
const start = '2026-05-16T10:00'
const end = '2026-05-16T12:00'
const madeAt = '2026-05-04T10:00'

/** When it happens. */
const moments = [
  { name: 'early', words: 'eight days before', at: '2026-05-08T12:00', to: '2026-05-18T10:00' },
  { name: 'late', words: 'two hours before', at: '2026-05-16T08:00', to: '2026-05-18T10:00' },
  { name: 'after', words: 'an hour after its end', at: '2026-05-16T13:00', to: '2026-05-18T10:00' },
] as const
type Moment = (typeof moments)[number]

interface Acting {
  readonly world: World
  readonly booking: Booking
  readonly local: (text: string) => number
}

type Act = (acting: Acting, moment: Moment) => Result<readonly Effect[]>

interface Line {
  readonly change: string
  readonly who: 'the business' | 'the client' | 'nobody'
  readonly from: 'requested' | 'confirmed'
  readonly act: Act | null
}

const seats = () => 0
const plus = (text: string) => text.replace('T10:00', 'T12:00')

const moved: Act = ({ world, booking }, { to }) =>
  moveBooking(
    world.slice(),
    booking.id,
    booking.revision,
    { startLocal: to, endLocal: plus(to) },
    seats,
    world.context(),
  )
const movedByClient: Act = ({ world, booking, local }, { to }) =>
  moveByClient(
    world.slice(),
    booking.id,
    booking.revision,
    local(to),
    diaryOf(world.slice().settings, []),
    world.context(),
  )
const cancelled: Act = ({ world, booking }) =>
  cancelBooking(world.slice(), booking.id, booking.revision, world.context())
const cancelledByClient: Act = ({ world, booking }) =>
  cancelByClient(world.slice(), booking.id, booking.revision, '', world.context())

const lines: readonly Line[] = [
  { change: 'nothing happens', who: 'nobody', from: 'confirmed', act: null },
  { change: 'a request is left alone', who: 'nobody', from: 'requested', act: null },
  {
    change: 'a request is confirmed',
    who: 'the business',
    from: 'requested',
    act: ({ world, booking }) => confirmBooking(world.slice(), booking.id, booking.revision, world.context()),
  },
  { change: 'a request is declined', who: 'the business', from: 'requested', act: cancelled },
  { change: 'a request is withdrawn', who: 'the client', from: 'requested', act: cancelledByClient },
  { change: 'moved to Monday', who: 'the business', from: 'confirmed', act: moved },
  { change: 'moved to Monday', who: 'the client', from: 'confirmed', act: movedByClient },
  { change: 'cancelled', who: 'the business', from: 'confirmed', act: cancelled },
  { change: 'cancelled', who: 'the client', from: 'confirmed', act: cancelledByClient },
  {
    change: 'missed',
    who: 'the business',
    from: 'confirmed',
    act: ({ world, booking }) => missBooking(world.slice(), booking.id, booking.revision, world.context()),
  },
  {
    change: 'has taken place',
    who: 'the business',
    from: 'confirmed',
    act: ({ world, booking }) => completeByHand(world.slice(), booking.id, booking.revision, world.context()),
  },
]

/** The example business with all ready-made sequences live, and a lesson that can be booked at any full hour. */
function settingsOfTable(zones: ZoneTable): Settings {
  const own = exampleSettings(zones)
  const weekly = Array.from({ length: 7 }, () => [{ from: '08:00', to: '20:00' }])
  const hours = { weekly, holidays: 'open' as const, closedDates: [] }
  return {
    ...own,
    services: [
      {
        ...exampleService,
        offer: {
          ...standardOffer,
          isPublic: true,
          starts: { kind: 'hours', hours, everyMinutes: 60 },
          price: { cents: 10_000, per: 'booking' },
          cancelling: { freeUntilHours: 72, feePercent: 50 },
        },
      },
    ],
    sequences: starterDesigns.map(({ name }, index) => ({
      id: `sq_${index}`,
      name,
      state: 'live',
      liveSince: 0,
      currentVersion: 1,
    })),
    sequenceVersions: starterDesigns.map(({ start: begins, steps, stops }, index) => ({
      sequenceId: `sq_${index}`,
      version: 1,
      start: begins,
      // As if whoever decides them did so at once.
      steps: steps.map((step) => ({ ...step, needsApproval: false })),
      stops: [...stops],
    })),
  }
}

/** What the client got after a moment, in its order. */
function messagesAfter(world: World, since: number): readonly string[] {
  const { settings, facts } = world.slice()
  const zone = settings.zones.zone(settings.business.zone)
  return facts.sends
    .filter(({ sentAt }) => sentAt !== null && sentAt >= since)
    .sort((one, other) => (one.sentAt ?? 0) - (other.sentAt ?? 0))
    .map(({ letterId, sentAt }) => {
      const letter = settings.letters.find(({ id }) => id === letterId)
      return `${letter?.name ?? ''}, ${dateAndTime(zone, sentAt ?? 0, year)}`
    })
}

function cell(zones: ZoneTable, line: Line, moment: Moment): string {
  const zone = zones.zone(exampleBusiness.zone)
  const local = (text: string) => instantOfLocal(zone, text)
  const world = createWorld(settingsOfTable(zones), exampleClient, local(madeAt))
  const { id: clientId } = exampleClient
  const input = { clientId, serviceId: exampleService.id, partySize: 1, personInChargeId: null }
  const wished = { ...input, startLocal: start, endLocal: end, status: line.from }
  world.carryOut(makeBooking(world.slice(), wished, seats, world.context()))
  const at = local(moment.at)
  world.advance(at)
  const [booking] = world.facts().bookings
  if (!booking) throw new Error('It was just booked')
  if (line.act) {
    const result = line.act({ world, booking, local }, moment)
    if (!result.ok) return `_${result.problem.sentence}_`
    world.carryOut(result)
  }
  world.advance(at + 60 * 86_400_000)
  const messages = messagesAfter(world, at)
  return messages.length === 0 ? 'nothing' : messages.join('<br>')
}

/** The whole table, as Markdown. */
export function statusTable(zones: ZoneTable): string {
  const head = ['what happens', 'by whom', ...moments.map(({ name, words }) => `${name}: ${words}`)]
  const rows = lines.map((line) => [
    line.change,
    line.who,
    ...moments.map((moment) => cell(zones, line, moment)),
  ])
  const row = (cells: readonly string[]) => `| ${cells.join(' | ')} |`
  return `# What follows from what happens to a booking

Made by the engine with all ready-made sequences live (\`./run formats\`; \`core/rehearsal/statusTable.test.ts\` compares it and says
what must be so). A lesson on Saturday 16 May 2026, 10:00 to 12:00, made on Monday 4 May; messages go from 08:00 to 20:00;
clients change it themselves until 24 hours before; what waits for approval is approved at once. Each cell: what goes to the client from that moment on.

${row(head)}
${row(head.map(() => '---'))}
${rows.map(row).join('\n')}
`
}
