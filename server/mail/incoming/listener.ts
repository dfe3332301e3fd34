import type { AddressInfo } from 'node:net'
import { SMTPServer, type SMTPServerSession } from 'smtp-server'
import { SmtpRefusal } from '../smtpRefusal.ts'
import type { Envelope } from './readMail.ts'

/** What mail that comes in is handed to. */
export interface Taker {
  /** Whether an address is one of this house. */
  isOurs(address: string): boolean
  /** Stores it; from then on it is never lost. Throws where it cannot be written. */
  take(source: Buffer, envelope: Envelope): void
}

export interface RunningListener {
  readonly port: number
  close(): Promise<void>
}

export interface ListenerLimits {
  readonly mostBytes: number
  readonly mostConnections: number
  /** Without a byte, in milliseconds of real time. */
  readonly silenceMs: number
}

export const usualListenerLimits: ListenerLimits = {
  mostBytes: 25 * 1024 * 1024,
  mostConnections: 50,
  silenceMs: 60_000,
}

/** Reads what is sent, up to a limit; what is beyond it is read and left. Null: it was too much. */
async function collect(stream: AsyncIterable<Buffer>, most: number): Promise<Buffer | null> {
  const parts: Buffer[] = []
  let bytes = 0
  for await (const part of stream) {
    bytes += part.length
    if (bytes <= most) parts.push(part)
  }
  return bytes > most ? null : Buffer.concat(parts)
}

const envelopeOf = ({ envelope: { mailFrom, rcptTo } }: SMTPServerSession): Envelope => ({
  from: mailFrom === false ? '' : mailFrom.address,
  to: rcptTo.map(({ address }) => address),
})

/**
 * Takes mail over SMTP on the loopback address, for a host that forwards it (RFC 5321). It answers 250 only when the mail
 * is stored; what it could not store the host keeps and tries again.
 */
export async function listenForMail(
  port: number,
  taker: Taker,
  onFault: (fault: unknown) => void,
  { mostBytes, mostConnections, silenceMs }: ListenerLimits = usualListenerLimits,
): Promise<RunningListener> {
  const server = new SMTPServer({
    banner: 'Vorfreude takes answers',
    authOptional: true,
    disabledCommands: ['AUTH', 'STARTTLS'],
    size: mostBytes,
    maxClients: mostConnections,
    socketTimeout: silenceMs,
    closeTimeout: 2000,
    onRcptTo({ address }, _, answer) {
      answer(taker.isOurs(address) ? null : new SmtpRefusal(550, '5.1.1 There is no such mailbox here'))
    },
    onData(stream, session, answer) {
      collect(stream, mostBytes).then(
        (source) => {
          if (source === null) {
            answer(new SmtpRefusal(552, `5.3.4 At most ${mostBytes} bytes`))
            return
          }
          try {
            taker.take(source, envelopeOf(session))
            answer(null)
          } catch (fault) {
            onFault(fault)
            answer(new SmtpRefusal(451, '4.3.0 It could not be stored: try again later'))
          }
        },
        () => answer(new SmtpRefusal(451, '4.3.0 It could not be read')),
      )
    },
  })
  // Who goes away in the middle keeps what they had.
  server.on('error', () => undefined)
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject)
    server.listen(port, '127.0.0.1', () => {
      server.off('error', reject)
      resolve()
    })
  })
  return {
    port: (server.server.address() as AddressInfo).port,
    close: () => new Promise((resolve) => server.close(() => resolve())),
  }
}
