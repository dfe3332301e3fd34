import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { say, sayMachine } from './measuring.ts'
import { folderWith } from './millionSends.ts'
import { askOver } from './overHttp.ts'

/*
 * What the first part of each list costs with many clients and messages, over HTTP: milliseconds and bytes, beside the
 * barest answer of the same server.
 */

const clients = Math.max(100, Number(process.argv[2] ?? 30_000))

const { folder } = folderWith(clients)
const database = new Sqlite(join(folder, 'vorfreude.db'))
database.pragma('synchronous = OFF')
// Every fourth message is in trouble, every tenth waits: the desk of somebody who was away for long.
database.exec(`UPDATE sends SET state = 'missed', state_since = due_at WHERE rowid % 4 = 0;
  UPDATE sends SET state = 'waiting', last_chance_at = due_at + 3600000 WHERE rowid % 10 = 1;
  UPDATE clients SET name = 'Client ' || rowid, found_by = 'client ' || rowid; ANALYZE`)
const open = database.prepare("SELECT count(*) AS count FROM sends WHERE state <> 'missed'").get() as {
  count: number
}
database.close()

const { running, asked, end } = await askOver(folder)

const client = String(running.application.store.statements.one('anyClient')?.['id'])
const span = 'from=2026-06-20&to=2026-07-01&states=ready,approved,waiting,expected'
sayMachine()
say(`${clients} clients, ${open.count} open messages; at most 100 ms and 100 kB are wanted for each`)
const baseline = await asked('/api/session')
for (const [what, path] of [
  ['Desk, counts', '/api/desk'],
  ['Desk, decide', '/api/desk/decide'],
  ['Desk, trouble', '/api/desk/messages/trouble'],
  ['Desk, still today', '/api/desk/messages/still-today'],
  ['Clients', '/api/clients'],
  ['Clients, found by words', '/api/clients?words=29999'],
  ['Clients, found by words that nobody has', '/api/clients?words=nobody'],
  ['Clients without address', '/api/clients?which=no-address'],
  ['A client', `/api/clients/${client}`],
  ['A client, messages', `/api/clients/${client}/sends`],
  ['Ahead, days', `/api/sends/days?${span}`],
  ['Ahead, lines', `/api/sends?${span}`],
  ['Ahead, load', '/api/load?from=2026-06-20&to=2026-07-01'],
  ['Ahead, forecast', '/api/forecast'],
  ['Overview', '/api/overview'],
  ['Ribbon', '/api/ribbon'],
  ['Find', '/api/find?text=29999'],
] as const) {
  const { ms, bytes } = await asked(path)
  say(
    `${what}: ${ms.toFixed(1)} ms (${(ms / baseline.ms).toFixed(1)} × the barest answer), ${Math.round(bytes / 1000)} kB`,
  )
}
await end()
