import { readFileSync } from 'node:fs'
import { z } from 'zod'
import { bundle, rehearsalBundle, type Bundle, type RehearsalBundle } from '#core/rehearsal/bundle.ts'
import { BundleFault } from '#core/rehearsal/bundleSettings.ts'
import { businessFormat } from '#core/model/businessBundle.ts'
import { playBundle } from '#core/rehearsal/playBundle.ts'
import { report } from '#core/rehearsal/report.ts'
import { planOfBundle } from '../bundle/planOfBundle.ts'
import { asBusinessBundle, BusinessBundleFault } from '../bundle/readBundle.ts'
import { outside } from './outside.ts'

/*
 * Planning without server and database: `main.ts plan FILE.json` and `main.ts rehearse FILE.json` print a report as
 * JSON. A bundle at fault is answered with path and reason and exit code 2.
 */

function refuse(lines: readonly string[]): never {
  process.stderr.write(`${lines.join('\n')}\n`)
  process.exit(2)
}

function readJson(file: string): unknown {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch (fault) {
    refuse([`${file}: ${fault instanceof SyntaxError ? 'This is not JSON.' : 'This file cannot be read.'}`])
  }
}

function checked<Schema extends z.ZodType>(schema: Schema, value: unknown): z.output<Schema> {
  const parsed = schema.safeParse(value)
  if (parsed.success) return parsed.data
  refuse(parsed.error.issues.map(({ path, message }) => `${path.join('.') || '(the bundle)'}: ${message}`))
}

const planned = (read: Bundle) => playBundle(read, [], read.now, outside)
const rehearse = ({ script, until, ...read }: RehearsalBundle) => playBundle(read, script, until, outside)

const isWholeBusiness = (value: unknown) =>
  typeof value === 'object' && value !== null && Reflect.get(value, 'format') === businessFormat

async function run(mode: string | undefined, file: string | undefined) {
  if ((mode !== 'plan' && mode !== 'rehearse') || file === undefined)
    refuse(['Say plan FILE.json or rehearse FILE.json.'])
  const value = readJson(file)
  if (isWholeBusiness(value)) {
    if (mode === 'rehearse') refuse(['A whole business has no script to play: say plan FILE.json.'])
    const plan = await planOfBundle(asBusinessBundle(value))
    process.stdout.write(`${JSON.stringify({ toCome: plan }, null, 2)}\n`)
    return
  }
  const played = mode === 'plan' ? planned(checked(bundle, value)) : rehearse(checked(rehearsalBundle, value))
  process.stdout.write(`${JSON.stringify(report(played.settings, played.worlds, played.until), null, 2)}\n`)
}

try {
  await run(process.argv[2], process.argv[3])
} catch (fault) {
  if (fault instanceof BusinessBundleFault) refuse([fault.message])
  if (!(fault instanceof BundleFault)) throw fault
  refuse([`${fault.path}: ${fault.message}`])
}
