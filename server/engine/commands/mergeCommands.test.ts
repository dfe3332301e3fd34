import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import type { Signing } from '#core/model/document.ts'
import { stopRule } from '#core/model/sequence.ts'
import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { readClientMerge } from '../../db/clientMerges.ts'
import { factsOfClient, readBooking, readClient } from '../../db/clientStore.ts'
import { lastSigning, putSigning } from '../../db/documentStore.ts'
import { chanceFrom } from '../../testing/chance.ts'
import { addBookedClient, addLive, call, clientInput, openExample } from '../../testing/seed.ts'
import { Asked } from '../considering/considering.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* Two entries of one person: nothing of either is lost, and nothing is told twice. */

const optedOut = stopRule.parse({ on: 'opted out' })

let running: RunningApplication
beforeEach(async () => {
  running = await openExample()
  addBirthdays()
})
afterEach(() => running.end())

/** A sequence on everybody's birthday, which works for clients and for no booking. */
function addBirthdays() {
  const timing = { kind: 'yearly', label: 'birthday', daysBefore: 0, offset: null, atTime: '09:00' } as const
  const steps = [exampleStep({ id: 'st_birthday', purpose: 'occasion', timing })]
  addLive(running.application, 'sq_birthday', steps, { on: 'date known', name: 'birthday' })
}

const statements = () => running.application.store.statements
const book = (name: string, email: string | null, days = 5) =>
  addBookedClient(running.application, running.commands, name, email, days)
const ownerOf = (bookingId: string) => readBooking(statements(), bookingId)?.clientId ?? ''

function clientOf(id: string) {
  const found = readClient(statements(), id)
  if (!found) throw new Error(`No client ${id}`)
  return found
}

function factsOf(id: string) {
  const found = factsOfClient(statements(), id)
  if (!found) throw new Error(`No client ${id}`)
  return found
}

const seen = (id: string) => ({ id, revision: clientOf(id).revision })
const merge = (stays: string, other: string) =>
  running.commands.mergeClients(call('mergeClients'), seen(stays), seen(other))
const mergeIdOf = (keptId: string) =>
  String(
    running.application.store.statements
      .all('mergesOfClient', { keptId })
      .map(({ mergeJson }) => (JSON.parse(String(mergeJson)) as { id: string }).id)[0],
  )
const takeBack = (keptId: string) => running.commands.takeMergeBack(call('takeMergeBack'), mergeIdOf(keptId))

/** What has gone, as who was written to and of which step of which booking. */
const goneTo = (id: string) =>
  factsOf(id)
    .sends.filter(({ state }) => state === 'sent')
    .map(({ address, stepId, subject }) => `${address} ${stepId} ${subject.id}`)

/** Every place of the database that names somebody as its client. */
function placesNaming(id: string): string[] {
  const database = new Sqlite(running.application.store.file, { readonly: true })
  const columns = database
    .prepare<[], { table: string; column: string }>(
      `SELECT m.name AS "table", c.name AS "column" FROM sqlite_schema m, pragma_table_info(m.name) c
       WHERE m.type = 'table' AND c.name IN ('client_id', 'subject_id') AND m.name NOT IN ('events', 'imported_clients')`,
    )
    .all()
  const found = columns
    .filter(({ table, column }) => database.prepare(`SELECT 1 FROM "${table}" WHERE "${column}" = ?`).get(id))
    .map(({ table, column }) => `${table}.${column}`)
  const broken = database.pragma('foreign_key_check') as unknown[]
  database.close()
  return [...found, ...broken.map((one) => `broken: ${JSON.stringify(one)}`)]
}

function setBirthday(id: string, monthDay: string) {
  const { contacts, namedDates, id: own, addedAt, isHeldBack, revision, ...plain } = clientOf(id)
  const date = { label: 'birthday', monthDay, year: null }
  const input = { ...plain, contacts, namedDates: [...namedDates, date] }
  expect(running.commands.changeClient(call('changeClient'), own, revision, input).ok).toBe(true)
  return { addedAt, isHeldBack }
}

/** Something that was sent to be signed about something of a client. */
function toSign(id: string, clientId: string, subject: Signing['subject']) {
  const language = 'en' as const
  const document = { documentId: 'dc_1', name: 'Terms', language, paragraphs: [], consent: 'Yes.' }
  const signing = { id, clientId, subject, document, hash: '0'.repeat(64), fixedAt: 0, signed: null }
  putSigning(statements(), signing, null)
}
const signerOf = (subjectId: string) => lastSigning(statements(), subjectId, 'dc_1')?.clientId

