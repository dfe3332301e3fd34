import { rmSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { makeBooking } from '#core/engine/commands/bookingCommands.ts'
import type { Booking } from '#core/model/booking.ts'
import { startRule } from '#core/model/sequence.ts'
import { exampleClient, exampleSettings, exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { createWorld } from '#core/rehearsal/world.ts'
import { dayMs } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import { putBooking, putClient, putRun } from '#server/db/clientStore.ts'
import { openStore, type Store } from '#server/db/database.ts'
import { putSend } from '#server/db/sendStore.ts'
import { addSequence } from '#server/db/settingsStore.ts'
import { createChanges } from '#server/engine/changes.ts'
import { createApplication, type Application } from '#server/engine/application.ts'
import { createSettingsSource } from '#server/engine/settings.ts'
import { testFolder, writeExampleBusiness } from '#server/testing/seed.ts'

export const origin = Date.UTC(2026, 4, 14, 5, 40)

/** Ten steps before the start of a booking, by days and by hours in turns. */
export const tenSteps = Array.from({ length: 10 }, (_, index) =>
  exampleStep({
    id: `st_${index}`,
    purpose: 'preparation',
    timing:
      index % 2 === 0
        ? {
            kind: 'calendar',
            amount: index + 1,
            unit: 'days',
            direction: 'before',
            anchor: { of: 'booking start' },
            atTime: '18:00',
          }
        : {
            kind: 'elapsed',
            amount: 3 * index + 2,
            unit: 'hours',
            direction: 'before',
            anchor: { of: 'booking start' },
          },
  }),
)

/** One client with a confirmed booking, planned by the engine itself: the pattern for all. */
function writePattern({ statements }: Store, now: number): Booking {
  const world = createWorld(exampleSettings(realZones, tenSteps), exampleClient, now)
  const date = new Date(now + 48 * dayMs).toISOString().slice(0, 10)
  const booking = {
    clientId: exampleClient.id,
    serviceId: 'sv_lesson',
    startLocal: `${date}T10:00`,
    endLocal: `${date}T12:00`,
    partySize: 1,
    status: 'confirmed' as const,
    personInChargeId: null,
  }
  world.carryOut(makeBooking(world.slice(), booking, () => 0, world.context()))
  const { client, bookings, runs, sends } = world.facts()
  putClient(statements, client)
  bookings.forEach((one) => putBooking(statements, one))
  // The first version in the database is the example's own.
  runs.forEach((one) => putRun(statements, { ...one, version: 2 }))
  sends.forEach((one) => putSend(statements, { ...one, sequenceVersion: 2 }))
  const [made] = bookings
  if (!made) throw new Error('The pattern has no booking')
  return made
}

const copied: Readonly<Record<string, readonly string[]>> = {
  clients: ['id'],
  contacts: ['id', 'client_id'],
  bookings: ['id', 'client_id'],
  runs: ['id', 'client_id', 'subject_id'],
  sends: ['id', 'run_id', 'client_id', 'subject_id', 'recipient_id', 'message_id'],
}

/** Copies the pattern many times over, each with ids of its own, a little apart in time. */
function multiply(file: string, times: number) {
  const database = new Sqlite(file)
  database.pragma('journal_mode = WAL')
  database.pragma('synchronous = OFF')
  for (const [table, ids] of Object.entries(copied)) {
    const columns = (database.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => name)
    const values = columns.map((name) => {
      if (ids.includes(name)) return `${name} || '-' || n.value`
      return name === 'due_at' ? 'due_at + n.value * 1000' : name
    })
    database.exec(`WITH RECURSIVE n (value) AS (SELECT 1 UNION ALL SELECT value + 1 FROM n WHERE value < ${times})
      INSERT INTO ${table} (${columns.join(', ')})
      SELECT ${values.join(', ')} FROM (SELECT * FROM ${table} LIMIT 100) one, n`)
  }
  database.exec('ANALYZE')
  database.close()
}

/** A data folder whose database holds ten sends for each of so many clients, and the booking they are copies of. */
export function folderWith(
  clients: number,
  now = origin,
): { readonly folder: string; readonly booking: Booking } {
  const folder = testFolder()
  const store = openStore(folder)
  store.transaction(() => {
    writeExampleBusiness(store.statements)
    addSequence(
      store.statements,
      { id: 'sq_1', name: 'Ten steps', state: 'live', liveSince: 0, currentVersion: 2 },
      {
        sequenceId: 'sq_1',
        version: 2,
        start: startRule.parse({ on: 'booking confirmed' }),
        steps: tenSteps,
        stops: [],
      },
    )
  })
  const booking = store.transaction(() => writePattern(store, now))
  store.close()
  multiply(join(folder, 'vorfreude.db'), clients - 1)
  return { folder, booking }
}

/** An application on such a folder. */
export function applicationWith(clients: number): {
  readonly application: Application
  readonly booking: Booking
  readonly close: () => void
} {
  const { folder, booking } = folderWith(clients)
  const opened = openStore(folder)
  const clock = {
    kind: 'demo' as const,
    now: () => origin,
    reach: () => undefined,
    jump: () => null,
    trustMachine: () => undefined,
  }
  const settings = createSettingsSource(opened.statements)
  const application = createApplication({ store: opened, clock, settings, changes: createChanges() })
  return {
    application,
    booking,
    close() {
      opened.close()
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
