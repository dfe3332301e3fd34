import type { AddressInfo } from 'node:net'
import { SMTPServer, type SMTPServerOptions } from 'smtp-server'

/** A message a mail server has taken: by whom it was handed over (empty: by nobody in particular), from where and to whom. */
export interface Taken {
  readonly user: string
  readonly from: string
  readonly to: string
}

export interface TakingServer {
  readonly taken: readonly Taken[]
  readonly port: number
  close(): void
}

/** A mail server on this machine, without TLS, that takes what it is handed and notes it. */
export async function startTakingServer(options: SMTPServerOptions = {}): Promise<TakingServer> {
  const taken: Taken[] = []
  const server = new SMTPServer({
    disabledCommands: ['STARTTLS'],
    allowInsecureAuth: true,
    onData(stream, { user, envelope: { mailFrom, rcptTo } }, done) {
      stream.resume()
      stream.on('end', () => {
        taken.push({
          user: typeof user === 'string' ? user : '',
          from: mailFrom === false ? '' : mailFrom.address,
          to: rcptTo.map(({ address }) => address).join(),
        })
        done()
      })
    },
    ...options,
  })
  // A connection that breaks off is no fault of a test.
  server.on('error', () => undefined)
  const port = await new Promise<number>((resolve) => {
    server.listen(0, '127.0.0.1', () => resolve((server.server.address() as AddressInfo).port))
  })
  return {
    taken,
    port,
    close() {
      server.close()
    },
  }
}