describe('two clients who are one', () => {
  test('have what either was sent to sign, and each their own again when they are taken apart', () => {
    const [first, second] = [book('Oona', 'oona@mail.example'), book('Oona B.', 'oona@work.example', 6)]
    const [stays, other] = [ownerOf(first), ownerOf(second)]
    toSign('sg_1', stays, { kind: 'client', id: stays })
    toSign('sg_2', other, { kind: 'client', id: other })
    toSign('sg_3', other, { kind: 'booking', id: second })
    expect(merge(stays, other).ok).toBe(true)
    expect([stays, other, second].map(signerOf)).toEqual([stays, stays, stays])
    expect(takeBack(stays).ok).toBe(true)
    expect([stays, other, second].map(signerOf)).toEqual([stays, other, other])
  })

  test('have all their bookings; what went to either went once, and the rest goes to who stays', async () => {
    const first = book('Oona', 'oona@mail.example')
    const second = book('Oona B.', 'oona@work.example', 6)
    await running.pump.advance(running.application.clock.now() + hourMs)
    const [stays, other] = [ownerOf(first), ownerOf(second)]
    expect(goneTo(other)).toEqual([`oona@work.example st_confirm ${second}`])
    expect(merge(stays, other)).toMatchObject({ ok: true })
    expect(readClient(statements(), other)).toBeNull()
    expect(placesNaming(other)).toEqual([])
    expect(factsOf(stays).bookings.map(({ id }) => id)).toEqual([first, second])
    await running.pump.advance(running.application.clock.now() + 8 * dayMs)
    expect(goneTo(stays).toSorted()).toEqual(
      [
        `oona@mail.example st_confirm ${first}`,
        `oona@work.example st_confirm ${second}`,
        `oona@mail.example st_evening ${first}`,
        `oona@mail.example st_evening ${second}`,
      ].toSorted(),
    )
  })

  test('keep both addresses, all that is known, and the no of either', () => {
    const first = book('Oona', 'oona@mail.example')
    const added = running.commands.addClient(call('addClient'), {
      ...clientInput('Oona B.', 'oona@work.example'),
      tags: ['regular'],
      takesPromotional: false,
      zone: 'Europe/Lisbon',
      contacts: [
        {
          id: null,
          firstName: 'Oona',
          lastName: 'B.',
          email: 'oona@work.example',
          phone: '+49 000 5550111',
          isPrimary: true,
        },
        {
          id: null,
          firstName: 'Ed',
          lastName: 'B.',
          email: 'OONA@mail.example',
          phone: '',
          isPrimary: false,
        },
      ],
    })
    if (!added.ok) throw new Error(added.problem.sentence)
    const stays = ownerOf(first)
    expect(merge(stays, added.value.id).ok).toBe(true)
    const client = clientOf(stays)
    expect(client).toMatchObject({
      name: 'Oona',
      tags: ['regular'],
      takesPromotional: false,
      zone: 'Europe/Lisbon',
    })
    expect(client.contacts.map(({ email, phone, isPrimary }) => [email, phone, isPrimary])).toEqual([
      ['oona@mail.example', '+49 000 5550111', true],
      ['oona@work.example', '+49 000 5550111', false],
      ['OONA@mail.example', '', false],
    ])
  })

  test('have one birthday, and two again once they are taken apart', () => {
    const [stays, other] = [
      ownerOf(book('Oona', 'oona@mail.example')),
      ownerOf(book('Oona B.', 'oona@work.example')),
    ]
    for (const id of [stays, other]) setBirthday(id, '08-08')
    const greetings = (id: string) =>
      factsOf(id).sends.filter(({ stepId, state }) => stepId === 'st_birthday' && state !== 'cancelled')
        .length
    const each = greetings(other)
    expect(each).toBeGreaterThan(0)
    expect(merge(stays, other).ok).toBe(true)
    expect(greetings(stays)).toBe(each)
    expect(takeBack(stays)).toMatchObject({ ok: true, value: { id: other } })
    expect([greetings(stays), greetings(other)]).toEqual([each, each])
    expect(placesNaming('cl_nobody')).toEqual([])
  })

  test('tell one history, and a link that one of them has leads to who stays', () => {
    const [stays, other] = [
      ownerOf(book('Oona', 'oona@mail.example')),
      ownerOf(book('Oona B.', 'oona@work.example')),
    ]
    expect(merge(stays, other).ok).toBe(true)
    const lines = statements().all('eventsOfClient', { clientId: stays, afterId: null, limit: 60 })
    expect(lines.filter(({ kind }) => kind === 'client added')).toHaveLength(2)
    expect(lines.map(({ sentence }) => sentence)).toContain(
      'Oona B. is the same client: the two were merged.',
    )
    const [, second] = lines
    const rest = statements().all('eventsOfClient', {
      clientId: stays,
      afterId: String(second?.id),
      limit: 60,
    })
    expect([...lines.slice(0, 2), ...rest].map(({ id }) => id)).toEqual(lines.map(({ id }) => id))
    running.commands.optOut(other)
    expect(clientOf(stays).takesPromotional).toBe(false)
  })

  test('asked about, say what changes and nothing that only changes hands', () => {
    const [first, second] = [book('Oona', 'oona@mail.example'), book('Oona B.', 'oona@work.example', 6)]
    const [stays, other] = [ownerOf(first), ownerOf(second)]
    const asking = { announcementId: null, holdBack: [], onlyAsks: true }
    try {
      running.commands.mergeClients({ ...call('mergeClients'), considered: asking }, seen(stays), seen(other))
      throw new Error('It was carried out')
    } catch (fault) {
      if (!(fault instanceof Asked)) throw fault
      const { consequences } = fault.announcement
      expect(consequences.length).toBeGreaterThan(0)
      expect(new Set(consequences.map(({ kind }) => kind))).toEqual(new Set(['changed recipient']))
    }
    expect(clientOf(other).name).toBe('Oona B.')
  })
})

