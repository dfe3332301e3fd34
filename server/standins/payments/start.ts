import { startStandIn } from '../ownProcess.ts'
import { listenForPayments } from './listen.ts'

/** The page for paying, wherever it runs. */
export interface RunningPayments {
  /** Where it is now; another place after it was started again. */
  url(): string
  stop(): Promise<void>
}

const at = (port: number) => `http://127.0.0.1:${port}`

/** Starts the page for paying in a process of its own and waits until it listens. */
export async function startPayments(
  key: string,
  onFault: (fault: unknown) => void,
): Promise<RunningPayments> {
  const program = {
    name: 'The page for paying',
    path: 'server/standins/payments/main',
    env: { VORFREUDE_PAYMENTS_KEY: key },
  }
  const { said, stop } = await startStandIn<{ readonly port: number }>(program, onFault)
  return { url: () => at(said().port), stop }
}

/** The same within this process. */
export async function startPaymentsHere(key: string): Promise<RunningPayments> {
  const { port, close } = await listenForPayments(key)
  return { url: () => at(port), stop: close }
}
