import fs from 'node:fs'
import { syncBuiltinESMExports } from 'node:module'
import Sqlite from 'better-sqlite3'

/*
 * Loaded before a database is opened in a process of its own: kills it before or after one of the steps in which a backup
 * is taken and tables get another shape. VORFREUDE_KILL_AT says before which, counted from 0; the file named by
 * VORFREUDE_STEPS_FILE is told how many there were.
 */

const killAt = Number(process.env['VORFREUDE_KILL_AT'] ?? 'NaN')
const stepsFile = process.env['VORFREUDE_STEPS_FILE']
let steps = 0

function step() {
  if (steps === killAt) process.kill(process.pid, 'SIGKILL')
  steps += 1
}

type Act = (this: unknown, ...given: unknown[]) => unknown

/** Counts a step before and after each call. */
function counted(act: Act): Act {
  return function (...given) {
    step()
    const done = act.apply(this, given)
    step()
    return done
  }
}

const { prototype } = Sqlite as unknown as { prototype: Record<'exec' | 'pragma' | 'prepare', Act> }
prototype.exec = counted(prototype.exec)
prototype.pragma = counted(prototype.pragma)
const { prepare } = prototype
prototype.prepare = function (...given) {
  const statement = prepare.apply(this, given) as { run: Act }
  statement.run = counted(statement.run.bind(statement))
  return statement
}
for (const name of ['renameSync', 'fsyncSync'] as const) {
  Object.assign(fs, { [name]: counted(fs[name] as unknown as Act) })
}
syncBuiltinESMExports()
process.on('exit', () => {
  if (stepsFile !== undefined) fs.writeFileSync(stepsFile, String(steps))
})