describe('taken apart', () => {
  test('each is as before, and what was made since stays with who stayed', async () => {
    const [first, second] = [book('Oona', 'oona@mail.example'), book('Oona B.', 'oona@work.example', 6)]
    const [stays, other] = [ownerOf(first), ownerOf(second)]
    const before = [clientOf(stays), clientOf(other)]
    expect(merge(stays, other).ok).toBe(true)
    const made = running.commands.makeBooking(call('makeBooking'), {
      clientId: stays,
      serviceId: 'sv_lesson',
      startLocal: '2026-06-01T10:00',
      endLocal: '2026-06-01T12:00',
      partySize: 1,
      status: 'confirmed',
      personInChargeId: null,
    })
    await running.pump.advance(running.application.clock.now() + hourMs)
    expect(takeBack(stays).ok).toBe(true)
    const bare = ({ revision, ...client }: ReturnType<typeof clientOf>) => ({ client, isLater: revision > 1 })
    expect([clientOf(stays), clientOf(other)].map(bare)).toEqual(
      before.map(({ revision, ...client }) => ({ client, isLater: revision > 0 })),
    )
    expect(factsOf(stays).bookings.map(({ id }) => id)).toEqual([first, made.ok && made.value.id])
    expect(factsOf(other).bookings.map(({ id }) => id)).toEqual([second])
    await running.pump.advance(running.application.clock.now() + 8 * dayMs)
    // The confirmation went while they were one; the reminder goes to the address it was made for.
    expect(goneTo(other)).toEqual([
      `oona@mail.example st_confirm ${second}`,
      `oona@work.example st_evening ${second}`,
    ])
    expect(takeBack(stays)).toMatchObject({ ok: false })
    expect(placesNaming('cl_nobody')).toEqual([])
  })

  test('changes made since stay, and a contact whom a new booking names does not go away', () => {
    const [stays, other] = [
      ownerOf(book('Oona', 'oona@mail.example')),
      ownerOf(book('Oona B.', 'oona@work.example')),
    ]
    expect(merge(stays, other).ok).toBe(true)
    const { contacts, id, revision, addedAt, isHeldBack, ...plain } = clientOf(stays)
    const input = {
      ...plain,
      contacts: contacts.map((one) => ({ ...one, isPrimary: !one.isPrimary })),
      tags: ['seen'],
    }
    expect(running.commands.changeClient(call('changeClient'), id, revision, input).ok).toBe(true)
    const refusedFirst = takeBack(stays)
    expect(refusedFirst.ok ? '' : refusedFirst.problem.sentence).toMatch('came from the other client')
    const back = { ...input, contacts }
    expect(running.commands.changeClient(call('changeClient'), id, revision + 1, back).ok).toBe(true)
    expect(takeBack(stays).ok).toBe(true)
    expect(clientOf(stays)).toMatchObject({ tags: ['seen'], addedAt, isHeldBack })
    expect(clientOf(stays).contacts).toHaveLength(1)
  })

  test('what the no of the other had stopped goes on for who had not said it', async () => {
    const step = exampleStep({ id: 'st_news', purpose: 'promotional', timing: { kind: 'at once' } })
    const start = { on: 'tag added', name: 'news' } as const
    addLive(running.application, 'sq_news', [{ ...step, needsApproval: true }], start, [optedOut])
    const tagged = (name: string, takesPromotional: boolean) => {
      const input = { ...clientInput(name, `${name.length}@mail.example`), tags: ['news'], takesPromotional }
      const added = running.commands.addClient(call('addClient'), input)
      if (!added.ok) throw new Error(added.problem.sentence)
      return added.value.id
    }
    const [stays, other] = [tagged('Oona', true), tagged('Oona B.', false)]
    await running.pump.advance(running.application.clock.now() + hourMs)
    const states = () =>
      factsOf(stays)
        .runs.filter(({ sequenceId }) => sequenceId === 'sq_news')
        .map(({ state }) => state)
    expect(states()).toEqual(['running'])
    expect(merge(stays, other).ok).toBe(true)
    expect(states()).not.toContain('running')
    expect(takeBack(stays).ok).toBe(true)
    expect([states(), clientOf(stays).takesPromotional]).toEqual([['running'], true])
  })

  test('after a merge with a third one only that is taken apart first', () => {
    const ids = ['Oona', 'Oona B.', 'O. Bay'].map((name, index) =>
      ownerOf(book(name, `o${index}@mail.example`)),
    )
    const [one = '', two = '', three = ''] = ids
    expect(merge(two, one).ok).toBe(true)
    const firstMerge = mergeIdOf(two)
    expect(merge(three, two).ok).toBe(true)
    expect(factsOf(three).bookings).toHaveLength(3)
    expect(statements().one('presentClient', { id: one })?.id).toBe(three)
    const refused = running.commands.takeMergeBack(call('takeMergeBack'), firstMerge)
    expect(refused.ok ? '' : refused.problem.sentence).toMatch('merged with a third one since')
    expect(takeBack(three).ok).toBe(true)
    expect(takeBack(two).ok).toBe(true)
    expect(ids.map((id) => factsOf(id).bookings.length)).toEqual([1, 1, 1])
    expect(readClientMerge(statements(), firstMerge)).toBeNull()
  })
})

