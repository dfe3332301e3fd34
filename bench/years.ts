import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { dayMs } from '#core/time/calendar.ts'
import { call } from '#server/testing/seed.ts'
import { median, say, sayMachine, timed } from './measuring.ts'
import { folderWith, origin } from './millionSends.ts'
import { askOver, type Asking } from './overHttp.ts'

/*
 * Years of it: the same clients with the same bookings ahead and as much to do a day, for some weeks and for ten years.
 * What is asked for every day is to take at most twice as long. The sources of the past messages are left out.
 */

const clients = 3000
const few = 100_000
const many = Math.max(few, Number(process.argv[2] ?? 10_000_000))
const steps = 10

/** Columns of a copy that differ from what it is a copy of; `n` counts the copies. */
const pastOf: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  bookings: {
    id: "id || '-p' || n",
    start_at: 'start_at - @back - n * @apart',
    end_at: 'end_at - @back - n * @apart',
    made_at: 'made_at - @back - n * @apart',
    status: "'completed'",
  },
  runs: {
    id: "id || '-p' || n",
    subject_id: "subject_id || '-p' || n",
    started_at: 'started_at - @back - n * @apart',
    state: "'stopped'",
    stopped_at: 'started_at + 50 * 86400000 - @back - n * @apart',
    stopped_reason: "'It is over.'",
    is_at_rest: '1',
  },
  sends: {
    id: "id || '-p' || n",
    run_id: "run_id || '-p' || n",
    subject_id: "subject_id || '-p' || n",
    message_id: "'<' || id || '-p' || n || '@past.example>'",
    state: "'sent'",
    due_at: 'due_at - @back - n * @apart',
    wanted_at: 'wanted_at - @back - n * @apart',
    sent_at: 'due_at - @back - n * @apart',
    state_since: 'due_at - @back - n * @apart',
  },
}

const bookingsFor = (messages: number) =>
  Math.max(1, Math.round((messages - clients * steps) / (clients * steps)))

/** How far apart the bookings of a client lie: very many are those of ten years, few those of the last weeks. */
const apart = Math.floor((3650 * dayMs) / bookingsFor(many))

/** Writes a past for every client: so many bookings, each with all its messages gone. */
function live(database: Sqlite.Database, bookings: number) {
  // Nothing of it is to outlive the bench.
  database.pragma('journal_mode = OFF')
  database.pragma('synchronous = OFF')
  database.pragma('cache_size = -2000000')
  database.pragma('foreign_keys = OFF')
  const indexes = database
    .prepare<[], { name: string; sql: string }>(
      "SELECT name, sql FROM sqlite_schema WHERE type = 'index' AND sql IS NOT NULL AND tbl_name IN ('bookings', 'runs', 'sends')",
    )
    .all()
  indexes.forEach(({ name }) => database.exec(`DROP INDEX ${name}`))
  // With a limit the pattern is read to its end before anything is written behind it.
  for (const [table, differing] of Object.entries(pastOf)) {
    const columns = (database.pragma(`table_info(${table})`) as { name: string }[]).map(({ name }) => name)
    const values = columns.map((name) => differing[name] ?? name)
    database
      .prepare(
        `WITH RECURSIVE n (n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM n WHERE n < CAST(@bookings AS INTEGER))
        INSERT INTO ${table} (${columns.join(', ')})
        SELECT ${values.join(', ')} FROM (SELECT * FROM ${table} ORDER BY id LIMIT 1000000000) one CROSS JOIN n`,
      )
      .run({ bookings, back: 60 * dayMs, apart })
  }
  indexes.forEach(({ sql }) => database.exec(sql))
  database.exec('ANALYZE')
  database.pragma('journal_mode = WAL')
}

function folderAfter(messages: number): string {
  const { folder } = folderWith(clients)
  const database = new Sqlite(join(folder, 'vorfreude.db'))
  live(database, bookingsFor(messages))
  database.close()
  return folder
}

/** Milliseconds to plan one more booking of a client, and to claim a hundred messages. */
function within({ running: { application, commands } }: Asking, client: string) {
  const booking = [1, 2, 3, 4, 5].map((days) => {
    const date = new Date(origin + (60 + days) * dayMs).toISOString().slice(0, 10)
    return timed(() => {
      const made = commands.makeBooking(call('makeBooking'), {
        clientId: client,
        serviceId: 'sv_lesson',
        startLocal: `${date}T14:00`,
        endLocal: `${date}T16:00`,
        partySize: 1,
        status: 'confirmed',
        personInChargeId: null,
      })
      if (!made.ok) throw new Error(made.problem.sentence)
    })
  })
  const asked = {
    token: 'bench',
    leaseUntil: 0,
    now: origin,
    until: origin + 400 * dayMs,
    withOther: 1,
    withMail: 1,
    through: null,
    limit: 100,
  }
  const claiming = [1, 2, 3, 4, 5].map(() => timed(() => application.store.statements.all('claimDue', asked)))
  return { booking: median(booking), claiming: median(claiming) }
}

async function measured(messages: number): Promise<ReadonlyMap<string, number>> {
  const asking = await askOver(folderAfter(messages))
  const { statements } = asking.running.application.store
  const client = String(statements.all('allClientIds')[clients / 2]?.['id'])
  const found = new Map<string, number>()
  for (const [what, path] of [
    ['overview', '/api/overview'],
    ['ribbon', '/api/ribbon'],
    ['Desk, counts', '/api/desk'],
    ['Desk, still today', '/api/desk/messages/still-today'],
    ['a client', `/api/clients/${client}`],
    ['a client, messages', `/api/clients/${client}/sends`],
    ['a client, bookings', `/api/clients/${client}/bookings`],
    ['Ahead, days', '/api/sends/days?from=2026-05-14&to=2026-07-14&states=ready,approved,waiting,expected'],
    ['sequences', '/api/sequences'],
  ] as const) {
    found.set(what, (await asking.asked(path)).ms)
  }
  const { booking, claiming } = within(asking, client)
  found.set('a booking, planned', booking)
  found.set('100 claimed', claiming)
  await asking.end()
  return found
}

const before = await measured(few)
const after = await measured(many)
sayMachine()
say(
  `${few.toLocaleString('en')} messages stored, and ${many.toLocaleString('en')}; at most 2 times is wanted for each`,
)
for (const [what, ms] of after) {
  const base = before.get(what) ?? 0
  say(`${what}: ${base.toFixed(1)} ms, ${ms.toFixed(1)} ms: ${(ms / base).toFixed(2)} times`)
}
