import { readFile } from '../db/letterStore.ts'
import { readSend } from '../db/sendStore.ts'
import { isOfStore } from '../db/storeFault.ts'
import { composeMessage } from '../mail/compose.ts'
import type { Outcome, SmtpSender } from '../mail/smtpSender.ts'
import { callWeb, secretOf, webCallOf } from '../mail/webCall.ts'
import { claim, leaseMs, type Claimed } from './claim.ts'
import type { OnFault } from './faults.ts'
import type { Office } from './office.ts'
import { outcomeSettled, settle, type NotMade } from './settle.ts'

/*
 * The life of a claim:
 *
 *   ready/approved --claim--> sending --check fails--> blocked, cancelled, missed, skipped, waiting
 *                                     --no message---> done in the transaction of the claim: sent, or failed
 *                                     --250----------> sent
 *                                     --5yz----------> failed
 *                                     --4yz, not begun-> ready/approved, due later
 *                                     --lost after DATA, process killed, lease over--> in doubt
 *                                     --draining, not begun--> ready/approved, attempt not counted
 *
 * Everything after the claim names the claim's token: where no row answers to it, the claim was lost and
 * nothing is done.
 */

/**
 * How many messages are in hand for each connection: one on the wire and one composed behind it, so that no connection
 * stands idle while outcomes are written. What is behind has not begun: it is given back when draining or after a crash.
 */
const inHandEach = 2

/**
 * What ends or gets ready within so many milliseconds is written in one transaction, with the next claims: waiting for
 * the disk costs more than anything else here. Real time.
 */
const gatheringMs = 3

export interface Dispatcher {
  /** Sends everything due up to the clock's present moment and waits for the outcomes. */
  sendDue(): Promise<void>
  /** Claims of a process that is gone: whether those messages went, nobody can tell. */
  doubtAbandoned(): void
  /** Claims nothing more, waits up to a deadline for what is under way, gives back what has not begun. */
  drain(deadlineMs: number): Promise<void>
}

/** A claimed message ready to go on the wire; a web call has no source. */
interface Composed {
  readonly claimed: Claimed
  readonly source: Buffer | null
}

interface Delivered extends Composed {
  readonly outcome: Outcome | NotMade
}

async function compose({ store }: Office, claimed: Claimed): Promise<Composed> {
  const { parcel } = claimed
  if (parcel.kind === 'call') return { claimed, source: null }
  const fileOf = (id: string) => readFile(store.statements, id)
  return { claimed, source: await composeMessage(parcel.message, fileOf) }
}

async function deliver(office: Office, sender: SmtpSender, composed: Composed): Promise<Delivered> {
  const { claimed, source } = composed
  const { send, parcel } = claimed
  if (parcel.kind === 'call' || source === null) {
    const url = parcel.kind === 'call' ? parcel.url : ''
    return { ...composed, outcome: await callWeb(url, webCallOf(send), secretOf(office)) }
  }
  const { from, to } = parcel.message
  return { ...composed, outcome: await sender.deliver({ from: from.address, to: to.address }, source) }
}

/** Writes how a delivery ended, within a transaction. */
function record(office: Office, { claimed, source, outcome }: Delivered, follows = true) {
  const { send, parcel } = claimed
  const message = parcel.kind === 'mail' ? parcel.message : null
  if (message && source) {
    office.store.statements.run('storeMessage', { sendId: send.id, subject: message.subject, source })
  }
  const told = outcome.kind === 'accepted' && message ? message.told : null
  settle(office, claimed, outcomeSettled(send, outcome, office.clock.now()), told, follows)
}

/**
 * Writes how some deliveries ended: all in one transaction where that can be, else one by one, and what follows from one
 * that something is thrown at is left to the next planning. Returns those that could not be written at all: what was
 * accepted must not lose that.
 */
function recordAll(office: Office, delivered: readonly Delivered[], onFault: OnFault): readonly Delivered[] {
  const written = (write: () => void): boolean => {
    try {
      office.store.transaction(write)
      return true
    } catch (fault) {
      onFault(fault)
      return false
    }
  }
  if (delivered.length === 0 || written(() => delivered.forEach((one) => record(office, one)))) return []
  return delivered.filter(
    (one) => !written(() => record(office, one)) && !written(() => record(office, one, false)),
  )
}

/** How soon writing is tried again when the database could not be written to. Real time. */
const storeAgainMs = 500

/** Something accepted could not be written down yet; it stays in hand. */
class NotWritten extends Error {}

const pause = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms))

/**
 * Claims whose tokens nobody here knows are of a process that is gone. What had not begun cannot have gone and is given
 * back, uncharged.
 */
function doubtAbandoned(office: Office, tokens: ReadonlySet<string>) {
  const { statements } = office.store
  for (const row of statements.all('abandonedClaims')) {
    const token = String(row['token'])
    const send = tokens.has(token) ? null : readSend(statements, String(row['id']))
    if (!send) continue
    if (row['isBegun'] === 0) {
      statements.run('giveBackClaim', { id: send.id, token })
      continue
    }
    const sentence = 'Vorfreude was stopped while it was being handed over: it may have gone.'
    const reason = { code: 'stopped', sentence }
    settle(office, { send, token }, { state: 'in doubt', reason, event: 'message in doubt' })
  }
}

/** What a turn takes on. */
interface Taken {
  readonly beginning: readonly Composed[]
  readonly claimed: readonly Claimed[]
}

/** The messages in hand: being composed, ready, on the wire, delivered. */
class Hand {
  readonly tokens = new Set<string>()
  readonly composing = new Map<string, Promise<void>>()
  readonly onTheWire = new Map<string, Promise<void>>()
  ready: Composed[] = []
  delivered: Delivered[] = []

