import Sqlite from 'better-sqlite3'
import { checkAtSending } from '#core/engine/atSending/checkAtSending.ts'
import { readSend } from '#server/db/sendStore.ts'
import { focusOnSend } from '#server/db/livingStore.ts'
import { median, say, sayMachine, sideBySide, spread, timed } from './measuring.ts'
import { applicationWith } from './millionSends.ts'

/*
 * Claiming the next 100 due sends of many, as a ratio to a bare UPDATE … RETURNING through a partial index. Each claim
 * is rolled back, so that all rounds meet the same rows. The check of each claimed message is reported beside it.
 */

const clients = Math.max(100, Math.floor(Number(process.argv[2] ?? 1_000_000) / 10))
const limit = 100
const claims = 50
const { application, close } = applicationWith(clients)
const { store } = application
const { file } = store
const now = Date.UTC(2026, 11, 31)

class Undone extends Error {}

function rolledBack(work: () => void) {
  try {
    store.transaction(() => {
      work()
      throw new Undone()
    })
  } catch (fault) {
    if (!(fault instanceof Undone)) throw fault
  }
}

let claimed: string[] = []
const parameters = {
  token: 'x',
  leaseUntil: 0,
  now,
  until: now,
  withOther: 1,
  withMail: 1,
  through: null,
  limit,
}

function claiming(): number {
  let ms = 0
  for (let round = 0; round < claims; round += 1) {
    rolledBack(() => {
      ms += timed(() => {
        claimed = store.statements.all('claimDue', parameters).map(({ id }) => String(id))
      })
    })
  }
  return ms
}

const bare = new Sqlite(file)
const statement = bare.prepare(`UPDATE sends SET state = 'sending', claim_token = @token
  WHERE id IN (SELECT id FROM sends WHERE state IN ('ready', 'approved') AND due_at <= @now ORDER BY due_at LIMIT @limit)
  RETURNING id`)

function bareClaiming(): number {
  let ms = 0
  for (let round = 0; round < claims; round += 1) {
    bare.exec('BEGIN IMMEDIATE')
    ms += timed(() => statement.all({ token: 'x', now, limit }))
    bare.exec('ROLLBACK')
  }
  return ms
}

claiming()
bareClaiming()
const { measured, baseline } = await sideBySide(claiming, bareClaiming)
const checks = timed(() => {
  for (const id of claimed) {
    const send = readSend(store.statements, id)
    const slice = send && application.sliceOf(send.clientId, focusOnSend(send))
    if (slice) checkAtSending(send, slice, send.dueAt ?? now)
  }
})
sayMachine()
say(
  `${clients * 10} sends stored; ${limit} claimed at a time`,
  `the statement: ${(median(measured) / claims).toFixed(3)} ms (${spread(measured)} for ${claims})`,
  `a bare UPDATE … RETURNING: ${(median(baseline) / claims).toFixed(3)} ms (${spread(baseline)})`,
  `ratio: ${(median(measured) / median(baseline)).toFixed(2)} (at most 1.25 is wanted)`,
  `beside it, the check at sending of ${claimed.length}: ${(checks / claimed.length).toFixed(2)} ms each, its facts read`,
)
bare.close()
close()
