import { fork } from 'node:child_process'
import { fileURLToPath } from 'node:url'

export interface RunningPostOffice {
  readonly url: string
  stop(): Promise<void>
}

/** Starts the post office in a process of its own and waits until it listens. */
export async function startPostOffice(folder: string): Promise<RunningPostOffice> {
  const main = fileURLToPath(new URL('./main.ts', import.meta.url))
  const child = fork(main, [folder], { execArgv: ['--import', 'tsx'] })
  const port = await new Promise<number>((resolve, reject) => {
    child.once('message', (message: { port: number }) => resolve(message.port))
    child.once('exit', (code) =>
      reject(new Error(`The post office stopped at once (exit code ${code ?? 'none'})`)),
    )
  })
  return {
    url: `smtp://127.0.0.1:${port}`,
    stop: () =>
      new Promise((resolve) => {
        child.once('exit', () => resolve())
        if (child.connected) child.disconnect()
        else resolve()
      }),
  }
}
