import { Readable } from 'node:stream'
import { Broken, Conversation, type AccountAddress, type Envelope, type SmtpLimits } from './conversation.ts'
import { answerOf, outcomeOfFault, type AccountFault, type Outcome, type Withdrawn } from './whoseFault.ts'

export interface SmtpSender {
  /** How many messages can be under way at once. */
  readonly size: number
  deliver(envelope: Envelope, source: Buffer): Promise<Outcome>
  /** Asks once more when the server is ready for its words: where it may not go any more, nothing of it leaves. */
  deliverWhile(envelope: Envelope, source: Buffer, mayGo: () => boolean): Promise<Outcome | Withdrawn>
  /** Connects and signs in, and sends nothing. Null: the account lets us. */
  check(): Promise<AccountFault | null>
  /** What is open goes nowhere that counts any more: the next message opens a connection of its own. */
  renew(): void
  close(): void
}

export const realLimits: SmtpLimits = { greeting: 15_000, silence: 60_000, whole: 120_000 }
/** The built-in post office is on this machine: what it does not answer soon it does not answer. */
export const limitsOfPostOffice: SmtpLimits = { greeting: 5_000, silence: 10_000, whole: 20_000 }

/** What a large message may take longer: no line is slower than so many bytes a millisecond. */
const slowestLine = 20
/** A connection nobody needs is left after this; servers end them themselves soon after. */
const idleMs = 10_000
const mostMessages = 100

/** A mail account's address, `smtp://…` or `smtps://…`, in its parts. */
export function accountAt(url: string): AccountAddress {
  const { protocol, hostname, port, username, password } = new URL(url)
  const isSecure = protocol === 'smtps:'
  return {
    host: hostname.replace(/^\[|\]$/g, ''),
    port: Number(port) || (isSecure ? 465 : 587),
    isSecure,
    turnsToTls: 'where offered',
    signIn:
      username === '' ? null : { user: decodeURIComponent(username), pass: decodeURIComponent(password) },
  }
}

interface Kept {
  readonly conversation: Conversation
  /** Which account it leads to, counted. */
  readonly generation: number
  messages: number
  ending: NodeJS.Timeout | null
}

/** Open connections, each used again as long as its server likes. */
class Connections {
  private readonly idle: Kept[] = []
  private readonly all = new Set<Kept>()
  private generation = 0

  constructor(
    private readonly addressOf: () => AccountAddress,
    private readonly limitsOf: () => SmtpLimits,
  ) {}

  /** One that is open already; null: there is none. */
  waiting(): Kept | null {
    for (;;) {
      const kept = this.idle.pop()
      if (!kept) return null
      if (kept.ending) clearTimeout(kept.ending)
      if (kept.conversation.isOpen) return kept
      this.leave(kept)
    }
  }

  fresh(): Kept {
    const conversation = new Conversation(this.addressOf(), this.limitsOf())
    const kept = { conversation, generation: this.generation, messages: 0, ending: null }
    this.all.add(kept)
    return kept
  }

  giveBack(kept: Kept) {
    const isOfBefore = kept.generation !== this.generation
    if (isOfBefore || !kept.conversation.isOpen || kept.messages >= mostMessages) {
      this.leave(kept)
      return
    }
    kept.ending = setTimeout(() => this.leave(kept), idleMs)
    kept.ending.unref()
    this.idle.push(kept)
  }

  leave(kept: Kept) {
    this.all.delete(kept)
    if (kept.ending) clearTimeout(kept.ending)
    kept.conversation.close()
  }

  /** What is under way ends as it would; nothing follows it. */
  renew() {
    this.generation += 1
    for (const kept of this.idle.splice(0)) this.leave(kept)
  }

  closeAll() {
    for (const kept of [...this.all]) this.leave(kept)
  }
}

/** The words of a message, which are read only once the server is ready for them; as long as they may go. */
function bodyOf(
  source: Buffer,
  mayGo: () => boolean,
): { readonly body: Readable; readonly isWithdrawn: () => boolean } {
  let isWithdrawn = false
  const body = new Readable({
    read() {
      isWithdrawn = !mayGo()
      if (isWithdrawn) {
        this.destroy(new Error('It was taken back.'))
        return
      }
      this.push(source)
      this.push(null)
    },
  })
  return { body, isWithdrawn: () => isWithdrawn }
}

const withdrawn: Withdrawn = { kind: 'withdrawn' }

const asBroken = (fault: unknown) => {
  if (fault instanceof Broken) return fault
  throw fault
}

const wasLeft = ({ fault, stage }: Broken) =>
  stage.at === 'sending' && stage.answers === 0 && !stage.hadBegun && fault.code !== 'ETIMEDOUT'

/** Hands one message over, on a connection that is open or on a fresh one. */
function createDelivering(connections: Connections, limitsOf: () => SmtpLimits): SmtpSender['deliverWhile'] {
  const sendOn = async (
    kept: Kept,
    until: number,
    envelope: Envelope,
    source: Buffer,
    mayGo: () => boolean,
  ) => {
    const { body, isWithdrawn } = bodyOf(source, mayGo)
    kept.messages += 1
    try {
      const answer = await kept.conversation.send(until, envelope, body, source.length)
      connections.giveBack(kept)
      return { kind: 'accepted', answer: answerOf(answer) } as const
    } catch (fault) {
      if (!isWithdrawn()) throw fault
      connections.leave(kept)
      return withdrawn
    }
  }
  return async (envelope: Envelope, source: Buffer, mayGo: () => boolean) => {
    const until = performance.now() + limitsOf().whole + source.length / slowestLine
    const waiting = connections.waiting()
    try {
      if (waiting) return await sendOn(waiting, until, envelope, source, mayGo)
    } catch (fault) {
      const broken = asBroken(fault)
      if (waiting) connections.leave(waiting)
      if (!wasLeft(broken)) return outcomeOfFault(broken.fault, broken.stage)
    }
    const kept = connections.fresh()
    try {
      await kept.conversation.open(until)
      return await sendOn(kept, until, envelope, source, mayGo)
    } catch (fault) {
      const broken = asBroken(fault)
      connections.leave(kept)
      return outcomeOfFault(broken.fault, broken.stage)
    }
  }
}

/**
 * Hands messages over to a mail account through a pool of connections. It never tries a message again by itself, but for
 * one whose connection had been left by the server while nothing was said on it.
 */
export function createSmtpSender(
  account: AccountAddress | (() => AccountAddress),
  {
    size = 5,
    limits = realLimits,
  }: { readonly size?: number; readonly limits?: SmtpLimits | (() => SmtpLimits) } = {},
): SmtpSender {
  const limitsOf = typeof limits === 'function' ? limits : () => limits
  const connections = new Connections(typeof account === 'function' ? account : () => account, limitsOf)

  const deliverWhile = createDelivering(connections, limitsOf)
  return {
    size,
    deliverWhile,
    async deliver(envelope, source) {
      const outcome = await deliverWhile(envelope, source, () => true)
      if (outcome.kind === 'withdrawn') throw new Error('A message was taken back that was always to go')
      return outcome
    },
    async check() {
      const kept = connections.fresh()
      try {
        await kept.conversation.open(performance.now() + limitsOf().greeting)
        return null
      } catch (fault) {
        const { fault: own, stage } = asBroken(fault)
        const outcome = outcomeOfFault(own, stage)
        return outcome.kind === 'account' ? outcome : null
      } finally {
        connections.leave(kept)
      }
    },
    renew: () => connections.renew(),
    close: () => connections.closeAll(),
  }
}
