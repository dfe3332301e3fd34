import { spawn, type ChildProcess } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

export interface DemoServer {
  readonly url: string
  readonly folder: string
  /** Ends it and removes its data. */
  stop(): Promise<void>
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

/** A server of its own, with its own folder and port: the demo, or an empty real one. */
export async function startServer(
  main: 'demo/main.ts' | 'server/main.ts',
  folder = mkdtempSync(join(tmpdir(), 'vorfreude-')),
): Promise<DemoServer> {
  const child = spawn(process.execPath, ['--import', 'tsx', main, '--data', folder, '--port', '0'], {
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  const url = await addressOf(child)
  return {
    url,
    folder,
    stop: () =>
      new Promise((resolve) => {
        child.once('exit', () => {
          rmSync(folder, { recursive: true, force: true })
          resolve()
        })
        child.kill('SIGTERM')
      }),
    kill: () =>
      new Promise((resolve) => {
        child.once('exit', () => resolve())
        child.kill('SIGKILL')
      }),
  }
}
