import { readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import type { Incoming } from '#core/model/incoming.ts'
import { incomingAtDesk, incomingOfClient } from '../../db/incomingStore.ts'
import { readSendsOfClient } from '../../db/sendStore.ts'
import {
  listenForReaders,
  mailboxPassword,
  type ListeningMailboxes,
} from '../../standins/postOffice/mailboxes.ts'
import { openPostOfficeFile, type PostOfficeFile } from '../../standins/postOffice/file.ts'
import { startCuttingProxy } from '../../testing/cuttingProxy.ts'
import { addAskedClient } from '../../testing/asked.ts'
import { mailOf } from '../../testing/mails.ts'
import { within } from '../../testing/ownProcess.ts'
import { call, openExample, testFolder } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* A mailbox read by IMAP (RFC 3501), from the line to what follows. */

const user = 'front-desk@kiteworks.example'
const soonMs = 20_000

let running: RunningApplication
let file: PostOfficeFile
let server: ListeningMailboxes
let clientId: string

const statements = () => running.application.store.statements

/** What stands in the database, whoever asks. */
function rows(sql: string): Record<string, unknown>[] {
  const database = new Sqlite(running.application.store.file, { readonly: true })
  const found = database.prepare<[], Record<string, unknown>>(sql).all()
  database.close()
  return found
}

function arrives(source: Buffer, messageId = '') {
  file.keep([user], Date.now(), messageId, source)
  server.note()
}

function keepReading(
  port: number,
  more: { password?: string; folder?: string } = {},
  id: string | null = null,
) {
  const { password = mailboxPassword, folder = 'INBOX' } = more
  const account = { host: '127.0.0.1', port, security: 'none', user } as const
  const present = running.application.settings.required().incomingMailboxes.find((one) => one.id === id)
  const made = running.commands.putIncomingMailbox(
    call('addIncomingMailbox'),
    present ? { id: present.id, revision: present.revision } : null,
    { wish: { name: 'Front desk', folder, account }, password },
  )
  if (!made.ok) throw new Error(made.problem.sentence)
  return made.value.id
}

const stateOf = (id: string) => running.mailboxes.stateOf(id)
const isListening = (id: string) => stateOf(id).kind === 'listening'

/** All that was taken in, the earliest first. */
function cameIn(): readonly { readonly subject: string; readonly isOld: boolean }[] {
  return rows('SELECT incoming_json AS json FROM incoming WHERE is_taken_up = 1 ORDER BY came_at, rowid').map(
    ({ json }) => JSON.parse(String(json)) as Incoming,
  )
}
const subjects = () => cameIn().map(({ subject }) => subject)

async function allTaken(count: number) {
  expect(await within(soonMs, () => cameIn().length >= count)).not.toBeNull()
  await running.incoming.settled()
}

beforeEach(async () => {
  file = openPostOfficeFile(join(testFolder(), 'mail.db'))
  server = await listenForReaders(file)
  running = await openExample()
  clientId = await addAskedClient(running)
})
afterEach(async () => {
  await running.end()
  await server.close()
  file.close()
})

const sends = () => readSendsOfClient(statements(), clientId)
const sendOf = (stepId: string) => sends().find((one) => one.stepId === stepId)

describe('a mailbox', () => {
  test('is read as its server says that something came, and only what came since', async () => {
    arrives(mailOf({ subject: 'Older than us' }))
    const id = keepReading(server.port)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    expect(stateOf(id)).toEqual({ kind: 'listening', isTold: true })
    expect(cameIn()).toEqual([])
    arrives(mailOf({ subject: 'Re: Your lesson', inReplyTo: sendOf('st_first')?.messageId ?? '' }))
    await allTaken(1)
    const [answer] = incomingOfClient(statements(), clientId, 5)
    expect(answer).toMatchObject({ what: { kind: 'answer' }, match: { by: 'reference' }, isOld: false })
    expect(sendOf('st_later')?.state).toBe('cancelled')
  })

  test('whose server says nothing by itself is read when one looks', async () => {
    await server.close()
    server = await listenForReaders(file, { offersIdle: false })
    const id = keepReading(server.port)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    expect(stateOf(id)).toEqual({ kind: 'listening', isTold: false })
    arrives(mailOf({ subject: 'Without a sign' }))
    await running.mailboxes.look()
    await running.incoming.settled()
    expect(subjects()).toEqual(['Without a sign'])
  })

  test('goes on where it was after the program was away', async () => {
    const folder = dirname(running.application.store.file)
    const id = keepReading(server.port)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    arrives(mailOf({ subject: 'One' }))
    await allTaken(1)
    await running.end()
    arrives(mailOf({ subject: 'Two' }))
    arrives(mailOf({ subject: 'Three' }))
    running = await openExample({ folder })
    await running.begin()
    await allTaken(3)
    expect(subjects()).toEqual(['One', 'Two', 'Three'])
  })

  test('is read on after the line was lost in the middle of a mail, each once', async () => {
    const proxy = await startCuttingProxy(server.port)
    const id = keepReading(proxy.port)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    const before = proxy.connections()
    proxy.cutAfter(30_000)
    const text = 'A long story. '.repeat(700)
    const wanted = Array.from({ length: 12 }, (_, index) => `Story ${index}`)
    for (const subject of wanted) arrives(mailOf({ subject, text }))
    expect(await within(4 * soonMs, () => proxy.connections() > before + 1)).not.toBeNull()
    proxy.cutAfter(null)
    await allTaken(wanted.length)
    expect(subjects()).toEqual(wanted)
    await proxy.close()
  })

  test('that is numbered anew is neither read twice nor left out', async () => {
    arrives(mailOf({ subject: 'Older than us' }))
    arrives(mailOf({ subject: 'Older, without an id', messageId: null }))
    const id = keepReading(server.port)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    arrives(mailOf({ subject: 'One' }))
    arrives(mailOf({ subject: 'Two, without an id', messageId: null }))
    await allTaken(2)
    await server.close()
    file.numberAnew(user)
    arrives(mailOf({ subject: 'Three' }))
    server = await listenForReaders(file)
    keepReading(server.port, {}, id)
    await allTaken(3)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    expect(subjects()).toEqual(['One', 'Two, without an id', 'Three'])
  })

  const many = process.env['VORFREUDE_FULL'] === 'yes' ? 50_000 : 10_000
  test(`with ${many} old mails starts nothing, says how far it is, and new ones do not wait for them`, async () => {
    for (let count = 0; count < many; count += 1) {
      file.keep([user], Date.now(), '', mailOf({ subject: `Old ${count}` }))
    }
    const id = keepReading(server.port)
    const seen = new Set<number>()
    const noting = () => {
      const state = stateOf(id)
      if (state.kind === 'noting what is old') seen.add(state.noted)
      return state.kind === 'noting what is old' && state.of === many && state.noted > 0
    }
    expect(await within(soonMs, noting)).not.toBeNull()
    arrives(mailOf({ subject: 'New' }))
    await allTaken(1)
    expect(stateOf(id).kind).not.toBe('listening')
    const isDone = () => {
      noting()
      return isListening(id)
    }
    expect(await within(12 * soonMs, isDone)).not.toBeNull()
    expect(seen.size).toBeGreaterThan(5)
    expect(subjects()).toEqual(['New'])
    expect(rows('SELECT count(*) AS count FROM mailbox_old')).toEqual([{ count: many }])
  }, 400_000)

  test('in which an answer lay before holds what that would stop, until a person has looked', async () => {
    arrives(mailOf({ subject: 'Re: Your lesson', inReplyTo: sendOf('st_first')?.messageId ?? '' }))
    const id = keepReading(server.port)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    await allTaken(1)
    const [asked] = incomingAtDesk(statements(), { place: 'decide', afterId: null, limit: 5 })
    expect(asked).toMatchObject({
      isOld: true,
      match: { by: 'from before, probably', candidateIds: [clientId] },
    })
    expect(sendOf('st_later')?.decision.isHeldBack).toBe(true)
    expect(sendOf('st_later')?.state).not.toBe('cancelled')
    const on = { id: asked?.id ?? '', revision: asked?.revision ?? 0 }
    expect(running.commands.chooseIncomingClient(call('chooseIncomingClient'), on, clientId).ok).toBe(true)
    expect(sendOf('st_later')?.state).toBe('cancelled')
  })

  test('whose password is wrong is told once, and not again each hour', async () => {
    const proxy = await startCuttingProxy(server.port)
    const id = keepReading(proxy.port, { password: 'not this one' })
    expect(await within(soonMs, () => running.mailboxes.troubles().length > 0)).not.toBeNull()
    const [first] = running.mailboxes.troubles()
    expect(first?.sentence).toContain(
      '“Front desk” is not read: the mailbox refuses the user or the password',
    )
    expect(first?.sentence).toContain('That is not the password')
    await running.mailboxes.look()
    expect(running.mailboxes.troubles()).toEqual([first])
    keepReading(proxy.port, {}, id)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    expect(running.mailboxes.troubles()).toEqual([])
    await proxy.close()
  })

  test('without such a folder says so', async () => {
    keepReading(server.port, { folder: 'Answers' })
    expect(await within(soonMs, () => running.mailboxes.troubles().length > 0)).not.toBeNull()
    expect(running.mailboxes.troubles()[0]?.sentence).toContain('it has no such folder')
  })

  test('with a mail of 30 MB in it keeps the beginning of that, and says so', async () => {
    const id = keepReading(server.port)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    arrives(mailOf({ subject: 'All our pictures', text: `${'x'.repeat(76)}\n`.repeat(400_000) }))
    await allTaken(1)
    const [long] = incomingOfClient(statements(), clientId, 5)
    expect(long).toMatchObject({ subject: 'All our pictures', what: { kind: 'unclear' } })
    expect(JSON.stringify(long?.what)).toContain('longer than 25 MB')
  })

  test('has its password sealed, and nowhere else', () => {
    keepReading(server.port, { password: 'a word nobody guesses' })
    const [kept] = rows('SELECT sealed_password AS password FROM incoming_mailboxes')
    expect(String(kept?.['password'])).toMatch(/^v1\./)
    const { file: database } = running.application.store
    for (const place of [database, `${database}-wal`]) {
      expect(readFileSync(place).includes('a word nobody guesses')).toBe(false)
    }
  })

  test('that is taken away is read no more', async () => {
    const id = keepReading(server.port)
    expect(await within(soonMs, () => isListening(id))).not.toBeNull()
    expect(running.commands.removeIncomingMailbox(call('removeIncomingMailbox'), id).ok).toBe(true)
    arrives(mailOf({ subject: 'Too late' }))
    await running.mailboxes.look()
    expect(cameIn()).toEqual([])
    expect(running.mailboxes.troubles()).toEqual([])
  })
})
