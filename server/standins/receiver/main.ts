import { parseArgs } from 'node:util'
import { listenForCalls } from './listen.ts'

/* A receiver of web calls to try them against: `./run receiver`. It shows what came and whether it is signed. */

const { values } = parseArgs({ options: { port: { type: 'string', default: '4310' } } })
const secret = process.env['VORFREUDE_CALL_SECRET']
if (secret === undefined || secret === '') {
  process.stderr.write(
    'Set VORFREUDE_CALL_SECRET to what calls are signed with: Set-up, Other programs, shows it.\n',
  )
  process.exit(1)
}
const { port } = await listenForCalls(secret, Number(values.port), ({ path, isSigned, before, answered }) => {
  const verdict = isSigned ? 'signed' : 'NOT signed with this secret'
  process.stdout.write(`${path}: ${verdict}, ${before} before, answered ${answered}\n`)
})
process.stdout.write(`Calls are received at http://127.0.0.1:${port}/\n`)