test('is refused for one and the same, for one who has changed meanwhile, and with more contacts than a client can have', () => {
  const [stays, other] = [ownerOf(book('Oona', 'oona@mail.example')), ownerOf(book('Bo', 'bo@mail.example'))]
  const sentence = (result: ReturnType<typeof merge>) => (result.ok ? '' : result.problem.sentence)
  expect(sentence(merge(stays, stays))).toMatch('not two clients')
  const outdated = { id: other, revision: 7 }
  expect(sentence(running.commands.mergeClients(call('mergeClients'), seen(stays), outdated))).toMatch(
    'changed one of the two',
  )
  for (const id of [stays, other]) {
    const { contacts, revision, id: own, addedAt, isHeldBack, ...plain } = clientOf(id)
    const further = Array.from({ length: 11 }, (_, index) => ({
      id: null,
      firstName: '',
      lastName: '',
      email: `c${index}@${own === stays ? 'mail' : 'work'}.example`,
      phone: '',
      isPrimary: false,
    }))
    const input = { ...plain, contacts: [...contacts, ...further] }
    expect(running.commands.changeClient(call('changeClient'), own, revision, input).ok).toBe(true)
    expect([addedAt > 0, isHeldBack]).toEqual([true, false])
  }
  expect(sentence(merge(stays, other))).toMatch('24 contacts; a client has at most 20')
  expect(clientOf(other).contacts).toHaveLength(12)
})

test('at random moments of two lives no message goes twice, and after taking apart nobody lacks one', async () => {
  const chance = chanceFrom(26)
  for (let round = 0; round < 8; round++) {
    const days = () => 2 + Math.floor(chance() * 5)
    const bookings = [
      book(`A${round}`, `a${round}@mail.example`, days()),
      book(`B${round}`, `b${round}@mail.example`, days()),
    ]
    const [stays = '', other = ''] = bookings.map(ownerOf)
    const start = running.application.clock.now()
    await running.pump.advance(start + Math.floor(chance() * 6 * dayMs))
    expect(merge(stays, other).ok).toBe(true)
    await running.pump.advance(running.application.clock.now() + Math.floor(chance() * 3 * dayMs))
    const isApart = chance() < 0.5 && takeBack(stays).ok
    await running.pump.advance(start + 12 * dayMs)
    const gone = [stays, ...(isApart ? [other] : [])].flatMap((id) =>
      factsOf(id)
        .sends.filter(({ state }) => state === 'sent')
        .map(({ stepId, subject }) => `${stepId} ${subject.id}`),
    )
    const wanted = bookings.flatMap((id) => [`st_confirm ${id}`, `st_evening ${id}`])
    expect([round, ...gone.toSorted()]).toEqual([round, ...wanted.toSorted()])
  }
})
