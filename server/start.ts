import { parseArgs } from 'node:util'
import type { Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { join, resolve } from 'node:path'
import pino from 'pino'
import type { Result } from '#core/model/problem.ts'
import { clearStore, DataFolderError } from './db/database.ts'
import { readBackupWords } from './db/sealedFile.ts'
import { isOfStore, storeSentence } from './db/storeFault.ts'
import { UnreadableBusiness } from './engine/settings.ts'
import { PortTaken } from './engine/incoming/openListener.ts'
import { KeyFileError } from './mail/keys.ts'
import { openApplication, OptionsError, type RunningApplication } from './engine/runningApplication.ts'
import type { Script } from './engine/loop/pump.ts'
import { createApp } from './http/app.ts'
import { readIncomingPort, readProxy, readPublicUrl, readSmtpUrl } from './mail/addresses.ts'

export type Say = (sentence: string) => void

/** What to start: the real thing, or the demo with its own clock and its data loaded first. */
export interface Start {
  readonly isDemo: boolean
  readonly defaultFolder: string
  readonly prepare: (folder: string, onFault: (fault: unknown) => void, say: Say) => Promise<void>
  /** What happens in the demo as its clock moves. */
  readonly script?: (running: RunningApplication) => Script
}

const log = pino({ level: process.env['VORFREUDE_LOG'] ?? 'warn' }, pino.destination(2))

function say(sentence: string) {
  process.stdout.write(`${sentence}\n`)
}

function stopWith(sentence: string): never {
  process.stderr.write(`${sentence}\n`)
  process.exit(1)
}

function readOptions({ isDemo, defaultFolder }: Start) {
  try {
    const { values } = parseArgs({
      options: {
        fresh: { type: 'boolean', default: false },
        port: { type: 'string', default: '4321' },
        data: { type: 'string' },
      },
    })
    const port = Number(values.port)
    if (!Number.isInteger(port) || port < 0 || port > 65_535) {
      stopWith(`--port needs a number from 0 to 65535, not ${values.port}.`)
    }
    if (values.fresh && !isDemo) stopWith('--fresh would erase a real business: it works with the demo only.')
    return { isFresh: values.fresh, port, folder: resolve(values.data ?? defaultFolder) }
  } catch (fault) {
    stopWith(
      `${fault instanceof Error ? fault.message : String(fault)}. Known are --port N, --data DIR and --fresh.`,
    )
  }
}

const otherKeys =
  'The key file keys.json is another one than before: the links of messages that went lead nowhere. Put the former one back if you have it.'

function listen(app: ReturnType<typeof createApp>, port: number): Promise<Server> {
  return new Promise((done, fail) => {
    const server = app.listen(port, '127.0.0.1', (fault?: Error) => (fault ? fail(fault) : done(server)))
  })
}

/** How long stopping may take altogether, in milliseconds. */
const stopMs = 10_000

function stopOnSignals(server: Server, running: RunningApplication) {
  let isStopping = false
  const stop = () => {
    if (isStopping) return
    isStopping = true
    server.close()
    server.closeAllConnections()
    // What does not end by then is taken up at the next start, as after a crash.
    setTimeout(() => process.exit(0), stopMs).unref()
    running.end().then(
      () => process.exit(0),
      (fault: unknown) => {
        log.error({ err: fault }, 'could not stop cleanly')
        process.exit(1)
      },
    )
  }
  process.on('SIGTERM', stop)
  process.on('SIGINT', stop)
}

function given<Value>(name: string, read: (text: string) => Result<Value>): Value | null {
  const text = process.env[name]
  if (text === undefined) return null
  const result = read(text)
  return result.ok ? result.value : stopWith(result.problem.sentence)
}

/** The addresses whoever starts it has given, each refused where it cannot be meant. */
function givenAddresses() {
  const allowsPlain = process.env['VORFREUDE_SMTP_PLAIN'] === 'yes'
  return {
    smtpUrl: given('VORFREUDE_SMTP_URL', (text) => readSmtpUrl(text, allowsPlain)),
    publicUrl: given('VORFREUDE_PUBLIC_URL', readPublicUrl),
    proxy: given('VORFREUDE_PROXY', readProxy),
    incomingPort: given('VORFREUDE_INCOMING_PORT', readIncomingPort),
  }
}

async function run(start: Start) {
  const { isDemo, prepare } = start
  const { isFresh, port, folder } = readOptions(start)
  // Clients' data are the business's alone, on a machine that others use too.
  process.umask(0o077)
  if (isFresh) clearStore(folder)
  const onFault = (fault: unknown) => log.error({ err: fault }, 'unexpected fault in the sending loop')
  const { smtpUrl, publicUrl: givenUrl, proxy, incomingPort } = givenAddresses()
  await prepare(folder, onFault, say)
  let address = `http://127.0.0.1:${port}`
  const running = await openApplication({
    folder,
    isDemo,
    smtpUrl,
    publicUrl: () => address,
    givenPublicUrl: givenUrl,
    needsPublicUrl: true,
    proxy,
    incomingPort,
    ...(isDemo ? {} : { backupFolder: resolve(process.env['VORFREUDE_BACKUPS'] ?? join(folder, 'backups')) }),
    backupWords: given('VORFREUDE_BACKUP_WORDS', readBackupWords),
    allowsOwnNetwork: process.env['VORFREUDE_CALLS_TO_OWN_NETWORK'] === 'yes',
    onFault,
  })
  if (start.script) running.pump.plays(start.script(running))
  const { obstacle } = running.ways()
  if (obstacle !== null) say(obstacle)
  if (running.application.store.keys.areOthers) say(otherKeys)
  if (!running.application.settings.current()) say(`To set it up you need this word: ${running.firstRunWord}`)
  const { listener } = running
  if (listener && !isDemo) say(`Mail that comes in is taken by SMTP at 127.0.0.1:${listener.port}`)
  const server = await listen(createApp(running, log), port)
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  stopOnSignals(server, running)
  await running.begin()
  say(`Vorfreude is at ${address}/`)
}

/** What can keep it from starting, each with a sentence for whoever starts it. */
const sayable = [DataFolderError, OptionsError, KeyFileError, UnreadableBusiness, PortTaken]

/**
 * Starts Vorfreude with the options of the command line: `[--fresh] [--port N] [--data DIR]`.
 * The mail account comes from VORFREUDE_SMTP_URL; without it the built-in post office takes the messages. Links in
 * messages begin with VORFREUDE_PUBLIC_URL.
 */
export function startVorfreude(start: Start) {
  run(start).catch((fault: unknown) => {
    if (isOfStore(fault)) stopWith(`The data folder cannot be used. ${storeSentence(fault)}`)
    if (sayable.some((kind) => fault instanceof kind)) stopWith((fault as Error).message)
    if (fault instanceof Error && 'code' in fault && fault.code === 'EADDRINUSE') {
      stopWith('This port is taken by another program. Choose another one with --port N.')
    }
    log.fatal({ err: fault }, 'could not start')
    process.exit(1)
  })
}
