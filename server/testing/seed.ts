import { randomUUID } from 'node:crypto'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { plainPerson } from '#core/model/business.ts'
import type { ClientInput } from '#core/engine/commands/clientCommands.ts'
import { isoDateOf } from '#core/time/calendar.ts'
import {
  exampleBusiness,
  examplePerson,
  exampleService,
  exampleSteps,
} from '#core/rehearsal/exampleBusiness.ts'
import type { z } from 'zod'
import { startRule, stopRule } from '#core/model/sequence.ts'
import type { Step } from '#core/model/step.ts'
import { starterVersion } from '#core/sequences/starters.ts'
import { starterLetters } from '#core/sequences/starterLetters.ts'
import { addPerson, addSequence, putService, writeBusiness } from '../db/settingsStore.ts'
import { putLetter } from '../db/letterStore.ts'
import type { Statements } from '../db/statements.ts'
import type { Commands } from '../engine/commands/commands.ts'
import { callOf, type Application } from '../engine/application.ts'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { startPaymentsHere } from '../standins/payments/start.ts'
import { startPostOfficeHere } from '../standins/postOffice/start.ts'

/** A fresh folder for one test's data. */
export const testFolder = () => mkdtempSync(join(tmpdir(), 'vorfreude-test-'))

export const call = (name: string) => callOf(name, randomUUID())

/** Somebody who may do everything. */
export const eda = {
  id: 'pe_eda',
  name: 'Eda',
  email: 'eda@kiteworks.example',
  role: 'owner',
  isActive: true,
  ...plainPerson,
  revision: 1,
} as const

/** A message as it stands now, for an act on it. */
export const asItStands = ({ store }: Application, id: string) => ({
  id,
  revision: Number(store.statements.one('sendRevision', { id })?.['revision']),
})

/** The example business of core's tests, written into a database, with room for many people at one time. */
export function writeExampleBusiness(statements: Statements) {
  writeBusiness(statements, exampleBusiness)
  addPerson(statements, examplePerson, null)
  putService(statements, { ...exampleService, seats: 100_000 })
  starterLetters.forEach((letter) => putLetter(statements, letter, null))
  addSequence(
    statements,
    { id: 'sq_1', name: 'Before a lesson', state: 'live', liveSince: 0, currentVersion: 1 },
    {
      sequenceId: 'sq_1',
      version: 1,
      start: startRule.parse({ on: 'booking confirmed' }),
      steps: [...exampleSteps],
      stops: [],
    },
  )
}

/** One more sequence that is live, on confirmed bookings or what else starts it. */
export function addLive(
  { store, settings }: Application,
  id: string,
  steps: readonly Step[],
  start: z.input<typeof startRule> = { on: 'booking confirmed' },
  stops: readonly z.input<typeof stopRule>[] = [],
) {
  store.transaction(() =>
    addSequence(
      store.statements,
      { id, name: id, state: 'live', liveSince: 0, currentVersion: 1 },
      {
        sequenceId: id,
        version: 1,
        start: startRule.parse(start),
        steps: [...steps],
        stops: stops.map((one) => stopRule.parse(one)),
      },
    ),
  )
  settings.forget()
}

/** What a first run brings, as once its letters were read, it went live and its messages had earned to go by themselves. */
export function letStarterGoLive({ store, settings, clock }: Application) {
  const { sequences, letters } = settings.required()
  store.transaction(() => {
    letters.forEach((letter) =>
      putLetter(store.statements, { ...letter, isStarter: false, version: letter.version + 1 }, null),
    )
    sequences.forEach((sequence) => {
      const steps = starterVersion.steps.map((step) => ({ ...step, needsApproval: false }))
      const gone = { state: 'live', liveSince: clock.now(), currentVersion: 2 } as const
      addSequence(store.statements, { ...sequence, ...gone }, { ...starterVersion, version: 2, steps })
    })
  })
  settings.forget()
}

export function clientInput(name: string, email: string | null): ClientInput {
  return {
    name,
    zone: null,
    language: 'en',
    tags: [],
    takesPromotional: true,
    isActive: true,
    contacts: [{ id: null, firstName: name, lastName: 'Brackwater', email, phone: '', isPrimary: true }],
    namedDates: [],
  }
}

/** Adds a client with a confirmed booking some days from now at 19:00; returns the booking's id. */
export function addBookedClient(
  application: Application,
  commands: Commands,
  name: string,
  email: string | null,
  days = 5,
  serviceId: string = exampleService.id,
): string {
  const client = commands.addClient(call('addClient'), clientInput(name, email))
  if (!client.ok) throw new Error(client.problem.sentence)
  const date = isoDateOf(Math.floor(application.clock.now() / 86_400_000) + days)
  const made = commands.makeBooking(call('makeBooking'), {
    clientId: client.value.id,
    serviceId,
    startLocal: `${date}T19:00`,
    endLocal: `${date}T21:00`,
    partySize: 1,
    status: 'confirmed',
    personInChargeId: null,
  })
  if (!made.ok) throw new Error(made.problem.sentence)
  return made.value.id
}

/** Thursday 14 May 2026, 07:40 in Berlin. */
export const exampleStartsAt = Date.UTC(2026, 4, 14, 5, 40)

interface ExampleOptions {
  readonly folder?: string | undefined
  readonly onFault?: (fault: unknown) => void
  readonly clockStartsAt?: number
  /** A post office of its own process, as in earnest; otherwise it is within this one. */
  readonly hasPostOfficeBeside?: boolean
}

/** The example business at work, with a clock that is moved by hand. */
export async function openExample({
  folder = testFolder(),
  onFault = (fault) => {
    throw fault
  },
  clockStartsAt = exampleStartsAt,
  hasPostOfficeBeside = false,
}: ExampleOptions = {}): Promise<RunningApplication> {
  const running = await openApplication({
    folder,
    isDemo: true,
    smtpUrl: null,
    clockStartsAt,
    allowsOwnNetwork: true,
    ...(hasPostOfficeBeside ? {} : { startPostOffice: startPostOfficeHere }),
    startPayments: startPaymentsHere,
    onFault,
  })
  const { store, settings } = running.application
  if (!settings.current()) store.transaction(() => writeExampleBusiness(store.statements))
  settings.forget()
  return running
}
