import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { exampleService } from '#core/rehearsal/exampleBusiness.ts'
import { dayMs } from '#core/time/calendar.ts'
import { clientInput } from './seed.ts'

/** What to tell a server of its own that a client came. */
export const newClient = (name: string, email = `${name.toLowerCase()}@mail.nowhere`) => ({
  commandId: randomUUID(),
  client: clientInput(name, email),
})

/** What to tell it that a client booked, nine days on. */
export function newBooking(clientId: string, now: number) {
  const on = new Date(now + 9 * dayMs).toISOString().slice(0, 10)
  return {
    commandId: randomUUID(),
    booking: {
      clientId,
      serviceId: exampleService.id,
      startLocal: `${on}T19:00`,
      endLocal: `${on}T21:00`,
      partySize: 1,
      status: 'confirmed',
      personInChargeId: null,
    },
  }
}

/** What stands in its database, whoever asks. */
export function read<Row>(folder: string, sql: string): Row[] {
  const database = new Sqlite(join(folder, 'vorfreude.db'), { readonly: true })
  const rows = database.prepare<[], Row>(sql).all()
  database.close()
  return rows
}
