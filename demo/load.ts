import { randomUUID } from 'node:crypto'
import { instantOfLocal, localAt } from '#core/time/localText.ts'
import type { MoveBookingInput } from '#core/engine/commands/bookingCommands.ts'
import { recordHappening } from '#core/engine/commands/dealingCommands.ts'
import type { FormFiller } from '#core/engine/commands/formCommands.ts'
import type { FilledForm } from '#core/forms/readForm.ts'
import { nothingWished } from '#core/model/enquiry.ts'
import type { Result } from '#core/model/problem.ts'
import type { Variation } from '#core/model/variation.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import type { Zone } from '#core/time/zones.ts'
import { clearStore, openStore } from '#server/db/database.ts'
import { incomingPlace } from '#core/model/incoming.ts'
import { incomingAtDesk } from '#server/db/incomingStore.ts'
import { readBooking, readEnquiry } from '#server/db/clientStore.ts'
import {
  addPerson,
  addSequence,
  putOwnStatus,
  putPipeline,
  putService,
  writeBusiness,
} from '#server/db/settingsStore.ts'
import { lastSigning, putDocument } from '#server/db/documentStore.ts'
import { putForm } from '#server/db/formStore.ts'
import { signedPdf } from '#server/clientPages/signedPdf.ts'
import { putLetter, putPassage } from '#server/db/letterStore.ts'
import { putOnePressMove } from '#server/db/moveStore.ts'
import type { Statements } from '#server/db/statements.ts'
import { demoStartAt } from '#server/engine/loop/clock.ts'
import { callOf } from '#server/engine/application.ts'
import { openApplication, type RunningApplication } from '#server/engine/runningApplication.ts'
import { bookings, type DemoBooking, type DemoThen } from './bookings.ts'
import { business, businessZone, people, services } from './business.ts'
import { clients } from './clients.ts'
import { react, reactions } from './cameIn.ts'
import { charterAgreement, documents } from './documents.ts'
import { agreements, charters, enquiries, progress, type DemoEnquiry } from './enquiries.ts'
import { charterForm } from './forms.ts'
import { letters } from './letters.ts'
import { onePressMoves, sendAgreement } from './moves.ts'
import { paymentsOf } from './payments.ts'
import { passages } from './passages.ts'
import { sequences } from './sequences.ts'
import { ownStatuses } from './statuses.ts'

/** Where the past that is played begins: Wednesday 14 January 2026, 08:00. */
const pastBegins = '2026-01-14T08:00'

/** The local reading some minutes after another one, on the clock of a place. */
function localAfter(zone: Zone, local: string, minutes: number): string {
  return localAt(zone, instantOfLocal(zone, local) + minutes * minuteMs)
}

interface Act {
  readonly at: number
  readonly run: () => void | Promise<void>
}

function required<Value>(result: Result<Value>): Value {
  if (!result.ok) throw new Error(`The demo's data does not play: ${result.problem.sentence}`)
  return result.value
}

const call = (name: string, person: number) =>
  callOf(name, randomUUID(), people[person % people.length]?.id ?? null)

interface Seen {
  readonly id: string
  readonly revision: number
}

type Doing = (commands: RunningApplication['commands'], id: string, revision: number) => Result<unknown>

/** What is done with a booking, by which command. */
const doings: Readonly<Record<Exclude<DemoThen[0], 'moved'>, Doing>> = {
  confirmed: (commands, ...on) => commands.confirmBooking(call('confirmBooking', 0), ...on),
  'papers in': (commands, ...on) => commands.giveOwnStatus(call('giveOwnStatus', 2), ...on, 'papers in'),
  'cancelled by us': (commands, ...on) => commands.cancelBooking(call('cancelBooking', 2), ...on),
  'cancelled by the client': (commands, ...on) =>
    commands.cancelByClient(call('cancelByClient', 2), ...on, ''),
  missed: (commands, ...on) => commands.missBooking(call('missBooking', 1), ...on),
}

const actAt = (local: string, run: Act['run']): Act => ({ at: instantOfLocal(businessZone, local), run })

