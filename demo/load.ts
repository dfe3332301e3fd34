import { randomUUID } from 'node:crypto'
import { instantOfLocal, localAt } from '#core/time/localText.ts'
import { issueInvoice, receiveEnquiry } from '#core/engine/commands/dealingCommands.ts'
import type { Enquiry, Invoice } from '#core/model/dealings.ts'
import type { Result } from '#core/model/problem.ts'
import type { Variation } from '#core/model/variation.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import type { Zone } from '#core/time/zones.ts'
import { clearStore, openStore } from '#server/db/database.ts'
import { addPerson, addSequence, putService, writeBusiness } from '#server/db/settingsStore.ts'
import { putLetter, putPassage } from '#server/db/letterStore.ts'
import type { Statements } from '#server/db/statements.ts'
import { demoStartAt } from '#server/engine/loop/clock.ts'
import { callOf } from '#server/engine/application.ts'
import { openApplication, type RunningApplication } from '#server/engine/runningApplication.ts'
import { bookings, type DemoBooking } from './bookings.ts'
import { business, people, services } from './business.ts'
import { clients } from './clients.ts'
import { enquiries, invoices } from './dealings.ts'
import { letters } from './letters.ts'
import { passages } from './passages.ts'
import { sequences } from './sequences.ts'

/** Where the past that is played begins: Wednesday 14 January 2026, 08:00. */
const pastBegins = '2026-01-14T08:00'

const businessZone = realZones.zone(business.zone)

/** The local reading some minutes after another one, on the clock of a place. */
function localAfter(zone: Zone, local: string, minutes: number): string {
  return localAt(zone, instantOfLocal(zone, local) + minutes * minuteMs)
}

interface Act {
  readonly at: number
  readonly run: () => void
}

function required<Value>(result: Result<Value>): Value {
  if (!result.ok) throw new Error(`The demo's data does not play: ${result.problem.sentence}`)
  return result.value
}

const call = (name: string, person: number) =>
  callOf(name, randomUUID(), people[person % people.length]?.id ?? null)

/** Everything that happens to one booking, each act at its own time. */
function actsOf(
  booking: DemoBooking,
  index: number,
  running: RunningApplication,
  clientIds: ReadonlyMap<string, string>,
): Act[] {
  const { commands } = running
  const service = services.find((one) => one.id === booking.service)
  if (!service) throw new Error(`No service ${booking.service}`)
  const zone = realZones.zone(service.placeZone ?? business.zone)
  const timesFrom = (start: string) => ({
    startLocal: start,
    endLocal: localAfter(zone, start, service.durationMinutes),
  })
  let made = { id: '', revision: 0 }
  const act = (local: string, run: () => void): Act => ({ at: instantOfLocal(businessZone, local), run })
  const acts = [
    act(booking.madeAt, () => {
      made = required(
        commands.makeBooking(call('makeBooking', index), {
          clientId: clientIds.get(booking.client) ?? '',
          serviceId: service.id,
          ...timesFrom(booking.start),
          partySize: booking.people,
          status: booking.made,
          personInChargeId: people[index % people.length]?.id ?? null,
        }),
      )
    }),
  ]
  const { confirmedAt, moved, cancelledAt } = booking
  if (confirmedAt !== undefined) {
    acts.push(
      act(confirmedAt, () => {
        made = required(commands.confirmBooking(call('confirmBooking', 0), made.id, made.revision))
      }),
    )
  }
  if (moved) {
    acts.push(
      act(moved.at, () => {
        made = required(
          commands.moveBooking(call('moveBooking', 1), made.id, made.revision, timesFrom(moved.to)),
        )
      }),
    )
  }
  if (cancelledAt !== undefined) {
    acts.push(
      act(cancelledAt, () => {
        made = required(commands.cancelBooking(call('cancelBooking', 2), made.id, made.revision))
      }),
    )
  }
  return acts
}

function writeSettings(statements: Statements, liveSince: number) {
  writeBusiness(statements, business)
  people.forEach((person) => addPerson(statements, person, null))
  services.forEach((service) => putService(statements, service))
  passages.forEach((passage) => putPassage(statements, passage))
  letters.forEach((letter) => putLetter(statements, { ...letter, changedAt: liveSince }, null))
  sequences.forEach(({ sequence, version, liveSince: since }) => {
    const at = since === 'past' ? liveSince : since === 'present' ? demoStartAt - 1 : null
    addSequence(statements, { ...sequence, liveSince: at }, version)
  })
}

