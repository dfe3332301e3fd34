import { fork, type ChildProcess } from 'node:child_process'
import { ownProgram } from '../../place.ts'
import { listenAsPostOffice } from './listen.ts'

export interface RunningPostOffice {
  /** Where it listens now; it is another place after it was started again. */
  url(): string
  stop(): Promise<void>
}

interface Listening {
  readonly child: ChildProcess
  readonly port: number
}

async function start(folder: string): Promise<Listening> {
  const { file, execArgv } = ownProgram('server/standins/postOffice/main')
  const child = fork(file, [folder], { execArgv: [...execArgv] })
  const port = await new Promise<number>((resolve, reject) => {
    child.once('message', (message: { port: number }) => resolve(message.port))
    child.once('exit', (code) =>
      reject(new Error(`The post office stopped at once (exit code ${code ?? 'none'})`)),
    )
  })
  return { child, port }
}

/** How long until a post office that could not be started is started again, in milliseconds of real time. */
const againMs = 5000

/** Starts the post office in a process of its own and waits until it listens. Where it dies it is started again. */
export async function startPostOffice(
  folder: string,
  onFault: (fault: unknown) => void,
): Promise<RunningPostOffice> {
  let isStopped = false
  let listening = await start(folder)
  const watch = ({ child }: Listening) => {
    child.once('exit', (code, signal) => {
      if (isStopped) return
      onFault(
        new Error(`The post office ended (${signal ?? `exit code ${code ?? 'none'}`}) and is started again`),
      )
      restart()
    })
  }
  const restart = () => {
    if (isStopped) return
    start(folder).then(
      (again) => {
        listening = again
        watch(again)
        if (isStopped) again.child.disconnect()
      },
      (fault: unknown) => {
        onFault(fault)
        setTimeout(restart, againMs).unref()
      },
    )
  }
  watch(listening)
  return {
    url: () => `smtp://127.0.0.1:${listening.port}`,
    stop: () =>
      new Promise((resolve) => {
        isStopped = true
        const { child } = listening
        child.once('exit', () => resolve())
        if (child.connected) child.disconnect()
        else resolve()
      }),
  }
}

/** The same within this process: less to start and to end where nothing of it is to be killed. */
export async function startPostOfficeHere(folder: string): Promise<RunningPostOffice> {
  const { port, close } = await listenAsPostOffice(folder)
  return { url: () => `smtp://127.0.0.1:${port}`, stop: close }
}