/** What became of a booking once it was made. */
function changesOf(
  { then }: DemoBooking,
  present: () => Seen,
  timesFrom: (start: string) => MoveBookingInput,
  { commands }: RunningApplication,
): Act[] {
  return then.map((one) =>
    actAt(one[1], () => {
      const { id, revision } = present()
      required(
        one[0] === 'moved'
          ? commands.moveBooking(call('moveBooking', 1), id, revision, timesFrom(one[2]))
          : doings[one[0]](commands, id, revision),
      )
    }),
  )
}

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
  // A date that passes can have changed it meanwhile.
  const present = () => {
    const revision = readBooking(running.application.store.statements, made.id)?.revision ?? 0
    return { id: made.id, revision }
  }
  const acts = [
    actAt(booking.madeAt, () => {
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
  return [
    ...acts,
    ...changesOf(booking, present, timesFrom, running),
    ...paymentsOf(booking, () => made.id, running),
  ].filter(({ at }) => at < demoStartAt)
}

function writeSettings(statements: Statements, liveSince: number) {
  writeBusiness(statements, business)
  people.forEach((person) => addPerson(statements, person, null))
  services.forEach((service) => putService(statements, service))
  ownStatuses.forEach((one) => putOwnStatus(statements, { ...one, comesSince: liveSince }))
  putPipeline(statements, charters)
  documents.forEach((document) => putDocument(statements, document))
  putForm(statements, charterForm)
  onePressMoves.forEach((move) => putOnePressMove(statements, move))
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

/** What waits in some sequences is looked through day by day, and what is to be done is done; what is left waits when the demo begins. */
const lookedThrough: readonly string[] = ['sq_missed', 'sq_landed', 'sq_enquiry', 'sq_offer']

function lookThrough({ application, commands }: RunningApplication) {
  const { statements } = application.store
  for (const place of incomingPlace.options) {
    for (const { id, revision } of incomingAtDesk(statements, { place, afterId: null, limit: 100 })) {
      required(commands.finishIncoming(call('finishIncoming', 0), { id, revision }, true))
    }
  }
  for (const row of statements.all('listWaiting', { afterId: null, limit: 100 })) {
    if (!lookedThrough.includes(String(row['sequenceId']))) continue
    const on = { id: String(row['id']), revision: Number(row['revision']) }
    required(commands.decideSend(call('decideSend', 1), on, 'approve'))
  }
  for (const row of statements.all('openTasks', { afterId: null, limit: 100 })) {
    const on = { id: String(row['id']), revision: Number(row['revision']) }
    required(commands.finishTask(call('finishTask', 0), on, true))
  }
}

async function playThePast(running: RunningApplication, say: (sentence: string) => void) {
  running.postOffice?.setBehaviour('ruprecht@closed-mailbox.example', 'refuse')
  running.postOffice?.setBehaviour('milena@flaky-line.example', 'drop after data')
  const clientIds = addClients(running)
  const acts = bookings
    .flatMap((booking, index) => actsOf(booking, index, running, clientIds))
    .concat(enquiryActs(running, clientIds))
    .concat(reactions.map((one) => actAt(one.at, () => react(running, one))))
    .sort((one, other) => one.at - other.at)
  for (const [index, act] of acts.entries()) {
    await running.pump.advance(act.at)
    lookThrough(running)
    await act.run()
    if (index % 20 === 19) say(`  ${index + 1} of ${acts.length} things have happened …`)
  }
  await running.pump.advance(demoStartAt)
  lookThrough(running)
  required(running.commands.vary(call('vary', 0), differing))
  required(running.commands.switchSequence(call('switchSequence', 0), 'sq_anniversary', false))
}

/** Who came by the web page filled the form in. */
function filledIn(
  client: string,
  { what, source, ...wished }: Omit<DemoEnquiry, 'client' | 'receivedAt' | 'then'>,
): [FormFiller, FilledForm] | null {
  const { firstName = '', lastName = '', email = null, phone = '' } = clients[client]?.contacts[0] ?? {}
  if (source !== 'web page' || email === null) return null
  const answers = [
    { question: 'What is it for?', answer: what },
    { question: 'Morning or evening?', answer: 'At sunrise' },
  ]
  const filled = { ...wished, what, source, serviceId: 'sv_private', takesPromotional: null, answers }
  return [{ firstName, lastName, email, phone }, filled]
}

/** Enquiries that come in, are answered and go on, as it happened. */
function enquiryActs(running: RunningApplication, clientIds: ReadonlyMap<string, string>): Act[] {
  const { application, commands } = running
  const ids = new Map<string, string>()
  const seen = (client: string) => {
    const found = readEnquiry(application.store.statements, ids.get(client) ?? '')
    if (!found) throw new Error(`No enquiry of ${client}`)
    return found
  }
  const clientOf = (client: string) => clientIds.get(client) ?? ''
  const came = enquiries.flatMap(({ client, receivedAt, then, ...wished }) => [
    actAt(receivedAt, () => {
      const byForm = filledIn(client, wished)
      const asked = { ...nothingWished, ...wished, serviceId: 'sv_private', personInChargeId: null }
      const enquiry = { ...asked, clientId: clientOf(client), pipelineId: charters.id }
      const made = byForm
        ? commands.receiveForm(callOf('receiveForm', randomUUID()), charterForm, ...byForm)
        : commands.addEnquiry(call('addEnquiry', 0), enquiry)
      ids.set(client, required(made).id)
    }),
    ...then.map(([what, on, lostReason = '']) =>
      actAt(on, () => {
        if (what === 'answered') {
          const slice = application.sliceOf(clientOf(client), 'everything')
          if (!slice) throw new Error(`No client ${client}`)
          application.apply(required(recordHappening(slice, what, '', application.context(null))))
        } else {
          required(commands.moveEnquiry(call('moveEnquiry', 1), seen(client), { stage: what, lostReason }))
        }
      }),
    ),
  ])
  const ticked = progress.flatMap(({ client, tellsFrom, ticks }) => [
    actAt(tellsFrom, () => {
      required(commands.setEvening(call('setEvening', 2), seen(client).id, true, false))
    }),
    ...ticks.map(([line, at]) =>
      actAt(at, () => {
        required(commands.tickLine(call('tickLine', 2), seen(client).id, line))
      }),
    ),
  ])
  return [...came, ...ticked, ...agreementActs(running, seen)]
}

/** Agreements that are sent by one press, and signed by who got them. */
function agreementActs(
  { application, commands }: RunningApplication,
  seen: (client: string) => { readonly id: string; readonly revision: number },
): Act[] {
  const { statements } = application.store
  return agreements.flatMap(({ client, sentAt, signed }) => [
    actAt(sentAt, () => {
      const { id, revision } = seen(client)
      required(commands.pressMove(call('pressMove', 2), sendAgreement.id, [{ id, revision }]))
    }),
    ...(signed === null
      ? []
      : [
          actAt(signed.at, async () => {
            const signing = lastSigning(statements, seen(client).id, charterAgreement.id)
            if (!signing) throw new Error(`Nothing was sent to ${client} to sign`)
            const { document, hash } = signing
            const given = { typedName: signed.name, address: '203.0.113.24', at: application.clock.now() }
            const copy = { document, hash, signed: given, businessName: business.name, zone: businessZone }
            const pdf = await signedPdf(copy)
            required(
              commands.signDocument(
                callOf('signDocument', `sign-${signing.id.slice(3)}`),
                signing,
                { ...given, hash },
                pdf,
              ),
            )
          }),
        ]),
  ])
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
  say('Loading the demo: playing four months of bookings and messages, about a minute …')
  const clockStartsAt = instantOfLocal(businessZone, pastBegins)
  const running = await openApplication({ folder, isDemo: true, smtpUrl: null, clockStartsAt, onFault })
  const { store, settings } = running.application
  store.transaction(() => writeSettings(store.statements, clockStartsAt))
  settings.forget()
  await playThePast(running, say)
  store.statements.run('writeMeta', { key: 'demo loaded', value: 'yes' })
  await running.end()
}
