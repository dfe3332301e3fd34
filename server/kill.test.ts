import { spawn, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import { expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { openStore } from './db/database.ts'
import { createChanges } from './engine/changes.ts'
import { createRealClock } from './engine/clock.ts'
import { createCommands } from './engine/commands.ts'
import { createOffice } from './engine/office.ts'
import { createSettingsSource } from './engine/settings.ts'
import { chanceFrom } from './testing/chance.ts'
import { addBookedClient, testFolder, writeExampleBusiness } from './testing/seed.ts'

const messages = 200
const rounds = process.env['VORFREUDE_FULL'] === 'yes' ? 20 : 3

/** Two hundred clients, each with a booking whose confirmation is due, and nothing sent yet. */
function seed(folder: string) {
  const store = openStore(folder)
  store.transaction(() => writeExampleBusiness(store.statements))
  const office = createOffice({
    store,
    clock: createRealClock(),
    settings: createSettingsSource(store.statements),
    changes: createChanges(),
  })
  const commands = createCommands(office)
  for (let index = 0; index < messages; index += 1) {
    addBookedClient(office, commands, `Client ${index}`, `client${index}@mail.example`)
  }
  store.close()
}

function start(folder: string): ChildProcess {
  return spawn(process.execPath, ['--import', 'tsx', 'server/main.ts', '--data', folder, '--port', '0'], {
    stdio: ['ignore', 'pipe', 'inherit'],
  })
}

const ended = (child: ChildProcess) => new Promise((resolve) => child.once('exit', resolve))
const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

interface Row {
  readonly state: string
  readonly messageId: string
}

function confirmations(folder: string): Row[] {
  const database = new Sqlite(join(folder, 'vorfreude.db'), { readonly: true })
  const rows = database
    .prepare<[], Row>("SELECT state, message_id AS messageId FROM sends WHERE purpose = 'confirmation'")
    .all()
  database.close()
  return rows
}

function copies(folder: string): Map<string, number> {
  const database = new Sqlite(join(folder, 'postoffice.db'), { readonly: true })
  const rows = database
    .prepare<[], { messageId: string; count: number }>(
      'SELECT message_id AS messageId, count(*) AS count FROM mail GROUP BY message_id',
    )
    .all()
  database.close()
  return new Map(rows.map(({ messageId, count }) => [messageId, count]))
}

/** Kills the server the moment a number of messages has gone, or after a while if they go no further. */
async function killAfter(folder: string, goal: number) {
  const child = start(folder)
  const exit = ended(child)
  const deadline = Date.now() + 120_000
  while (Date.now() < deadline) {
    if (confirmations(folder).filter(({ state }) => state === 'sent').length >= goal) break
    await wait(3)
  }
  child.kill('SIGKILL')
  await exit
}

async function finish(folder: string) {
  const child = start(folder)
  const exit = ended(child)
  const deadline = Date.now() + 240_000
  while (Date.now() < deadline) {
    if (!confirmations(folder).some(({ state }) => state === 'ready' || state === 'sending')) break
    await wait(50)
  }
  child.kill('SIGTERM')
  await exit
}

test(`killed ${rounds} times while ${messages} messages go out: each is there once, or in doubt and marked so`, async () => {
  const folder = testFolder()
  seed(folder)
  const chance = chanceFrom(20260514)
  for (let round = 0; round < rounds; round += 1) {
    const share = (round + chance()) / (rounds + 0.5)
    await killAfter(folder, Math.floor(share * messages))
  }
  await finish(folder)
  const rows = confirmations(folder)
  const inMailboxes = copies(folder)
  expect(rows).toHaveLength(messages)
  for (const { state, messageId } of rows) {
    const count = inMailboxes.get(messageId) ?? 0
    expect(['sent', 'in doubt']).toContain(state)
    expect(count).toBeLessThanOrEqual(1)
    if (state === 'sent') expect(count).toBe(1)
  }
  const doubted = rows.filter(({ state }) => state === 'in doubt').length
  expect(doubted).toBeLessThanOrEqual(rounds * 5)
}, 2_400_000)
