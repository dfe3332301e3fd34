import { fork, type ChildProcess } from 'node:child_process'
import { ownProgram } from '../place.ts'

/** A stand-in that runs in a process of its own. */
export interface StandIn<Said> {
  /** Where it listens now; somewhere else after it was started again. */
  readonly said: () => Said
  readonly stop: () => Promise<void>
}

interface Program {
  /** What it is called in a fault. */
  readonly name: string
  readonly path: string
  readonly args?: readonly string[]
  readonly env?: Readonly<Record<string, string>>
}

interface Listening<Said> {
  readonly child: ChildProcess
  readonly said: Said
}

async function start<Said>({ name, path, args = [], env = {} }: Program): Promise<Listening<Said>> {
  const { file, execArgv } = ownProgram(path)
  const child = fork(file, [...args], { execArgv: [...execArgv], env: { ...process.env, ...env } })
  const said = await new Promise<Said>((resolve, reject) => {
    child.once('message', (message) => resolve(message as Said))
    child.once('exit', (code) => reject(new Error(`${name} stopped at once (exit code ${code ?? 'none'})`)))
  })
  return { child, said }
}

/** How long until one that could not be started is started again, in milliseconds of real time. */
const againMs = 5000

/** Starts a stand-in and waits until it says where it listens. Where it dies it is started again. */
export async function startStandIn<Said>(
  program: Program,
  onFault: (fault: unknown) => void,
): Promise<StandIn<Said>> {
  let isStopped = false
  let listening = await start<Said>(program)
  const watch = ({ child }: Listening<Said>) => {
    child.once('exit', (code, signal) => {
      if (isStopped) return
      const how = signal ?? `exit code ${code ?? 'none'}`
      onFault(new Error(`${program.name} ended (${how}) and is started again`))
      restart()
    })
  }
  const restart = () => {
    if (isStopped) return
    start<Said>(program).then(
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
    said: () => listening.said,
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