function addClients({ commands }: RunningApplication): ReadonlyMap<string, string> {
  return new Map(
    Object.entries(clients).map(([key, input]): [string, string] => [
      key,
      required(commands.addClient(call('addClient', 0), input)).id,
    ]),
  )
}

async function playThePast(running: RunningApplication, say: (sentence: string) => void) {
  running.postOffice?.setBehaviour('ruprecht@closed-mailbox.example', 'refuse')
  running.postOffice?.setBehaviour('milena@flaky-line.example', 'drop after data')
  const clientIds = addClients(running)
  const acts = bookings
    .flatMap((booking, index) => actsOf(booking, index, running, clientIds))
    .sort((one, other) => one.at - other.at)
  for (const [index, act] of acts.entries()) {
    await running.pump.advance(act.at)
    act.run()
    if (index % 20 === 19) say(`  ${index + 1} of ${acts.length} things have happened …`)
  }
  await running.pump.advance(demoStartAt)
  addDealings(running, clientIds)
}

/** What is open beside the bookings when the demo begins: enquiries, unpaid invoices, and a step that differs. */
function addDealings({ application, commands }: RunningApplication, clientIds: ReadonlyMap<string, string>) {
  const sliceOf = (client: string) => {
    const slice = application.sliceOf(clientIds.get(client) ?? '', 'everything')
    if (!slice) throw new Error(`No client ${client}`)
    return slice
  }
  enquiries.forEach(({ client, receivedAt, stage, wishedOn }, index) => {
    const slice = sliceOf(client)
    const received = instantOfLocal(businessZone, receivedAt)
    const enquiry: Enquiry = {
      id: `en_demo-${index + 1}`,
      clientId: slice.facts.client.id,
      serviceId: 'sv_private',
      stage,
      receivedAt: received,
      stageAt: { [stage]: received },
      wishedOn,
      wishedSetAt: wishedOn === null ? null : received,
      deadlineOn: null,
      deadlineSetAt: null,
      personInChargeId: people[index % people.length]?.id ?? null,
      evening: null,
      ticks: [],
    }
    application.apply(
      required(receiveEnquiry(slice, enquiry, { ...application.context(null), now: received })),
    )
  })
  invoices.forEach(({ client, issuedAt, dueOn, amountCents }, index) => {
    const slice = sliceOf(client)
    const issued = instantOfLocal(businessZone, issuedAt)
    const booking = slice.facts.bookings.find(({ startAt }) => startAt > demoStartAt)
    const invoice: Invoice = {
      id: `in_demo-${index + 1}`,
      clientId: slice.facts.client.id,
      bookingId: booking?.id ?? null,
      issuedAt: issued,
      dueOn,
      dueSetAt: issued,
      paidAt: null,
      isFee: false,
      amountCents,
    }
    application.apply(required(issueInvoice(slice, invoice, { ...application.context(null), now: issued })))
  })
  required(commands.vary(call('vary', 0), differing))
}

/** What to wear in a private basket is looked through by a person. */
const differing: Variation = {
  id: 'va_demo-private',
  sequenceId: 'sq_sunrise',
  stepId: 'st_sunrise-wear',
  scope: { of: 'service', serviceId: 'sv_private' },
  letterId: null,
  timing: null,
  recipients: null,
  needsApproval: true,
  isOff: null,
  timingSetAt: demoStartAt,
}

function isLoaded(folder: string): boolean {
  const store = openStore(folder)
  const loaded = store.statements.one('readMeta', { key: 'demo loaded' }) !== undefined
  const isEmpty = store.statements.one('readBusiness') === undefined
  store.close()
  if (!loaded && !isEmpty) clearStore(folder)
  return loaded
}

/**
 * Loads the demo where it is not yet loaded: the business is written, then its past four months are played
 * through the engine and the post office, so that every message in the history really went.
 */
export async function loadDemo(
  folder: string,
  onFault: (fault: unknown) => void,
  say: (sentence: string) => void,
) {
  if (isLoaded(folder)) return
  say('Loading the demo: playing four months of bookings and messages, a few seconds …')
  const clockStartsAt = instantOfLocal(businessZone, pastBegins)
  const running = await openApplication({ folder, isDemo: true, smtpUrl: null, clockStartsAt, onFault })
  const { store, settings } = running.application
  store.transaction(() => writeSettings(store.statements, clockStartsAt))
  settings.forget()
  await playThePast(running, say)
  store.statements.run('writeMeta', { key: 'demo loaded', value: 'yes' })
  await running.end()
}