  constructor(
    private readonly office: Office,
    private readonly sender: SmtpSender,
    private readonly onFault: OnFault,
  ) {}

  get isEmpty() {
    return this.count === 0 && this.delivered.length === 0
  }

  get count() {
    return this.composing.size + this.ready.length + this.onTheWire.size
  }

  /**
   * Writes what has ended, first and for itself; then marks what begins and claims what comes next, in one transaction,
   * and begins it. What cannot be written stays in hand.
   */
  turnOver(mayClaim: boolean) {
    this.delivered = [...recordAll(this.office, this.delivered, this.onFault)]
    if (this.delivered.length > 0) throw new NotWritten()
    const { beginning, claimed } = this.takeOn(mayClaim)
    this.ready = this.ready.filter((one) => mayClaim && !beginning.includes(one))
    beginning.forEach((one) => this.begin(one))
    claimed.forEach((one) => this.take(one))
  }

  private takeOn(mayClaim: boolean): Taken {
    const { office, sender } = this
    const { transaction } = office.store
    const beginning = mayClaim ? this.ready.slice(0, sender.size - this.onTheWire.size) : []
    const givenBack = mayClaim ? [] : this.ready
    try {
      const claimed = transaction(() => {
        givenBack.forEach(({ claimed: one }) => this.giveBack(one))
        beginning.forEach(({ claimed: one }) => this.markBegun(one))
        const free = inHandEach * sender.size - this.count
        return mayClaim && free > 0 ? claim(office, free, this.onFault) : []
      })
      return { beginning, claimed }
    } catch (fault) {
      // Without anything ready it was the claiming that something was thrown at: nobody's fault in hand.
      if (isOfStore(fault) || this.ready.length === 0) throw fault
      this.onFault(fault)
      return { beginning: this.oneByOne(beginning, givenBack), claimed: [] }
    }
  }

  private readonly giveBack = ({ send, token }: Claimed) =>
    this.office.store.statements.run('giveBackClaim', { id: send.id, token })
  private readonly markBegun = ({ send, token }: Claimed) =>
    this.office.store.statements.run('beginClaim', { id: send.id, token })

  /** The same for each by itself: the one that something is thrown at fails, and the others begin. */
  private oneByOne(beginning: readonly Composed[], givenBack: readonly Composed[]): readonly Composed[] {
    const isDone = ({ claimed }: Composed, mark: (one: Claimed) => unknown) => {
      try {
        mark(claimed)
        return true
      } catch (fault) {
        this.onFault(fault)
        this.ready = this.ready.filter((one) => one.claimed !== claimed)
        this.delivered.push({ claimed, source: null, outcome: { kind: 'not made' } })
        return false
      }
    }
    givenBack.forEach((one) => isDone(one, this.giveBack))
    return beginning.filter((one) => isDone(one, this.markBegun))
  }

  private take(claimed: Claimed) {
    this.tokens.add(claimed.token)
    const work = compose(this.office, claimed)
      .then((one) => void this.ready.push(one))
      .catch((fault: unknown) => {
        this.onFault(fault)
        this.delivered.push({ claimed, source: null, outcome: { kind: 'not made' } })
      })
      .finally(() => this.composing.delete(claimed.send.id))
    this.composing.set(claimed.send.id, work)
  }

  private begin(composed: Composed) {
    const { id } = composed.claimed.send
    const work = deliver(this.office, this.sender, composed)
      .then((one) => void this.delivered.push(one))
      .catch((fault: unknown) => {
        this.onFault(fault)
        this.delivered.push({ ...composed, outcome: { kind: 'in doubt', answer: '' } })
      })
      .finally(() => this.onTheWire.delete(id))
    this.onTheWire.set(id, work)
  }
}

export function createDispatcher(office: Office, sender: SmtpSender, onFault: OnFault): Dispatcher {
  const hand = new Hand(office, sender, onFault)
  let isDraining = false
  const renew = () => {
    for (const token of hand.tokens) {
      office.store.statements.run('renewLease', { token, leaseUntil: Date.now() + leaseMs })
    }
    // What nobody has in hand any more is not left lying in between until the next start.
    doubtAbandoned(office, hand.tokens)
  }
  const renewal = setInterval(() => {
    try {
      renew()
    } catch (fault) {
      onFault(fault)
    }
  }, leaseMs / 2)
  renewal.unref()

  return {
    async sendDue() {
      for (;;) {
        try {
          hand.turnOver(!isDraining)
        } catch (fault) {
          if (isDraining) return
          const isOver = hand.isEmpty || !(fault instanceof NotWritten || isOfStore(fault))
          if (isOver) throw fault
          if (!(fault instanceof NotWritten)) onFault(fault)
          // What is in hand is written as soon as the database can be written to again.
          await pause(storeAgainMs)
          continue
        }
        if (hand.isEmpty) {
          hand.tokens.clear()
          return
        }
        if (hand.ready.length > 0 && hand.onTheWire.size < sender.size && !isDraining) continue
        await Promise.race([...hand.composing.values(), ...hand.onTheWire.values()])
        if (hand.onTheWire.size > 0) await pause(gatheringMs)
      }
    },
    doubtAbandoned: () => doubtAbandoned(office, hand.tokens),
    async drain(deadlineMs) {
      isDraining = true
      clearInterval(renewal)
      const deadline = new Promise<void>((resolve) => setTimeout(resolve, deadlineMs).unref())
      await Promise.race([Promise.allSettled(hand.onTheWire.values()), deadline])
      sender.close()
    },
  }
}
