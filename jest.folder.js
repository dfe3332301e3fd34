import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/* What tests write goes into one folder of the run, which goes with it. */

const mark = 'VORFREUDE_TEST_FOLDER'

/** Makes the folder before the processes that run the tests are started: they take it over. */
export function makeFolder() {
  if (process.env[mark] !== undefined) return
  const folder = mkdtempSync(join(tmpdir(), 'vorfreude-tests-'))
  process.env[mark] = folder
  process.env['TMPDIR'] = folder
}

export default function removeFolder() {
  const folder = process.env[mark]
  if (folder !== undefined) rmSync(folder, { recursive: true, force: true })
}
