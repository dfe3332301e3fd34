import { availableParallelism } from 'node:os'
import { parse } from 'csv-parse/sync'
import pino from 'pino'
import request from 'supertest'
import { createApp } from '#server/http/app.ts'
import { openExample } from '#server/testing/seed.ts'
import { addEda, signInEda } from '#server/testing/signIn.ts'
import { say, timed } from './measuring.ts'

/*
 * A table of clients through the whole way in, over HTTP: read, looked at, brought in, taken back; in seconds, and as a
 * ratio to parsing the same file bare. With the memory of the process, of which both ends of HTTP are a part.
 */

const count = Number(process.argv[2] ?? 20_000)
const running = await openExample()
addEda(running.application)
const app = createApp(running, pino({ level: 'silent' }))
const { cookie, csrf } = await signInEda(app)
const lines = Array.from(
  { length: count },
  (_, index) =>
    `First${index},Last${index},c${index}@bench.example,0170 ${String(1_000_000 + index)},${1 + (index % 28)}.${1 + (index % 12)}.1980,"one, two"`,
)
const text = ['Vorname,Nachname,E-Mail,Telefon,Geburtsdatum,Gruppen', ...lines].join('\r\n')

async function tell(path: string, body: object) {
  const asked = request(app)
    .post(path)
    .set('Host', '127.0.0.1')
    .set('Cookie', cookie)
    .set('X-CSRF-Token', csrf)
  const answer = await asked.send(body)
  if (answer.status !== 200) throw new Error(`${path}: ${answer.status} ${JSON.stringify(answer.body)}`)
  return answer.body as Record<string, string> & { columns: { field: string }[] }
}

async function measured<Value>(what: string, work: () => Promise<Value>): Promise<Value> {
  const from = performance.now()
  const value = await work()
  const seconds = (performance.now() - from) / 1000
  total += seconds
  say(`${what}: ${seconds.toFixed(2)} s`)
  return value
}

let total = 0
const bare = timed(() => parse(text))
const table = await measured('read', () =>
  tell('/api/tables', { fileName: 'bench.csv', base64: Buffer.from(text).toString('base64') }),
)
const matching = table.columns.map(({ field }) => field)
const look = await measured('looked at', () =>
  tell(`/api/tables/${table['id'] ?? ''}/look`, { matching, dateOrder: 'day first' }),
)
const brought = await measured('brought in', () =>
  tell(`/api/tables/${table['id'] ?? ''}/clients`, {
    commandId: 'bench-bring-in',
    lookId: look['id'],
    doubles: 'skip',
    others: [],
  }),
)
say(
  `all of it: ${total.toFixed(2)} s for ${count} clients, ${((total * 1000) / bare).toFixed(0)} × parsing the file bare`,
)
await measured('taken back', () =>
  tell(`/api/client-imports/${brought['importId'] ?? ''}/take-back`, { commandId: 'bench-take-back' }),
)
const { maxRSS } = process.resourceUsage()
say(`at most ${Math.round(maxRSS / 1024)} MB of memory`)
say(`${availableParallelism()} cores, Node ${process.version}, one round`)
await running.end()
