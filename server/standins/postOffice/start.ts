import { startStandIn } from '../ownProcess.ts'
import { listenAsPostOffice } from './listen.ts'

export interface RunningPostOffice {
  /** Where it listens now; it is another place after it was started again. */
  url(): string
  stop(): Promise<void>
}

const at = (port: number) => `smtp://127.0.0.1:${port}`

/** Starts the post office in a process of its own and waits until it listens. Where it dies it is started again. */
export async function startPostOffice(
  folder: string,
  onFault: (fault: unknown) => void,
): Promise<RunningPostOffice> {
  const program = { name: 'The post office', path: 'server/standins/postOffice/main', args: [folder] }
  const { port, stop } = await startStandIn(program, onFault)
  return { url: () => at(port()), stop }
}

/** The same within this process: less to start and to end where nothing of it is to be killed. */
export async function startPostOfficeHere(folder: string): Promise<RunningPostOffice> {
  const { port, close } = await listenAsPostOffice(folder)
  return { url: () => at(port), stop: close }
}
