import { readFile } from '../db/letterStore.ts'
import { readSend } from '../db/sendStore.ts'
import { composeMessage } from '../mail/compose.ts'
import type { Outcome, SmtpSender } from '../mail/smtpSender.ts'
import { callWeb, secretOf, webCallOf } from '../mail/webCall.ts'
import { claim, leaseMs, type Claimed } from './claim.ts'
import type { Office } from './office.ts'
import { outcomeSettled, settle } from './settle.ts'

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
  readonly outcome: Outcome
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
function record(office: Office, { claimed, source, outcome }: Delivered) {
  const { send, parcel } = claimed
  const message = parcel.kind === 'mail' ? parcel.message : null
  if (message && source) {
    office.store.statements.run('storeMessage', { sendId: send.id, subject: message.subject, source })
  }
  const told = outcome.kind === 'accepted' && message ? message.told : null
  settle(office, claimed, outcomeSettled(send, outcome, office.clock.now()), told)
}

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
  ) {}

  get isEmpty() {
    return this.count === 0 && this.delivered.length === 0
  }

  get count() {
    return this.composing.size + this.ready.length + this.onTheWire.size
  }

  /** Writes what has ended, marks what begins, and claims what comes next, in one transaction; then begins it. */
  turnOver(mayClaim: boolean) {
    const { office, sender } = this
    const { statements } = office.store
    const ended = this.delivered
    this.delivered = []
    const beginning = mayClaim ? this.ready.splice(0, sender.size - this.onTheWire.size) : []
    const givenBack = mayClaim ? [] : this.ready.splice(0)
    const claimed = office.store.transaction(() => {
      for (const one of ended) record(office, one)
      for (const { claimed: one } of givenBack)
        statements.run('giveBackClaim', { id: one.send.id, token: one.token })
      for (const { claimed: one } of beginning)
        statements.run('beginClaim', { id: one.send.id, token: one.token })
      const free = inHandEach * sender.size - this.count - beginning.length
      return mayClaim && free > 0 ? claim(office, free) : []
    })
    beginning.forEach((one) => this.begin(one))
    claimed.forEach((one) => this.take(one))
  }

  private take(claimed: Claimed) {
    this.tokens.add(claimed.token)
    const work = compose(this.office, claimed)
      .then((one) => void this.ready.push(one))
      .finally(() => this.composing.delete(claimed.send.id))
    this.composing.set(claimed.send.id, work)
  }

  private begin(composed: Composed) {
    const { id } = composed.claimed.send
    const work = deliver(this.office, this.sender, composed)
      .then((one) => void this.delivered.push(one))
      .finally(() => this.onTheWire.delete(id))
    this.onTheWire.set(id, work)
  }
}

export function createDispatcher(office: Office, sender: SmtpSender): Dispatcher {
  const hand = new Hand(office, sender)
  let isDraining = false
  const renewal = setInterval(() => {
    for (const token of hand.tokens) {
      office.store.statements.run('renewLease', { token, leaseUntil: Date.now() + leaseMs })
    }
  }, leaseMs / 2)
  renewal.unref()

  return {
    async sendDue() {
      for (;;) {
        hand.turnOver(!isDraining)
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
