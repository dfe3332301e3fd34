import { startRule } from '#core/model/sequence.ts'
import { calendarOffsets } from '#core/sequences/snapping.ts'
import { exampleSteps } from '#core/rehearsal/exampleBusiness.ts'
import { planClient } from '#core/planning/planClient.ts'
import { differencesOf } from '#server/sequences/differences.ts'
import { addBookedClient, openExample } from '#server/testing/seed.ts'
import { median, say, sayMachine, sideBySide, spread, timed } from './measuring.ts'

/*
 * What a changed sequence does to many running subjects, worked out in its thread, as a ratio to reading and planning
 * the same clients once in this one. Beside it: for how long this thread was ever kept from answering meanwhile.
 */

const subjects = Number(process.argv[2] ?? 2000)

const running = await openExample()
const { application, commands } = running
application.store.transaction(() => {
  for (let index = 0; index < subjects; index += 1) {
    addBookedClient(application, commands, `Client ${index}`, `c${index}@many.example`, 5 + (index % 20))
  }
})

const steps = exampleSteps.map((step) =>
  step.timing.kind === 'calendar'
    ? { ...step, timing: { ...step.timing, amount: calendarOffsets[1]?.amount ?? 2 } }
    : step,
)
const design = {
  name: 'Before a lesson',
  start: startRule.parse({ on: 'booking confirmed' }),
  steps,
  stops: [],
}
const ask = { sequenceId: 'sq_1', design, rollout: { movesRunning: true, includesExisting: false } }
const differences = differencesOf(application)
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))

let longestWait = 0
let changed = 0
let progressSeen = 0

async function workedOut(): Promise<number> {
  const from = performance.now()
  const id = differences.start(ask)
  for (;;) {
    const before = performance.now()
    await pause(5)
    longestWait = Math.max(longestWait, performance.now() - before - 5)
    const found = differences.read(id)
    if (found?.problem) throw new Error(found.problem)
    if (found && found.done > 0 && found.done < found.total) progressSeen += 1
    if (!found?.result) continue
    changed = found.result.clients
    differences.end(id)
    return performance.now() - from
  }
}

const plannedHere = () =>
  timed(() => {
    for (const { id } of application.store.statements.all('allClientIds')) {
      const slice = application.sliceOf(String(id), 'everything')
      if (slice) planClient(slice, application.clock.now())
    }
  })

const { measured, baseline } = await sideBySide(workedOut, plannedHere)
sayMachine()
say(
  `${subjects} running subjects, something changes for ${changed}; progress was told ${progressSeen} times`,
  `worked out in its thread: ${median(measured).toFixed(0)} ms (${spread(measured)})`,
  `read and planned once here: ${median(baseline).toFixed(0)} ms (${spread(baseline)})`,
  `ratio: ${(median(measured) / median(baseline)).toFixed(2)}`,
  `this thread was kept from answering for at most ${longestWait.toFixed(0)} ms`,
)
await differences.endAll()
await running.end()
