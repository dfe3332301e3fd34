import { afterEach, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { readBooking } from '../../db/clientStore.ts'
import { addBookedClient, call, openExample } from '../../testing/seed.ts'
import { watched } from '../../testing/watched.ts'
import type { RunningApplication } from '../runningApplication.ts'

/*
 * Something is thrown at every statement that sending uses, one after the other: what was accepted stays accepted,
 * nothing stays in hand, what it was thrown at ends somewhere, and everybody else gets theirs.
 */

let running: RunningApplication | null = null
const faults: unknown[] = []
afterEach(async () => {
  await running?.end()
  running = null
  faults.length = 0
})

const addressOf = (name: string) => `${name.toLowerCase()}@mail.example`

/** Three booked clients of their own for each round. */
function withThree(of: RunningApplication, round: string): readonly string[] {
  const names = ['Oona', 'Inga', 'Runa'].map((name) => `${name}${round}`)
  for (const name of names) addBookedClient(of.application, of.commands, name, addressOf(name))
  return names
}

async function open(): Promise<RunningApplication> {
  running = await openExample({ onFault: (fault) => void faults.push(fault) })
  return running
}

function bookingOf({ application }: RunningApplication, id: string) {
  const booking = readBooking(application.store.statements, id)
  if (!booking) throw new Error(`no booking ${id}`)
  return booking
}

interface Row {
  readonly state: string
  readonly email: string
  readonly purpose: string
  readonly reason: string | null
}

function rows({ application }: RunningApplication, names: readonly string[]): readonly Row[] {
  const database = new Sqlite(application.store.file, { readonly: true })
  const found = database
    .prepare(
      `SELECT state, address AS email, purpose, reason_json AS reason FROM sends
       WHERE purpose = 'confirmation' AND address IN (${names.map(() => '?').join(', ')}) ORDER BY id`,
    )
    .all(names.map(addressOf))
  database.close()
  return found as readonly Row[]
}

/** More than a day, so that the morning's note comes too. */
const until = (of: RunningApplication) => of.application.clock.now() + 26 * hourMs

/** The reading of the mailbox goes on beside; its own test lets its line break at every moment. */
const ofReading = ['mailboxPosition', 'putMailboxPosition']

async function statementsOfSending(of: RunningApplication): Promise<readonly string[]> {
  withThree(of, 'first')
  const used = new Set<string>()
  const end = watched(of.application, (name) => void used.add(name))
  await of.pump.advance(until(of))
  end()
  return [...used].filter((name) => !ofReading.includes(name))
}

describe('something is thrown', () => {
  test('at each statement of sending, once: nobody else waits, and nothing accepted is lost', async () => {
    const application = await open()
    const used = await statementsOfSending(application)
    expect(used).toEqual(expect.arrayContaining(['claimDue', 'settleClaim', 'beginClaim', 'storeMessage']))
    for (const name of used) {
      const names = withThree(application, `at${name.toLowerCase()}`)
      let thrown = 0
      const end = watched(application.application, (met) => {
        if (met !== name || thrown > 0) return
        thrown += 1
        throw new Error(`thrown at ${name}`)
      })
      await application.pump.advance(until(application))
      end()
      await application.pump.advance(application.application.clock.now() + 2 * hourMs)
      expect([name, thrown]).toEqual([name, 1])
      const boxOf = (email: string) => application.postOffice?.mailOf(email) ?? []
      // What the mail server took is sent, once; the rest is in Trouble with a reason.
      const ended = rows(application, names)
      expect([name, ended.length]).toEqual([name, 3])
      for (const { email, state, reason } of ended) {
        const taken = boxOf(email).length
        const expected = taken > 0 ? ['sent', 1, true] : ['failed', 0, false]
        expect([name, email, state, taken, reason === null]).toEqual([name, email, ...expected])
      }
      expect(ended.filter(({ state }) => state === 'sent').length).toBeGreaterThanOrEqual(2)
    }
  })

  /** What is called on the way of a message, beside the statements. */
  const callbacks = ['deliverWhile', 'room', 'reach', 'subscriber'] as const

  test.each(callbacks)('at %s, once: nobody else waits, and nothing goes twice', async (callback) => {
    const application = await open()
    const names = withThree(application, callback)
    let thrown = 0
    const throwing = () => {
      thrown += 1
      throw new Error(`thrown at ${callback}`)
    }
    const { main: account } = application.accounts
    const { clock, changes } = application.application
    if (callback === 'subscriber') changes.subscribe(throwing)
    else {
      const owner = (callback === 'reach' ? clock : account) as unknown as Record<string, unknown>
      const before = owner[callback] as (...given: unknown[]) => unknown
      owner[callback] = () => {
        owner[callback] = before
        if (callback !== 'deliverWhile') return throwing()
        thrown += 1
        return Promise.reject(new Error('thrown at deliver'))
      }
    }
    for (let tries = 0; tries < 3; tries += 1) await application.pump.advance(until(application))
    await new Promise((resolve) => setTimeout(resolve, 100))
    expect(thrown).toBe(1)
    const ended = rows(application, names)
    const boxOf = (email: string) => application.postOffice?.mailOf(email) ?? []
    // What was thrown at while it was handed over may have gone, for all that is known here.
    const doubted = callback === 'deliverWhile' ? 1 : 0
    expect(ended.filter(({ state }) => state === 'sent')).toHaveLength(3 - doubted)
    expect(ended.filter(({ state }) => state === 'in doubt')).toHaveLength(doubted)
    for (const { email, state } of ended) expect(boxOf(email)).toHaveLength(state === 'sent' ? 1 : 0)
  })

  test('at everything that writes down one outcome: it is in doubt and said, and all others go', async () => {
    const application = await open()
    const names = withThree(application, 'kept')
    let id = ''
    const end = watched(application.application, (name, parameters) => {
      const { sendId, subject } = (parameters ?? {}) as { sendId?: string; subject?: string }
      if (name !== 'storeMessage' || subject === undefined) return
      id ||= sendId ?? ''
      if (sendId === id) throw new Error('thrown for ever')
    })
    await application.pump.advance(until(application))
    end()
    const states = rows(application, names).map(({ state }) => state)
    expect(states.filter((state) => state === 'sent')).toHaveLength(2)
    expect(states.filter((state) => state === 'in doubt')).toHaveLength(1)
  })

  test('at each statement of due moments, once: each is handled in the end, and the others go on', async () => {
    const application = await open()
    // Settle time, the event, its completion.
    const play = async (round: string, meet: ((name: string) => void) | null) => {
      const names = ['Oona', 'Inga'].map((name) => `${name}${round}`)
      const ids = names.map((name) =>
        addBookedClient(application.application, application.commands, name, addressOf(name), 2),
      )
      await application.pump.advance(application.application.clock.now() + hourMs)
      const [moved = ''] = ids
      const { startAt, endAt } = bookingOf(application, moved)
      const day = new Date(startAt).toISOString().slice(0, 10)
      const times = { startLocal: `${day}T15:00`, endLocal: `${day}T17:00` }
      expect(endAt).toBeGreaterThan(startAt)
      const { revision } = bookingOf(application, moved)
      expect(application.commands.moveBooking(call('moveBooking'), moved, revision, times).ok).toBe(true)
      const end = watched(application.application, meet ?? (() => undefined))
      const until = application.application.clock.now() + 4 * dayMs
      await application.pump.advance(until)
      end()
      await application.pump.advance(until + 4 * hourMs)
      return ids.map((id) => bookingOf(application, id).status)
    }
    const used = new Set<string>()
    expect(await play('first', (name) => void used.add(name))).toEqual(['completed', 'completed'])
    expect([...used]).toEqual(expect.arrayContaining(['clearDueMoment', 'putBooking', 'appendEvent']))
    // Keeping what was sent goes on beside, once a day; its own test throws at it.
    const beside = ['readSourcesKept', 'unpackedMessages', 'sourcesBetween', 'readMeta', ...ofReading]
    for (const name of [...used].filter((one) => !beside.includes(one))) {
      let thrown = 0
      const statuses = await play(`at${name.toLowerCase()}`, (met) => {
        if (met !== name || thrown > 0) return
        thrown += 1
        throw new Error(`thrown at ${name}`)
      })
      expect([name, thrown, ...statuses]).toEqual([name, 1, 'completed', 'completed'])
    }
  })

  test('at everything about one client: only that one is in Trouble', async () => {
    const application = await open()
    const names = withThree(application, '')
    const database = new Sqlite(application.application.store.file)
    const broken = `UPDATE bookings SET history_json = '{}'
      WHERE client_id IN (SELECT id FROM clients WHERE name = 'Inga')`
    database.prepare(broken).run()
    database.close()
    await application.pump.advance(until(application))
    const state = Object.fromEntries(rows(application, names).map(({ email, state: one }) => [email, one]))
    expect(state).toEqual({
      [addressOf('Oona')]: 'sent',
      [addressOf('Inga')]: 'failed',
      [addressOf('Runa')]: 'sent',
    })
    expect([...application.application.store.statements.unreadable.values()].map(({ kind }) => kind)).toEqual(
      ['client'],
    )
  })

  test('at the database being locked: what was accepted is written once it is free again', async () => {
    const application = await open()
    const names = withThree(application, '')
    let isLocked = false
    let refusals = 0
    const end = watched(application.application, (name) => {
      if (name === 'storeMessage' && refusals < 3) isLocked = true
      if (!isLocked) return
      refusals += 1
      isLocked = refusals < 3
      throw new Sqlite.SqliteError('database is locked', 'SQLITE_BUSY')
    })
    await application.pump.advance(until(application))
    end()
    await application.pump.advance(application.application.clock.now() + 2 * hourMs)
    expect(rows(application, names).map(({ state }) => state)).toEqual(['sent', 'sent', 'sent'])
    for (const name of names) expect(application.postOffice?.mailOf(addressOf(name))).toHaveLength(1)
    expect(faults.length).toBeGreaterThan(0)
  })

  test('at the database being busy while a client is read: nobody is taken for unreadable', async () => {
    const application = await open()
    const names = withThree(application, '')
    const end = watched(application.application, (name) => {
      if (name === 'readClient') throw new Sqlite.SqliteError('database is locked', 'SQLITE_BUSY')
    })
    await application.pump.advance(until(application))
    end()
    expect(rows(application, names).map(({ state }) => state)).toEqual(['ready', 'ready', 'ready'])
    expect(application.application.store.statements.unreadable.size).toBe(0)
    expect(application.pump.stuckSince()).not.toBeNull()
    await application.pump.advance(until(application))
    expect(rows(application, names).map(({ state }) => state)).toEqual(['sent', 'sent', 'sent'])
    expect(application.pump.stuckSince()).toBeNull()
  })
})
