import { Readable } from 'node:stream'
import { createTransport } from 'nodemailer'

/** How an attempt to hand a message over ended. */
export type Outcome =
  /** The server answered 250: it is the server's now. */
  | { readonly kind: 'accepted'; readonly answer: string }
  /** The server refused it for good. */
  | { readonly kind: 'refused'; readonly answer: string }
  /** Not now: refused for the time being, or never begun. */
  | { readonly kind: 'later'; readonly answer: string }
  /** The connection was lost once the message may have been on its way. Nobody can tell. */
  | { readonly kind: 'in doubt'; readonly answer: string }

export interface Envelope {
  readonly from: string
  readonly to: string
}

export interface SmtpSender {
  /** How many messages can be under way at once. */
  readonly size: number
  deliver(envelope: Envelope, source: Buffer): Promise<Outcome>
  close(): void
}

interface SmtpFault extends Error {
  readonly responseCode?: number
  readonly response?: string
}

/**
 * What a failed attempt means (RFC 5321 4.2.1): 5yz is final, but for 503, which speaks of the session and not of
 * the message; 4yz may pass later. Without an answer it depends on whether the message had begun to be read:
 * from then on the server may have it.
 */
export function outcomeOfFault(fault: SmtpFault, hadBegun: boolean): Outcome {
  const code = fault.responseCode
  const answer = fault.response ?? fault.message
  if (code !== undefined && code >= 500 && code !== 503) return { kind: 'refused', answer }
  if (code !== undefined && code >= 400) return { kind: 'later', answer }
  return hadBegun ? { kind: 'in doubt', answer } : { kind: 'later', answer }
}

/** Time-outs of one SMTP connection, in milliseconds of real time. */
const timeouts = { connectionTimeout: 15_000, greetingTimeout: 15_000, socketTimeout: 60_000 }

/** Hands messages over to a mail account through a pool of connections. The pool never tries again by itself. */
export function createSmtpSender(url: string, size = 5): SmtpSender {
  const transport = createTransport({
    url,
    pool: true,
    maxConnections: size,
    maxRequeues: 0,
    ...timeouts,
  } as {
    url: string
    pool: true
  })
  const bodies = new WeakMap<Buffer, Readable>()
  // The library reads the message ahead into buffers of its own. Handing it the stream itself, unread until the
  // server has answered DATA, lets us tell whether anything of the message can have left.
  transport.use('stream', (mail, next) => {
    const raw = mail.data.raw
    const body = Buffer.isBuffer(raw) ? bodies.get(raw) : undefined
    if (body) mail.message.createReadStream = () => body
    next()
  })
  return {
    size,
    async deliver(envelope, source) {
      const body = Readable.from([source], { objectMode: false })
      bodies.set(source, body)
      try {
        const info = await transport.sendMail({
          envelope: { from: envelope.from, to: [envelope.to] },
          raw: source,
        })
        return { kind: 'accepted', answer: info.response }
      } catch (fault) {
        return outcomeOfFault(fault as SmtpFault, body.readableDidRead)
      }
    },
    close: () => transport.close(),
  }
}
