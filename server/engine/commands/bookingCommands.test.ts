import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import type { ManyBookingsAct } from '#core/engine/commands/manyBookings.ts'
import type { OwnStatusInput } from '#core/engine/commands/statusSettings.ts'
import { exampleService } from '#core/rehearsal/exampleBusiness.ts'
import { isoDateOf, hourMs } from '#core/time/calendar.ts'
import { readBooking } from '../../db/clientStore.ts'
import { putService } from '../../db/settingsStore.ts'
import { addBookedClient, call, openExample } from '../../testing/seed.ts'
import { callOf } from '../application.ts'
import { Asked } from '../considering/considering.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* One act on many bookings: a day with too much wind. */

let running: RunningApplication
beforeEach(async () => {
  running = await openExample()
})
afterEach(() => running.end())

const book = (name: string, days = 5) =>
  addBookedClient(
    running.application,
    running.commands,
    name,
    `${name.toLowerCase().replaceAll(/\W/g, '')}@mail.example`,
    days,
  )

function bookingOf(id: string) {
  const found = readBooking(running.application.store.statements, id)
  if (!found) throw new Error(`No booking ${id}`)
  return found
}

const seen = (...ids: string[]) => ids.map((id) => ({ id, revision: bookingOf(id).revision }))
const dayFrom = (days: number) => isoDateOf(Math.floor(running.application.clock.now() / 86_400_000) + days)

function act(asked: ManyBookingsAct, bookings: { id: string; revision: number }[]) {
  const result = running.commands.actOnBookings(call('actOnBookings'), bookings, asked)
  if (!result.ok) throw new Error(result.problem.sentence)
  return result.value
}

function seats(count: number) {
  const { store, settings } = running.application
  putService(store.statements, { ...exampleService, seats: count })
  settings.forget()
}

describe('many bookings', () => {
  test('are moved to another day, each at its own time and as long as before', () => {
    const ids = [book('Oona'), book('Bo', 6)]
    const before = ids.map(bookingOf)
    expect(act({ act: 'move', on: dayFrom(9), at: null }, seen(...ids))).toEqual({ done: 2, refused: [] })
    ids.map(bookingOf).forEach((after, index) => {
      const was = before[index]
      expect(isoDateOf(Math.floor(after.startAt / 86_400_000))).toBe(dayFrom(9))
      expect((after.startAt - (was?.startAt ?? 0)) % (24 * hourMs)).toBe(0)
      expect(after.endAt - after.startAt).toBe((was?.endAt ?? 0) - (was?.startAt ?? 0))
    })
  })

  test('that do not fit in together: as many as there are seats, the others stay and say why', () => {
    const ids = [book('Oona'), book('Bo'), book('Cy')]
    seats(2)
    const { done, refused } = act({ act: 'move', on: dayFrom(9), at: '08:00' }, seen(...ids))
    expect(done).toBe(2)
    expect(refused).toMatchObject([{ id: ids[2], clientName: 'Cy' }])
    expect(refused[0]?.sentence).toContain('no seats left')
    expect(bookingOf(ids[2] ?? '').startAt).not.toBe(bookingOf(ids[0] ?? '').startAt)
  })

  test('moved by an hour give each other the seats they leave', () => {
    const ids = [book('Oona'), book('Bo')]
    seats(2)
    expect(act({ act: 'move', on: dayFrom(5), at: '20:00' }, seen(...ids))).toEqual({ done: 2, refused: [] })
  })

  test('are cancelled; one that somebody has changed meanwhile, one that is and one that never was stay', () => {
    const ids = [book('Oona'), book('Bo'), book('Cy')]
    const asSeen = seen(...ids)
    running.commands.cancelBooking(call('cancelBooking'), ids[1] ?? '', 1)
    const { done, refused } = act({ act: 'cancel' }, [...asSeen, { id: 'bk_never', revision: 1 }])
    expect(done).toBe(2)
    expect(refused.map(({ clientName }) => clientName)).toEqual(['Bo', 'nobody'])
    expect(refused.map(({ sentence }) => sentence)).toEqual([
      expect.stringContaining('changed this booking meanwhile'),
      'There is no such booking.',
    ])
    expect(ids.map((id) => bookingOf(id).status)).toEqual(['cancelled', 'cancelled', 'cancelled'])
    expect(act({ act: 'cancel' }, seen(ids[0] ?? '')).refused[0]?.sentence).toContain('cannot be cancelled')
  })

  test('asked about say what would go to whom and what would be refused, and nothing is done', () => {
    const ids = [book('Oona'), book('Bo')]
    const asked = seen(...ids)
    const only = {
      ...callOf('actOnBookings', 'asks'),
      considered: { announcementId: null, holdBack: [], onlyAsks: true },
    }
    const [first] = asked
    try {
      running.commands.actOnBookings(only, [...asked, { id: 'bk_never', revision: 1 }], { act: 'cancel' })
      throw new Error('It was carried out')
    } catch (fault) {
      if (!(fault instanceof Asked)) throw fault
      const { consequences, refused } = fault.announcement
      expect(new Set(consequences.map(({ clientName }) => clientName))).toEqual(new Set(['Oona', 'Bo']))
      expect(refused).toMatchObject([{ id: 'bk_never' }])
    }
    expect(bookingOf(first?.id ?? '').status).toBe('confirmed')
  })
})

