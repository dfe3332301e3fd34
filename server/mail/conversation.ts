import type { Readable } from 'node:stream'
import SMTPConnection from 'nodemailer/lib/smtp-connection'
import type { SmtpFault, Stage } from './whoseFault.ts'

/** A mail account as it is given: where it is, and who we are there. */
export interface AccountAddress {
  readonly host: string
  readonly port: number
  /** TLS from the first byte. */
  readonly isSecure: boolean
  /** Else: whether it must turn to TLS after the greeting, may where the server offers it, or does not. */
  readonly turnsToTls: 'always' | 'where offered' | 'never'
  readonly signIn: { readonly user: string; readonly pass: string } | null
}

/** How long a conversation may take, in milliseconds of real time. */
export interface SmtpLimits {
  /** Until there is a connection and a greeting. */
  readonly greeting: number
  /** Without a byte from the server. */
  readonly silence: number
  /** Altogether, whatever the server says meanwhile. */
  readonly whole: number
}

export interface Envelope {
  readonly from: string
  readonly to: string
}

/** Where a conversation broke, and by what. */
export class Broken extends Error {
  constructor(
    readonly fault: SmtpFault,
    readonly stage: Stage,
  ) {
    super(fault.message)
  }
}

type Done = (fault?: Error | null) => void

const quiet = () => undefined

/** One connection to a mail server. Every step ends: by its answer, by the connection's end, or by the limit. */
export class Conversation {
  /** Whether another message can follow. */
  isOpen = false
  private answers = 0
  private onBroken: ((fault: Error) => void) | null = null
  private readonly connection: SMTPConnection

  constructor(
    private readonly address: AccountAddress,
    { greeting, silence }: SmtpLimits,
  ) {
    this.connection = new SMTPConnection({
      host: address.host,
      port: address.port,
      secure: address.isSecure,
      requireTLS: address.turnsToTls === 'always',
      ignoreTLS: address.turnsToTls === 'never',
      connectionTimeout: greeting,
      greetingTimeout: greeting,
      dnsTimeout: greeting,
      socketTimeout: silence,
      socketCloseTimeout: 0,
      maxResponseSize: 64 * 1024,
      transactionLog: true,
      // Only counted, never written down: whether the server has answered says how far it had come.
      logger: {
        level: quiet,
        trace: quiet,
        debug: ({ tnx }: { tnx?: string }) => void (this.answers += tnx === 'server' ? 1 : 0),
        info: quiet,
        warn: quiet,
        error: quiet,
        fatal: quiet,
      },
    })
    const broken = (fault: Error) => {
      this.isOpen = false
      this.onBroken?.(fault)
    }
    this.connection.on('error', broken)
    // What a server says as it closes comes with the step's own answer, which is told after this.
    this.connection.on('end', () =>
      setImmediate(() => broken(new Error('The mail server closed the connection.'))),
    )
  }

  /** Connects and signs in; until a moment of the clock that cannot be set. Throws Broken. */
  async open(until: number): Promise<void> {
    await this.connect(until)
    await this.signIn(until)
  }

  /** Connects, and turns to TLS. Throws Broken. */
  connect(until: number): Promise<void> {
    return this.step(until, { at: 'opening' }, (done) => this.connection.connect(done))
  }

  /** Says who we are, where the account wants to know. Throws Broken. */
  async signIn(until: number): Promise<void> {
    const { signIn } = this.address
    if (signIn !== null) {
      const credentials = { user: signIn.user, pass: signIn.pass }
      await this.step(until, { at: 'signing in' }, (done) => this.connection.login({ credentials }, done))
    }
    this.isOpen = true
  }

  /**
   * Hands a message over and returns the server's answer. The stream stays unread until the server has answered DATA,
   * so that its being read tells whether anything of the message can have left. Throws Broken.
   */
  async send(until: number, { from, to }: Envelope, body: Readable, size: number): Promise<string> {
    this.answers = 0
    let answer = ''
    const stage = (): Stage => ({ at: 'sending', answers: this.answers, hadBegun: body.readableDidRead })
    await this.step(until, stage, (done) =>
      this.connection.send({ from, to: [to], size }, body, (fault, info) => {
        if (!fault) answer = info.response
        done(fault)
      }),
    )
    return answer
  }

  close() {
    this.isOpen = false
    this.connection.close()
  }

  private async step(until: number, stage: Stage | (() => Stage), begin: (done: Done) => void) {
    try {
      await new Promise<void>((resolve, reject) => {
        const over = setTimeout(
          () => reject(Object.assign(new Error('The mail server took too long.'), { code: 'ETIMEDOUT' })),
          Math.max(0, until - performance.now()),
        )
        const end = (fault?: Error | null) => {
          clearTimeout(over)
          if (fault) reject(fault)
          else resolve()
        }
        this.onBroken = end
        begin(end)
      })
    } catch (fault) {
      this.close()
      throw new Broken(fault as SmtpFault, typeof stage === 'function' ? stage() : stage)
    } finally {
      this.onBroken = null
    }
  }
}
