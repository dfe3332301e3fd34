import { spawn, type ChildProcess } from 'node:child_process'
import { cpSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export interface DemoServer {
  readonly url: string
  readonly folder: string
  /** The word that stands in the terminal, to set an empty one up; empty: it is set up. */
  readonly word: string
  /** Ends it and removes its data. */
  stop(): Promise<void>
  /** Ends it; its data stay. */
  end(): Promise<void>
  /** Ends it as a power cut would; its data stay. */
  kill(): Promise<void>
}

/** Waits until a started server prints its address. */
export function addressOf(child: ChildProcess): Promise<string> {
  return new Promise((resolve, reject) => {
    let output = ''
    child.stdout?.on('data', (part: Buffer) => {
      output += part.toString()
      const address = /http:\/\/127\.0\.0\.1:\d+\//.exec(output)
      if (address) resolve(address[0])
    })
    child.stderr?.on('data', (part: Buffer) => (output += part.toString()))
    child.once('exit', (code) =>
      reject(new Error(`The server stopped with exit code ${code ?? 'none'}: ${output}`)),
    )
  })
}

/** Where the demo lies that all tests take their copies of, as a variable of the environment. */
export const loadedDemo = 'VORFREUDE_LOADED_DEMO'

function newFolder(main: Main): string {
  const folder = mkdtempSync(join(tmpdir(), 'vorfreude-'))
  const loaded = process.env[loadedDemo]
  if (main === 'demo/main' && loaded !== undefined) cpSync(loaded, folder, { recursive: true })
  return folder
}

type Main = 'demo/main' | 'server/main'

/** A server of its own, with its own folder and port: the demo, or an empty real one. */
export async function startServer(
  main: Main,
  folder = newFolder(main),
  environment: Readonly<Record<string, string>> = {},
): Promise<DemoServer> {
  const child = spawn(process.execPath, [`built/${main}.js`, '--data', folder, '--port', '0'], {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...environment },
  })
  let output = ''
  child.stdout.on('data', (part: Buffer) => (output += part.toString()))
  const url = await addressOf(child)
  const ended = (signal: 'SIGTERM' | 'SIGKILL') =>
    new Promise<void>((resolve) => {
      child.once('exit', () => resolve())
      child.kill(signal)
    })
  return {
    url,
    folder,
    word: /you need this word: (\w+)/.exec(output)?.[1] ?? '',
    end: () => ended('SIGTERM'),
    kill: () => ended('SIGKILL'),
    async stop() {
      await ended('SIGTERM')
      rmSync(folder, { recursive: true, force: true })
    },
  }
}
