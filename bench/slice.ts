import { moveBooking } from '#core/engine/commands/bookingCommands.ts'
import type { Effect } from '#core/engine/effects.ts'
import { readBooking } from '#server/db/clientStore.ts'
import { applyEffects } from '#server/engine/applyEffects.ts'
import { onlyLiving } from '#server/db/livingStore.ts'
import { median, say, sayMachine, sideBySide, spread, timed } from './measuring.ts'
import { applicationWith } from './millionSends.ts'

/*
 * Planning one client's slice anew among many stored sends, read, decided and written to SQLite, as a ratio to the same
 * rows written bare. A booking is moved there and back; each round moves many, in one transaction each.
 */

const clients = Math.max(10, Math.floor(Number(process.argv[2] ?? 1_000_000) / 10))
const moves = 40

const { application, booking, close } = applicationWith(clients)
const { store } = application
const times = [
  { startLocal: '2026-07-08T10:00', endLocal: '2026-07-08T12:00' },
  { startLocal: '2026-07-01T10:00', endLocal: '2026-07-01T12:00' },
]

function decide(round: number): readonly Effect[] {
  const present = readBooking(store.statements, booking.id)
  const slice = present && application.sliceOf(present.clientId, onlyLiving)
  const to = times[round % times.length]
  if (!slice || !to) throw new Error('The pattern is gone')
  const decided = moveBooking(slice, booking.id, present.revision, to, () => 0, application.context(null))
  if (!decided.ok) throw new Error(decided.problem.sentence)
  return decided.value
}

/** The same effects but for the events, which can be written only once. */
let last: readonly Effect[] = []

function plannedAnew(): number {
  return timed(() => {
    for (let round = 0; round < moves; round += 1) {
      store.transaction(() => {
        last = decide(round)
        applyEffects(store.statements, last)
      })
    }
  })
}

function writtenBare(): number {
  const rows = last.filter(({ kind }) => kind !== 'append event')
  return timed(() => {
    for (let round = 0; round < moves; round += 1) {
      store.transaction(() => applyEffects(store.statements, rows))
    }
  })
}

plannedAnew()
const { measured, baseline } = await sideBySide(plannedAnew, writtenBare)
const rows = last.filter(({ kind }) => kind === 'put send').length
sayMachine()
say(
  `${clients * 10} sends stored; one move changes ${rows} of them`,
  `planned anew and written: ${(median(measured) / moves).toFixed(2)} ms a move (${spread(measured)} for ${moves})`,
  `the same rows written bare: ${(median(baseline) / moves).toFixed(2)} ms (${spread(baseline)})`,
  `ratio: ${(median(measured) / median(baseline)).toFixed(2)} (at most 3 is wanted)`,
)
close()