describe('a status of the business’s own', () => {
  const input: OwnStatusInput = {
    name: 'weather watch',
    meaning: 'confirmed',
    after: [],
    serviceIds: [],
    comes: { hours: 48, side: 'before', of: 'start' },
    isActive: true,
  }

  function addStatus(ownStatus: OwnStatusInput) {
    const change = { of: 'own status', id: null, revision: 0, ownStatus } as const
    const result = running.commands.changeSettings(call('changeSettings'), change, null)
    if (!result.ok) throw new Error(result.problem.sentence)
  }

  test('is given to many at once, and those it cannot be given to say why', () => {
    const ids = [book('Oona'), book('Bo'), book('Cy')]
    addStatus({ ...input, name: 'papers in', comes: null })
    running.commands.cancelBooking(call('cancelBooking'), ids[2] ?? '', 1)
    running.commands.giveOwnStatus(call('giveOwnStatus'), ids[1] ?? '', 1, 'papers in')
    const { done, refused } = act({ act: 'status', status: 'papers in' }, seen(...ids.slice(0, 2)))
    expect(done).toBe(1)
    expect(refused).toMatchObject([{ id: ids[1], sentence: 'This booking is “papers in” already.' }])
    expect(ids.map((id) => bookingOf(id).own.status)).toEqual(['papers in', 'papers in', null])
  })

  test('set up with a date comes to the bookings that are there already when that passes', async () => {
    const id = book('Oona')
    addStatus(input)
    await running.pump.advance(bookingOf(id).startAt - 47 * hourMs)
    expect(bookingOf(id)).toMatchObject({ status: 'confirmed', own: { status: 'weather watch' } })
  })

  test('that bookings have, that follows or that a sequence names is archived, not deleted', () => {
    const id = book('Oona')
    addStatus({ ...input, comes: null })
    addStatus({ ...input, name: 'dry at last', after: ['weather watch'], comes: null })
    running.commands.giveOwnStatus(call('giveOwnStatus'), id, 1, 'weather watch')
    const statuses = running.application.settings.required().ownStatuses
    const idOf = (name: string) => statuses.find((one) => one.name === name)?.id ?? ''
    const refused = running.commands.removeOwnStatus(call('removeOwnStatus'), idOf('weather watch'))
    expect(refused.ok ? '' : refused.problem.sentence).toBe(
      'It is still used: 1 booking, status “dry at last”. Archive it instead.',
    )
    expect(running.commands.removeOwnStatus(call('removeOwnStatus'), idOf('dry at last')).ok).toBe(true)
    expect(running.application.settings.required().ownStatuses).toHaveLength(1)
  })
})
