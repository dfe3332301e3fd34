import { afterEach, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import pino from 'pino'
import request from 'supertest'
import type { HouseTrouble } from '#core/api/views.ts'
import { hourMs } from '#core/time/calendar.ts'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { addPerson } from '../db/settingsStore.ts'
import { addBookedClient, eda, openExample, testFolder } from '../testing/seed.ts'
import { addEda, signInEda } from '../testing/signIn.ts'
import { createApp } from './app.ts'

/*
 * One row of each kind is made unreadable behind the program's back: it starts, its pages answer, and Trouble names what
 * cannot be read.
 */

let running: RunningApplication | null = null
afterEach(async () => {
  await running?.end()
  running = null
})

const pages = [
  'overview',
  'desk',
  'settings',
  'clients',
  'sequences',
  'letters',
  'ribbon',
  'trust',
  'bookings?from=2026-05-01&to=2026-12-31',
]

async function brokenBy(sql: string): Promise<RunningApplication> {
  const folder = testFolder()
  const whole = await openExample({ folder })
  addEda(whole.application)
  const other = { ...eda, id: 'pe_other', email: 'other@kiteworks.example' }
  whole.application.store.transaction(() => addPerson(whole.application.store.statements, other, null))
  for (const name of ['Oona', 'Inga']) {
    addBookedClient(whole.application, whole.commands, name, `${name.toLowerCase()}@mail.example`)
  }
  const { file } = whole.application.store
  await whole.end()
  const database = new Sqlite(file)
  expect(database.prepare(sql).run().changes).toBeGreaterThan(0)
  database.close()
  running = await openApplication({ folder, isDemo: true, smtpUrl: null, onFault: () => undefined })
  await running.begin()
  await running.pump.advance(running.application.clock.now() + hourMs)
  return running
}

const cases: readonly (readonly [kind: string, sql: string])[] = [
  ['letter', "UPDATE letters SET content_json = '{}' WHERE id = 'lt_starter-reminder'"],
  [
    'version of the sequence',
    "UPDATE sequence_versions SET steps_json = '[1]' WHERE sequence_id = (SELECT min(id) FROM sequences)",
  ],
  ['service', 'UPDATE services SET name = char(10)'],
  ['person', "UPDATE people SET email = 'nowhere' WHERE id = 'pe_other'"],
  [
    'client',
    "UPDATE bookings SET history_json = '{}' WHERE client_id = (SELECT id FROM clients WHERE name = 'Inga')",
  ],
]

test.each(cases)(
  'a %s that cannot be read costs its own thing, and is named in Trouble',
  async (kind, sql) => {
    const application = await brokenBy(sql)
    const app = createApp(application, pino({ level: 'silent' }))
    const { cookie } = await signInEda(app)
    const get = (page: string) => request(app).get(`/api/${page}`).set('Cookie', cookie)
    const answers: [string, number][] = []
    for (const page of pages) answers.push([page, (await get(page)).status])
    expect(answers).toEqual(pages.map((page) => [page, 200]))
    const { house } = (await get('desk')).body as { house: HouseTrouble[] }
    expect(house.map(({ key }) => key.split('|')[0])).toContain(kind)
  },
)
