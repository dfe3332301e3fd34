import { randomUUID } from 'node:crypto'
import { join } from 'node:path'
import { expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { handOver } from './testing/handOver.ts'
import { mailOf } from './testing/mails.ts'
import { chanceFrom } from './testing/chance.ts'
import { seedFolder, signInAt, startProcess, startServer, wait } from './testing/ownProcess.ts'
import { clientInput, testFolder } from './testing/seed.ts'

const messages = 200
const rounds = process.env['VORFREUDE_FULL'] === 'yes' ? 60 : 3

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

/** Kills the server the moment a number of messages has gone or may have, or after a while if they go no further. */
async function killAfter(folder: string, goal: number) {
  const { child, ended } = startProcess(folder)
  const deadline = Date.now() + 120_000
  while (Date.now() < deadline) {
    const isOver = ({ state }: Row) => state === 'sent' || state === 'in doubt'
    if (confirmations(folder).filter(isOver).length >= goal) break
    await wait(3)
  }
  child.kill('SIGKILL')
  await ended
}

async function finish(folder: string) {
  const { child, ended } = startProcess(folder)
  const deadline = Date.now() + 240_000
  while (Date.now() < deadline) {
    if (!confirmations(folder).some(({ state }) => state === 'ready' || state === 'sending')) break
    await wait(50)
  }
  child.kill('SIGTERM')
  await ended
}

test(`killed ${rounds} times while ${messages} messages go out: each is there once, or in doubt and marked so`, async () => {
  const folder = testFolder()
  // Each has a booking whose confirmation is due, and nothing is sent yet.
  await seedFolder(
    folder,
    Array.from({ length: messages }, (_, index) => `Client${index}`),
  )
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

interface Act {
  readonly commandId: string
  readonly name: string
  /** The client's id, once it was answered. */
  id: string | null
}

test(`killed ${rounds} times while clients are added: what was answered is there, what was not is done once when it is sent again`, async () => {
  const folder = testFolder()
  await seedFolder(folder, [])
  const chance = chanceFrom(20260515)
  const acts: Act[] = []
  const send = async (ask: Awaited<ReturnType<typeof signInAt>>, act: Act) => {
    const client = clientInput(act.name, `${act.name.toLowerCase()}@mail.nowhere`)
    const answer = await ask('POST', 'clients', { commandId: act.commandId, client })
    if (answer.status === 200) act.id = (answer.body as { id: string }).id
  }
  for (let round = 0; round < rounds; round += 1) {
    const server = await startServer(folder)
    const ask = await signInAt(server.address)
    for (const act of acts.filter(({ id }) => id === null)) await send(ask, act)
    const killing = wait(50 + chance() * 400).then(() => server.child.kill('SIGKILL'))
    for (let index = 0; server.child.exitCode === null && !server.child.killed; index += 1) {
      const act: Act = { commandId: randomUUID(), name: `R${round}N${index}`, id: null }
      acts.push(act)
      // Not answered: nobody knows yet whether it was done.
      await send(ask, act).catch(() => undefined)
    }
    await killing
    await server.ended
  }
  const server = await startServer(folder)
  const ask = await signInAt(server.address)
  for (const act of acts.filter(({ id }) => id === null)) await send(ask, act)
  server.child.kill('SIGTERM')
  await server.ended
  const database = new Sqlite(join(folder, 'vorfreude.db'), { readonly: true })
  const clients = database
    .prepare<[], { id: string; name: string }>('SELECT id, name FROM clients ORDER BY name')
    .all()
  database.close()
  const byName = (one: { readonly name: string }, other: { readonly name: string }) =>
    one.name < other.name ? -1 : 1
  expect(clients.sort(byName)).toEqual(acts.map(({ id, name }) => ({ id, name })).sort(byName))
  expect(acts.length).toBeGreaterThan(rounds)
}, 2_400_000)

const mails = 100

test(`killed ${rounds} times while ${mails} mails come in: each is there once, and none is lost`, async () => {
  const folder = testFolder()
  await seedFolder(folder, ['Enno'])
  const chance = chanceFrom(20260516)
  const ids = Array.from({ length: mails }, (_, index) => `<mail-${index}@enno.test>`)
  const taken = new Set<string>()
  const start = async () => {
    const server = await startServer(folder, { VORFREUDE_INCOMING_PORT: '0' })
    const port = Number(/by SMTP at 127\.0\.0\.1:(\d+)/.exec(server.output())?.[1])
    return { server, port }
  }
  /** Hands over what was not taken yet, as a host does that forwards; what it said 250 to is its. */
  const deliver = async (port: number, isOver: () => boolean) => {
    for (const id of ids.filter((one) => !taken.has(one))) {
      if (isOver()) return
      const answer = await handOver(port, mailOf({ messageId: id, subject: id, from: 'new@place.test' }))
      if (answer.startsWith('250')) taken.add(id)
    }
  }
  for (let round = 0; round < rounds; round += 1) {
    const { server, port } = await start()
    const killing = wait(100 + chance() * 700).then(() => server.child.kill('SIGKILL'))
    await deliver(port, () => server.child.killed)
    await killing
    await server.ended
  }
  const { server, port } = await start()
  await deliver(port, () => false)
  expect(taken.size).toBe(mails)
  const rowsOf = () => {
    const database = new Sqlite(join(folder, 'vorfreude.db'), { readonly: true })
    const found = database
      .prepare<[], { subject: string; isTakenUp: number }>(
        "SELECT incoming_json ->> '$.subject' AS subject, is_taken_up AS isTakenUp FROM incoming",
      )
      .all()
    database.close()
    return found
  }
  const deadline = Date.now() + 120_000
  while (Date.now() < deadline && rowsOf().some(({ isTakenUp }) => isTakenUp === 0)) await wait(50)
  server.child.kill('SIGTERM')
  await server.ended
  const rows = rowsOf()
  expect(rows.map(({ subject }) => subject).sort()).toEqual(ids.toSorted())
  expect(rows.every(({ isTakenUp }) => isTakenUp === 1)).toBe(true)
}, 2_400_000)
