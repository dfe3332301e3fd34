import { plainPerson } from '#core/model/business.ts'
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import type { Express } from 'express'
import ICAL from 'ical.js'
import { pino } from 'pino'
import request from 'supertest'
import { hourMs } from '#core/time/calendar.ts'
import { readBooking } from '../db/clientStore.ts'
import { addPerson } from '../db/settingsStore.ts'
import { feedsFor } from '../engine/calendarFeeds.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { addBookedClient, call, openExample } from '../testing/seed.ts'
import { createApp } from './app.ts'

/*
 * The calendars of the team, read back by a parser that is not the one that wrote them (ical.js against
 * ical-generator; RFC 5545).
 */

let running: RunningApplication
let app: Express
beforeEach(async () => {
  running = await openExample()
  app = createApp(running, pino({ level: 'silent' }))
  const { store, settings } = running.application
  addPerson(
    store.statements,
    {
      id: 'pe_uma',
      name: 'Uma',
      email: 'uma@kiteworks.example',
      role: 'helper',
      isActive: true,
      ...plainPerson,
      revision: 1,
    },
    null,
  )
  settings.forget()
})
afterEach(() => running.end())

function ofTeam(id: string) {
  const found = running.application.settings.required().people.find((one) => one.id === id)
  if (!found) throw new Error(`Nobody ${id}`)
  return found
}

const owner = { id: 'pe_1', role: 'owner' } as const
const uma = { id: 'pe_uma', role: 'helper' } as const
const pathOf = (id: string) => {
  const feed = feedsFor(running.application, owner, 'http://house.example').find((one) => one.id === id)
  return new URL(feed?.url ?? '').pathname
}
const eventsIn = (text: string) =>
  new ICAL.Component(ICAL.parse(text) as unknown[])
    .getAllSubcomponents('vevent')
    .map((one) => new ICAL.Event(one))

const book = (name: string, days: number) =>
  addBookedClient(running.application, running.commands, name, `${name.toLowerCase()}@mail.example`, days)

function inCharge(bookingId: string, personInChargeId: string) {
  const facts = {
    partySize: 1,
    personInChargeId,
    priceCents: null,
    people: { payerId: null, participantIds: [] },
    answers: [],
  }
  const done = running.commands.changeBooking(call('changeBooking'), bookingId, 1, facts)
  if (!done.ok) throw new Error(done.problem.sentence)
}

describe('a calendar of the team', () => {
  test('has the bookings that take room, each with who comes and when, and a person only their own', async () => {
    const ids = [book('Oona', 3), book('Bo', 5), book('Cy', 400)]
    inCharge(ids[1] ?? '', 'pe_uma')
    running.commands.cancelBooking(call('cancelBooking'), ids[2] ?? '', 1)
    const answer = await request(app).get(pathOf('all'))
    expect([answer.status, answer.headers['content-type']]).toEqual([200, 'text/calendar; charset=utf-8'])
    const events = eventsIn(answer.text)
    expect(events.map(({ uid, summary }) => [uid.split('@')[0], summary])).toEqual([
      [`team-${ids[0]}`, 'Oona · Kite lesson (1 person)'],
      [`team-${ids[1]}`, 'Bo · Kite lesson (1 person)'],
    ])
    const [first] = events
    const start = first?.startDate
    const stored = readBooking(running.application.store.statements, ids[0] ?? '')
    expect(start?.toJSDate().getTime()).toBe(stored?.startAt)
    expect(first?.description).toContain('oona@mail.example')
    const own = await request(app).get(pathOf('pe_uma'))
    expect(eventsIn(own.text).map(({ summary }) => summary)).toEqual(['Bo · Kite lesson (1 person)'])
  })

  test('is the same file as long as nothing changes, so that it is not sent twice', async () => {
    book('Oona', 3)
    const answer = await request(app).get(pathOf('all'))
    const tag = answer.headers['etag'] ?? ''
    await running.pump.advance(running.application.clock.now() + hourMs)
    expect((await request(app).get(pathOf('all')).set('If-None-Match', tag)).status).toBe(304)
    book('Bo', 5)
    expect((await request(app).get(pathOf('all')).set('If-None-Match', tag)).status).toBe(200)
  })

  test('with another address is not read by the one before, nor by one that somebody made up', async () => {
    const before = pathOf('all')
    const ofUma = pathOf('pe_uma')
    expect(running.commands.renewCalendarFeed(call('renewCalendarFeed'), 'all', 'Kiteworks').ok).toBe(true)
    expect((await request(app).get(before)).status).toBe(404)
    expect((await request(app).get(pathOf('all'))).status).toBe(200)
    expect((await request(app).get(ofUma)).status).toBe(200)
    const forged = ofUma.replace('pe_uma', 'all')
    const answer = await request(app).get(forged)
    expect([answer.status, answer.text]).toEqual([
      404,
      'There is no calendar at this address, or not any more.\n',
    ])
  })

  test('of somebody who has left leads nowhere; only the owner sees those of others', async () => {
    const path = pathOf('pe_uma')
    expect(feedsFor(running.application, uma, 'http://house.example').map(({ id }) => id)).toEqual(['pe_uma'])
    const { id, revision, ...person } = ofTeam('pe_uma')
    const left = { of: 'person', id, revision, person: { ...person, isActive: false } } as const
    expect(running.commands.changeSettings(call('changeSettings'), left, null).ok).toBe(true)
    expect((await request(app).get(path)).status).toBe(404)
  })
})
