import { spawn, type ChildProcess } from 'node:child_process'
import { addPerson } from '../db/settingsStore.ts'
import { openStore } from '../db/database.ts'
import { createChanges } from '../engine/changes.ts'
import { createRealClock } from '../engine/loop/clock.ts'
import { createCommands } from '../engine/commands/commands.ts'
import { createApplication, type Application } from '../engine/application.ts'
import { createSettingsSource } from '../engine/settings.ts'
import { hashPassword } from '../session/password.ts'
import { addBookedClient, eda, writeExampleBusiness } from './seed.ts'

/** A server in a process of its own, as it is started from a terminal. */
export interface OwnProcess {
  readonly address: string
  readonly child: ChildProcess
  /** What it wrote to the terminal so far. */
  output(): string
  /** Ends when the process has; its exit code, or the signal it was ended by. */
  readonly ended: Promise<number | string>
}

export const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** Waits until something holds; how long that took in milliseconds, or null: it did not. */
export async function within(ms: number, holds: () => boolean | Promise<boolean>): Promise<number | null> {
  const from = Date.now()
  while (!(await holds())) {
    if (Date.now() - from > ms) return null
    await wait(10)
  }
  return Date.now() - from
}

export function startProcess(
  folder: string,
  env: Readonly<Record<string, string>> = {},
  preload: readonly string[] = [],
) {
  const loading = ['tsx', ...preload].flatMap((one) => ['--import', one])
  const child = spawn(process.execPath, [...loading, 'server/main.ts', '--data', folder, '--port', '0'], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...env },
  })
  let output = ''
  for (const stream of [child.stdout, child.stderr]) {
    stream.on('data', (part: Buffer) => (output += part.toString()))
  }
  const ended = new Promise<number | string>((resolve) =>
    child.once('exit', (code, signal) => resolve(code ?? signal ?? '')),
  )
  return { child, ended, output: () => output }
}

/** Starts one and waits until it says where it is. */
export async function startServer(
  folder: string,
  env: Readonly<Record<string, string>> = {},
  preload: readonly string[] = [],
): Promise<OwnProcess> {
  const started = startProcess(folder, env, preload)
  const address = () => /Vorfreude is at (\S+)\//.exec(started.output())?.[1]
  await within(60_000, () => address() !== undefined || started.child.exitCode !== null)
  const at = address()
  if (at === undefined) throw new Error(`It did not start: ${started.output()}`)
  return { ...started, address: at }
}

/** The example business, live, with its owner's password and some clients whose confirmations are due; nothing sent. */
export async function seedFolder(
  folder: string,
  clients: readonly string[],
  more: (application: Application) => void = () => undefined,
) {
  const store = openStore(folder)
  const hash = await hashPassword(password)
  store.transaction(() => {
    writeExampleBusiness(store.statements)
    addPerson(store.statements, eda, hash)
  })
  const application = createApplication({
    store,
    clock: createRealClock(),
    settings: createSettingsSource(store.statements),
    changes: createChanges(),
  })
  more(application)
  const commands = createCommands(application)
  for (const name of clients)
    addBookedClient(application, commands, name, `${name.toLowerCase()}@mail.nowhere`)
  store.close()
}

/** The owner's. */
export const password = 'Blåbær på tur 7'

/** Somebody signed in at a server in a process of its own. */
export async function signInAt(address: string) {
  const answer = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ email: eda.email, password }),
  })
  if (!answer.ok) throw new Error(await answer.text())
  const cookie = answer.headers.get('set-cookie')?.split(';')[0] ?? ''
  const { csrfToken } = (await answer.json()) as { csrfToken: string }
  return async (method: 'GET' | 'POST' | 'PUT', path: string, body?: object) => {
    const from = Date.now()
    const reply = await fetch(`${address}/api/${path}`, {
      method,
      // A connection that is kept may be closed from the other side just as it is used again.
      headers: {
        Cookie: cookie,
        'X-CSRF-Token': csrfToken,
        'Content-Type': 'application/json',
        Connection: 'close',
      },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
    const json = (await reply.json()) as unknown
    return { status: reply.status, body: json, ms: Date.now() - from }
  }
}
