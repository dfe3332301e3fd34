import { rmSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { startRule } from '#core/model/sequence.ts'
import { aheadOf, rolloutUnderWay } from '#server/db/rolloutStore.ts'
import { openApplication } from '#server/engine/runningApplication.ts'
import { call } from '#server/testing/seed.ts'
import { median, say, sayMachine } from './measuring.ts'
import { folderWith, tenSteps } from './millionSends.ts'

/*
 * A changed sequence goes into effect for many clients while messages go out: the longest gap between two messages, and
 * that of as many messages with nothing else going on.
 */

const clients = Math.max(200, Number(process.argv[2] ?? 20_000))
const messages = Math.min(1000, Math.floor(clients / 4))

const { folder } = folderWith(clients, Date.now())
const file = join(folder, 'vorfreude.db')
const database = new Sqlite(file)
database.exec("UPDATE sends SET state = 'skipped' WHERE step_id = 'st_9'")

/** A person sends so many messages now: planning leaves those as they are. */
function fallDue(from: number) {
  database
    .prepare(
      `UPDATE sends SET due_at = @now, state = 'ready', decision_json = json_set(decision_json, '$.isSentNow', json('true')) WHERE rowid IN
        (SELECT rowid FROM sends WHERE step_id = 'st_9' AND sent_at IS NULL ORDER BY rowid LIMIT ${messages})`,
    )
    .run({ now: from })
}

const running = await openApplication({
  folder,
  isDemo: false,
  smtpUrl: null,
  onFault: (fault) => console.error(fault),
})
await running.begin()

/** The gaps between messages that go from now on, in milliseconds, once all have gone. */
async function gapsOf(): Promise<number[]> {
  const from = Date.now()
  fallDue(from)
  running.pump.soon()
  const sent = database.prepare('SELECT sent_at AS at FROM sends WHERE sent_at >= @from ORDER BY sent_at')
  for (;;) {
    await new Promise((done) => setTimeout(done, 100))
    const times = (sent.all({ from }) as { at: number }[]).map(({ at }) => at)
    if (times.length >= messages) return times.slice(1).map((at, index) => at - (times[index] ?? at))
  }
}

const alone = await gapsOf()
const design = { name: 'Ten steps', start: startRule.parse({ on: 'booking confirmed' }), stops: [] }
const steps = tenSteps.map((step) =>
  step.timing.kind === 'calendar' ? { ...step, timing: { ...step.timing, atTime: '17:00' } } : step,
)
const from = performance.now()
const put = running.commands.putIntoEffect(
  call('putIntoEffect'),
  {
    sequenceId: 'sq_1',
    design: { ...design, steps },
    rollout: { movesRunning: true, includesExisting: false },
  },
  null,
)
if (!put.ok) throw new Error(put.problem.sentence)
const begun = performance.now() - from
const beside = await gapsOf()
const ahead = () => {
  const { statements } = running.application.store
  const under = rolloutUnderWay(statements)
  return under ? aheadOf(statements, under.id) : 0
}
const left = ahead()
while (ahead() > 0) await new Promise((done) => setTimeout(done, 200))
const took = performance.now() - from
sayMachine()
const longest = (gaps: readonly number[]) => Math.max(...gaps)
say(
  `${clients} clients, ${messages} messages; the press itself took ${begun.toFixed(0)} ms, all of it ${(took / 1000).toFixed(1)} s`,
  `${clients - left} clients were done when the last message had gone`,
  `longest gap beside it: ${longest(beside)} ms (at most 250 is wanted), median ${median(beside)} ms`,
  `longest gap alone: ${longest(alone)} ms, median ${median(alone)} ms`,
)
database.close()
await running.end()
rmSync(folder, { recursive: true, force: true })
process.exit(0)
