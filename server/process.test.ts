import { execFileSync } from 'node:child_process'
import { mkdirSync, readdirSync, statSync, truncateSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { afterAll, afterEach, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import type { HouseTrouble } from '#core/api/views.ts'
import { dayMs } from '#core/time/calendar.ts'
import { startFaultingServer } from './testing/faultingServer.ts'
import { newBooking, newClient, read } from './testing/overHttp.ts'
import {
  seedFolder,
  signInAt,
  startProcess,
  startServer,
  wait,
  within,
  type OwnProcess,
} from './testing/ownProcess.ts'
import { testFolder } from './testing/seed.ts'
import { smallDisk } from './testing/smallDisk.ts'

/*
 * What can happen to a server on its machine, done to a real one: told to stop while a mail server is silent, its
 * database locked or its disk full, the clock set, the post office ended.
 */

const isFull = process.env['VORFREUDE_FULL'] === 'yes'
const patience = 60_000

const started: OwnProcess[] = []
afterEach(async () => {
  for (const { child, ended } of started.splice(0)) {
    child.kill('SIGKILL')
    await ended
  }
})

async function start(...given: Parameters<typeof startServer>) {
  const server = await startServer(...given)
  started.push(server)
  return server
}

interface Sent {
  readonly address: string
  readonly state: string
  readonly attempts: number
}
const confirmations = (folder: string) =>
  read<Sent>(
    folder,
    "SELECT address, state, attempts FROM sends WHERE purpose = 'confirmation' ORDER BY address",
  )
const statesOf = (folder: string) => confirmations(folder).map(({ state }) => state)
const areSent = (folder: string) => () => statesOf(folder).every((state) => state === 'sent')

test('told to stop while a mail server is silent, it ends within its ten seconds and leaves nothing in between', async () => {
  const folder = testFolder()
  await seedFolder(folder, ['Oona', 'Inga'])
  const mail = await startFaultingServer()
  mail.fault('.', 'silence', { to: 'oona@mail.nowhere' })
  const server = await start(folder, {
    VORFREUDE_SMTP_URL: `smtp://127.0.0.1:${mail.port}`,
    VORFREUDE_PUBLIC_URL: 'https://kiteworks.example',
  })
  expect(await within(patience, () => mail.faults() > 0 && mail.taken().length === 1)).not.toBeNull()
  const from = Date.now()
  server.child.kill('SIGTERM')
  expect(await server.ended).toBe(0)
  expect(Date.now() - from).toBeLessThan(isFull ? 10_500 : 20_000)
  expect(confirmations(folder).map(({ address, state }) => [address, state])).toEqual([
    ['inga@mail.nowhere', 'sent'],
    ['oona@mail.nowhere', 'in doubt'],
  ])
  mail.close()
})

test('the database locked by another program: pages are read, writing is refused at once, and sending goes on by itself', async () => {
  const folder = testFolder()
  await seedFolder(folder, ['Oona'])
  const server = await start(folder)
  const ask = await signInAt(server.address)
  expect(await within(patience, areSent(folder))).not.toBeNull()
  const names = ['Inga', 'Mirko', 'Tilde', 'Yorick']
  for (const name of names) {
    const added = await ask('POST', 'clients', newClient(name))
    const { id } = added.body as { id: string }
    expect((await ask('POST', 'bookings', newBooking(id, Date.now()))).status).toBe(200)
  }
  const other = new Sqlite(join(folder, 'vorfreude.db'))
  other.exec('BEGIN IMMEDIATE')
  const until = Date.now() + (isFull ? 30_000 : 3000)
  do {
    const page = await ask('GET', 'desk')
    expect([page.status, page.ms < (isFull ? 1000 : 4000)]).toEqual([200, true])
    const refused = await ask('POST', 'clients', newClient('Runa'))
    expect([refused.status, refused.ms < (isFull ? 1000 : 4000)]).toEqual([503, true])
    expect((refused.body as { detail: string }).detail).toMatch(/locked the database/)
  } while (Date.now() < until)
  other.exec('ROLLBACK')
  other.close()
  const client = await ask('POST', 'clients', newClient('Runa'))
  expect(client.status).toBe(200)
  expect(await within(patience, areSent(folder))).not.toBeNull()
  const application = new Sqlite(join(folder, 'postoffice.db'), { readonly: true })
  const taken = application.prepare('SELECT count(*) FROM mail').pluck().get()
  application.close()
  expect([statesOf(folder).length, taken]).toEqual([5, 5])
})

/** Leaves so many pages of a disk free. */
function fill(filling: string, pages: number) {
  for (let size = 1 << 16; size > 0; size >>= 1) {
    for (let more = true; more;) {
      try {
        writeFileSync(filling, Buffer.alloc(size), { flag: 'a' })
      } catch {
        more = false
      }
    }
  }
  truncateSync(filling, statSync(filling).size - pages * 4096)
}

/** What is not whole in the databases of a folder. */
function faultsIn(folder: string): unknown[] {
  return ['vorfreude.db', 'acts.db', 'postoffice.db'].flatMap((name) => {
    const database = new Sqlite(join(folder, name), { readonly: true })
    const found = [
      ...(database.pragma('integrity_check') as { integrity_check: string }[])
        .map((row) => row.integrity_check)
        .filter((line) => line !== 'ok'),
      ...(database.pragma('foreign_key_check') as unknown[]),
    ]
    database.close()
    return found
  })
}

const disk = testFolder()
const small = smallDisk(disk, '6m')
const whereThereIsOne = small ? test : test.skip
afterAll(() => small?.unmount())
whereThereIsOne('the disk full, and emptied: it says so, and sends once there is room', async () => {
  const folder = join(disk, 'business')
  mkdirSync(folder)
  await seedFolder(folder, ['Oona'])
  const server = await start(folder)
  const ask = await signInAt(server.address)
  expect(await within(patience, areSent(folder))).not.toBeNull()
  const filling = join(disk, 'filling')
  // With a little more room each time it is another write of what is done that finds none.
  for (const pages of [0, 1, 2, 3, 5, 8, 13, 21]) {
    try {
      fill(filling, pages)
      let refused = await ask('POST', 'clients', newClient(`Inga${pages}`))
      for (let index = 0; refused.status === 200 && index < 200; index += 1) {
        refused = await ask('POST', 'clients', newClient(`Inga${pages}-${index}`))
      }
      expect(refused.status).toBe(503)
      expect((refused.body as { detail: string }).detail).toMatch(/disk is full/)
      expect((await ask('GET', 'desk')).status).toBe(200)
      expect(statesOf(folder)).not.toContain('sending')
    } finally {
      execFileSync('rm', [filling])
    }
    expect(faultsIn(folder)).toEqual([])
  }
  expect((await ask('POST', 'clients', newClient('Runa'))).status).toBe(200)
  server.child.kill('SIGTERM')
  expect(await server.ended).toBe(0)
  started.splice(0)
})

describe('the clock of the machine is set two days ahead', () => {
  async function withSetClock() {
    const folder = testFolder()
    await seedFolder(folder, ['Oona'])
    const clock = join(folder, 'clock')
    writeFileSync(clock, '0')
    const server = await start(folder, { VORFREUDE_CLOCK_FILE: clock }, ['./server/testing/setClock.ts'])
    const ask = await signInAt(server.address)
    await within(patience, areSent(folder))
    // The reminder, 26 hours before the booking, falls due within what is jumped over, and with it its last chance.
    const at = Date.now() + dayMs
    database(folder, `UPDATE sends SET due_at = ${at}, not_after = ${at} WHERE purpose = 'reminder'`)
    const house = async () => ((await ask('GET', 'desk')).body as { house: HouseTrouble[] }).house
    writeFileSync(clock, String(2 * dayMs))
    await within(patience, async () => (await house()).some(({ key }) => key === 'clock'))
    return { folder, clock, ask, house }
  }
  function database(folder: string, sql: string) {
    const own = new Sqlite(join(folder, 'vorfreude.db'), { timeout: 5000 })
    own.exec(sql)
    own.close()
  }
  const reminders = (folder: string) =>
    read<{ state: string }>(folder, "SELECT state FROM sends WHERE purpose = 'reminder'").map(
      ({ state }) => state,
    )

  test('and back: nothing was decided meanwhile, and what was made meanwhile goes', async () => {
    const { folder, clock, ask, house } = await withSetClock()
    const [trouble] = await house()
    expect(trouble?.sentence).toMatch(/clock of this computer jumped from .* to /)
    expect(trouble?.lines).toEqual(['1 message would be missed: Oona.'])
    const client = (await ask('POST', 'clients', newClient('Inga'))).body as { id: string }
    const now = ((await ask('GET', 'overview')).body as { clock: { now: number } }).clock.now
    expect(Math.abs(now - Date.now())).toBeLessThan(60_000)
    const booked = await ask('POST', 'bookings', newBooking(client.id, now))
    expect([booked.status, booked.body]).toEqual([200, expect.anything()])
    await wait(1500)
    expect(statesOf(folder)).toEqual(['ready', 'sent'])
    expect(reminders(folder)).toEqual(['ready', 'ready'])
    writeFileSync(clock, '0')
    expect(await within(patience, areSent(folder))).not.toBeNull()
    expect(reminders(folder)).toEqual(['ready', 'ready'])
    expect(await house()).toEqual([])
  })

  test('and it is right: what fell due by it is caught up with', async () => {
    const { folder, ask, house } = await withSetClock()
    const [trouble] = await house()
    const { machineAt } = trouble?.act as { machineAt: number }
    expect((await ask('POST', 'clock/trust', { machineAt: machineAt + dayMs })).status).toBe(409)
    expect(reminders(folder)).toEqual(['ready'])
    expect((await ask('POST', 'clock/trust', { machineAt })).status).toBe(200)
    expect(await within(patience, () => reminders(folder)[0] === 'missed')).not.toBeNull()
    expect(await house()).toEqual([])
  })
})

test('the post office ended: it is started again, and messages go', async () => {
  const folder = testFolder()
  await seedFolder(folder, ['Oona'])
  const server = await start(folder)
  const ask = await signInAt(server.address)
  await within(patience, areSent(folder))
  const processes = readdirSync('/proc').filter((id) => /^\d+$/.test(id))
  const isPostOffice = (id: string) => {
    try {
      const words = execFileSync('cat', [`/proc/${id}/cmdline`], { stdio: ['ignore', 'pipe', 'ignore'] })
      return words.includes('postOffice/main.ts') && words.includes(folder)
    } catch {
      return false
    }
  }
  const [postOffice] = processes.filter(isPostOffice)
  expect(postOffice).toBeDefined()
  process.kill(Number(postOffice), 'SIGKILL')
  const client = (await ask('POST', 'clients', newClient('Inga'))).body as { id: string }
  await ask('POST', 'bookings', newBooking(client.id, Date.now()))
  expect(await within(patience, () => statesOf(folder).length === 2 && areSent(folder)())).not.toBeNull()
  expect(confirmations(folder).map(({ attempts }) => attempts)).toEqual([1, 1])
})

describe('a data folder that cannot be used gets a sentence, and no stack', () => {
  const startsWith = async (folder: string) => {
    const { ended, output } = startProcess(folder)
    const code = await ended
    expect(output()).not.toMatch(/\n\s+at |SqliteError/)
    return [code, output()] as const
  }

  test('whose files are for nobody else', async () => {
    const folder = testFolder()
    const server = await start(folder)
    const modes = readdirSync(folder).map((file) => [file, statSync(join(folder, file)).mode & 0o077])
    expect(modes.length).toBeGreaterThan(2)
    expect(modes.filter(([, others]) => others !== 0)).toEqual([])
    server.child.kill('SIGTERM')
    await server.ended
  })

  test('a database that is none', async () => {
    const folder = testFolder()
    writeFileSync(join(folder, 'vorfreude.db'), 'x'.repeat(9000))
    const [code, output] = await startsWith(folder)
    expect(code).toBe(1)
    expect(output).toMatch(/is damaged.*backup/s)
  })

  test('a database whose pages are damaged', async () => {
    const folder = testFolder()
    await seedFolder(folder, ['Oona'])
    const file = join(folder, 'vorfreude.db')
    const whole = new Sqlite(file)
    whole.pragma('wal_checkpoint(TRUNCATE)')
    whole.close()
    const { size } = statSync(file)
    const noise = Buffer.alloc(size - 4096, 0xa5)
    execFileSync('dd', [`of=${file}`, 'bs=4096', 'seek=1', 'conv=notrunc', 'status=none'], { input: noise })
    const [code, output] = await startsWith(folder)
    expect(code).toBe(1)
    expect(output).toMatch(/is damaged.*backup/s)
  })

  test('a business of which something cannot be read', async () => {
    const folder = testFolder()
    await seedFolder(folder, [])
    const database = new Sqlite(join(folder, 'vorfreude.db'))
    database.exec("UPDATE business SET allowance_json = '{}'")
    database.close()
    const [code, output] = await startsWith(folder)
    expect(code).toBe(1)
    expect(output).toMatch(/What is kept of the business cannot be read.*backup/s)
  })

  whereThereIsOne('a disk that may only be read', async () => {
    const folder = testFolder()
    const own = smallDisk(folder, '6m')
    await seedFolder(folder, [])
    own?.makeReadOnly()
    const [code, output] = await startsWith(folder)
    own?.unmount()
    expect(code).toBe(1)
    expect(output).toMatch(/cannot be written to/)
  })
})
