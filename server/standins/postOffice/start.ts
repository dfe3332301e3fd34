import { startStandIn } from '../ownProcess.ts'
import { listenAsPostOffice, type ListeningPostOffice } from './listen.ts'

export interface RunningPostOffice {
  /** Where it listens now; it is another place after it was started again. */
  url(): string
  port(): number
  /** Where its mailboxes are read now. */
  mailboxPort(): number
  stop(): Promise<void>
}

type Listening = Pick<ListeningPostOffice, 'port' | 'mailboxPort'>

const at = (port: number) => `smtp://127.0.0.1:${port}`

/** Starts the post office in a process of its own and waits until it listens. Where it dies it is started again. */
export async function startPostOffice(
  folder: string,
  onFault: (fault: unknown) => void,
): Promise<RunningPostOffice> {
  const program = { name: 'The post office', path: 'server/standins/postOffice/main', args: [folder] }
  const { said, stop } = await startStandIn<Listening>(program, onFault)
  return { url: () => at(said().port), port: () => said().port, mailboxPort: () => said().mailboxPort, stop }
}

/** The same within this process: less to start and to end where nothing of it is to be killed. */
export async function startPostOfficeHere(folder: string): Promise<RunningPostOffice> {
  const { port, mailboxPort, close } = await listenAsPostOffice(folder)
  return { url: () => at(port), port: () => port, mailboxPort: () => mailboxPort, stop: close }
}
