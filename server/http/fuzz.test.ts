import { afterEach, beforeEach, expect, test } from '@jest/globals'
import Sqlite from 'better-sqlite3'
import type { Express } from 'express'
import pino from 'pino'
import request from 'supertest'
import { openApplication, type RunningApplication } from '../engine/runningApplication.ts'
import { chanceFrom } from '../testing/chance.ts'
import { fromSchema, type FromSchema, type Schema } from '../testing/fromSchema.ts'
import { addBookedClient, openExample, testFolder } from '../testing/seed.ts'
import { addEda, signInEda } from '../testing/signIn.ts'
import { createApp } from './app.ts'
import { openApiDocument } from './openApi.ts'

/*
 * Requests made from the schemas of the OpenAPI document, some of them with values nobody thinks of: none may bring
 * forth a fault of the server, and afterwards it starts again and shows what it showed.
 */

const requests = Number(
  process.env['VORFREUDE_REQUESTS'] ?? (process.env['VORFREUDE_FULL'] === 'yes' ? 100_000 : 2_000),
)
/** In so many a house is begun anew: requests make clients, and lists of all of them take longer and longer. */
const mostInOne = 5_000
const rounds = Array.from({ length: Math.ceil(requests / mostInOne) }, (_, round) => round + 1)
const chance = chanceFrom(Number(process.env['VORFREUDE_SEED'] ?? 20260514))
let folder = ''
let running: RunningApplication
let app: Express
let cookie = ''
let csrf = ''

const faults: unknown[] = []

async function signIn() {
  app = createApp(running, pino({ level: process.env['VORFREUDE_LOG'] ?? 'silent' }, pino.destination(2)))
  ;({ cookie, csrf } = await signInEda(app))
}

beforeEach(async () => {
  folder = testFolder()
  running = await openExample({ folder })
  const { application, commands } = running
  addEda(application)
  for (const name of ['Oona', 'Inga', 'Runa']) {
    addBookedClient(application, commands, name, `${name.toLowerCase()}@mail.example`)
  }
  await running.pump.advance(application.clock.now() + 60_000)
  await signIn()
})
afterEach(() => running.end())

const tables: Readonly<Record<string, string>> = {
  bk: 'bookings',
  cl: 'clients',
  ct: 'contacts',
  lt: 'letters',
  pe: 'people',
  ps: 'passages',
  ru: 'runs',
  sd: 'sends',
  sq: 'sequences',
  sv: 'services',
  tk: 'tasks',
  va: 'variations',
}

/** The ids that are there by their prefix, read anew now and then: requests make new ones. */
function knownIds() {
  const database = new Sqlite(running.application.store.file, { readonly: true })
  const ids = new Map(
    Object.entries(tables).map(([prefix, table]) => [
      prefix,
      database
        .prepare(`SELECT id FROM ${table} LIMIT 30`)
        .all()
        .map((row) => String((row as { id: unknown }).id)),
    ]),
  )
  database.close()
  return (pattern: string) => ids.get(/^\^(\w\w)_/.exec(pattern)?.[1] ?? '') ?? []
}

interface Operation {
  readonly operationId: string
  readonly parameters: readonly { name: string; in: 'path' | 'query'; required: boolean; schema: Schema }[]
  readonly requestBody?: { readonly content: { readonly 'application/json': { readonly schema: Schema } } }
}

/** What ends the session that asks, stands outside all acts, or never ends. */
const leftOut = ['signOut', 'firstRun', 'signInDemo', 'signIn', 'changes']

const operations = Object.entries(openApiDocument()['paths'] as Record<string, Record<string, Operation>>)
  .flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ path, method, operation })),
  )
  .filter(({ operation }) => !leftOut.includes(operation.operationId))

function pick() {
  const picked = operations[Math.floor(chance() * operations.length)]
  if (!picked) throw new Error('The document describes nothing')
  return picked
}

/** As an address can carry it: half of a surrogate pair cannot be encoded. */
const wellFormed = (value: unknown) => String(value).replace(/\p{Cs}/gu, '')

async function ask(count: number, from: FromSchema) {
  const { path, method, operation } = pick()
  const parameters = operation.parameters.map((one) => ({ ...one, value: from.value(one.schema, one.name) }))
  const named = parameters.filter((one) => one.in === 'path')
  const filled = named.reduce(
    (address, { name, value }) => address.replace(`{${name}}`, encodeURIComponent(wellFormed(value) || '-')),
    path,
  )
  const query = parameters.filter((one) => one.in === 'query' && (one.required || chance() < 0.5))
  const schema = operation.requestBody?.content['application/json'].schema
  const body = schema ? from.value(schema) : {}
  const isObject = typeof body === 'object' && body !== null && !Array.isArray(body)
  const isIdKept = isObject && chance() < 0.95
  const sent = isIdKept ? { ...body, commandId: `fuzz-${String(count).padStart(8, '0')}` } : body
  const call = request(app)
    [method as 'get' | 'post' | 'put' | 'delete'](filled)
    .query(Object.fromEntries(query.map(({ name, value }) => [name, wellFormed(value)])))
    .set('Cookie', cookie)
    .set('X-CSRF-Token', csrf)
    .set('Content-Type', 'application/json')
  const answer = await (method === 'get' ? call : call.send(JSON.stringify(sent)))
  return { asked: [method, filled, JSON.stringify(sent).slice(0, 2000)], status: answer.status }
}

const shownPaths = [
  '/api/overview',
  '/api/desk',
  '/api/settings',
  '/api/clients',
  '/api/sequences',
  '/api/letters',
]
const shown = async () =>
  Promise.all(
    shownPaths.map(async (path) => {
      const answer = await request(app).get(path).set('Cookie', cookie)
      return [path, answer.status, answer.body as unknown]
    }),
  )

test.each(rounds)(
  'round %p: no request brings forth a fault, and the server starts again and shows what it showed',
  async () => {
    const asked = Math.min(requests, mostInOne)
    let known = knownIds()
    const done = new Map<number, number>()
    for (let count = 0; count < asked; count += 1) {
      if (count % 50 === 0) known = knownIds()
      const odd = chance() < 0.5 ? 0 : 0.05
      const answer = await ask(count, fromSchema(chance, known, odd))
      const { status } = answer
      done.set(status, (done.get(status) ?? 0) + 1)
      if (status >= 500)
        expect([...answer.asked, status]).toEqual([...answer.asked, 'no fault of the server'])
    }
    // Most were understood: a fuzz that is refused at the door tests the door alone.
    expect(done.get(200) ?? 0).toBeGreaterThan(asked / 5)
    await running.pump.settled()
    const before = await shown()
    await running.end()
    running = await openApplication({
      folder,
      isDemo: true,
      smtpUrl: null,
      onFault: (fault) => void faults.push(fault),
    })
    await running.begin()
    await signIn()
    expect(before.map(([, status]) => status)).toEqual(shownPaths.map(() => 200))
    expect(await shown()).toEqual(before)
    expect(faults).toEqual([])
  },
  3_000_000,
)
