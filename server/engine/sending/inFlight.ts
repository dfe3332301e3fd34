import { readFile } from '../../db/letterStore.ts'
import { storeMessage } from '../../db/messageStore.ts'
import { isOfStore } from '../../db/storeFault.ts'
import { composeMessage } from '../../mail/compose.ts'
import type { MailAccounts } from '../../mail/mailAccounts.ts'
import type { AccountFault, Outcome, Withdrawn } from '../../mail/whoseFault.ts'
import { webCallOf } from '../../mail/webCall.ts'
import { claim, type Claimed } from './claim.ts'
import type { OnFault } from './faults.ts'
import type { Application } from '../application.ts'
import { callNow, noteCall, type WebCall } from './webCalls.ts'
import { giveBack, outcomeSettled, settle, type NotMade } from './endClaim.ts'
import { routeDue } from './lanes.ts'
import type { Signal } from '../loop/signal.ts'
import { mainAccountId } from '#core/model/furtherAccount.ts'

/**
 * How many messages are in flight for each connection: one on the wire and one composed behind it, so that no connection
 * stands idle while outcomes are written. What is behind has not begun: it is given back when draining or after a crash.
 */
const inFlightEach = 2

/** A conversation that takes longer than this, in milliseconds of real time, lets another one begin beside it. */
export const slowMs = 1000
/** So many times as many conversations there may be when some are slow. */
const mostEach = 4

/** A claimed message ready to go on the wire; a web call has no source. */
interface Composed {
  readonly claimed: Claimed
  readonly source: Buffer | null
}

interface Delivered extends Composed {
  readonly outcome: Outcome | Withdrawn | NotMade
  /** The call to a web address that it was, where it was one and was made. */
  readonly call?: WebCall
}

async function compose({ store }: Application, claimed: Claimed): Promise<Composed> {
  const { parcel } = claimed
  if (parcel.kind === 'call') return { claimed, source: null }
  const fileOf = (id: string) => readFile(store.statements, id)
  return { claimed, source: await composeMessage(parcel.message, fileOf) }
}

/** It was taken away after the message was composed for it. */
const gone: AccountFault = { kind: 'account', what: 'away', answer: '' }

async function deliver(
  application: Application,
  accounts: MailAccounts,
  composed: Composed,
): Promise<Delivered> {
  const { claimed, source } = composed
  const { send, parcel } = claimed
  if (parcel.kind === 'call' || source === null) {
    const url = parcel.kind === 'call' ? parcel.url : ''
    const call = await callNow(application, { sendId: send.id, url, body: webCallOf(send) })
    return { ...composed, call, outcome: call.outcome }
  }
  const { from, to } = parcel.message
  const account = accounts.of(parcel.through)
  const envelope = { from: from.address, to: to.address }
  const mayGo = () => !application.arrivals.haveComeSince(claimed.arrivals)
  return { ...composed, outcome: account ? await account.deliverWhile(envelope, source, mayGo) : gone }
}

/** Writes how a delivery ended, within a transaction. */
function record(application: Application, { claimed, source, outcome, call }: Delivered, follows = true) {
  const { send, parcel } = claimed
  if (call) noteCall(application, call)
  if (outcome.kind === 'account' || outcome.kind === 'withdrawn') {
    giveBack(application, claimed)
    application.changes.publish(['sends'])
    return
  }
  const message = parcel.kind === 'mail' ? parcel.message : null
  if (message && source) {
    storeMessage(application.store.statements, send.id, message.subject, source)
  }
  const told = outcome.kind === 'accepted' && message ? message.told : null
  settle(application, claimed, outcomeSettled(send, outcome, application.clock.now()), told, follows)
}

/** That it may have gone is all that can be written of it. */
function doubt(application: Application, { claimed }: Delivered) {
  const reason = {
    code: 'fault',
    sentence: 'It was handed over, and how that ended could not be written down.',
  }
  settle(application, claimed, { state: 'in doubt', reason, event: 'message in doubt' }, null, false)
}

/**
 * Writes how some deliveries ended: all in one transaction where that can be, else one by one, each with less and less
 * that could be at fault: what follows from it, the message itself. Returns what waits for the database: what was accepted
 * must not lose that. What can never be written is left to the sweep of leases, so that nothing waits for it.
 */
function recordAll(
  application: Application,
  delivered: readonly Delivered[],
  onFault: OnFault,
): readonly Delivered[] {
  const written = (write: () => void): 'written' | 'waits' | 'never' => {
    try {
      application.store.transaction(write)
      return 'written'
    } catch (fault) {
      onFault(fault)
      return isOfStore(fault) ? 'waits' : 'never'
    }
  }
  if (delivered.length === 0) return []
  if (written(() => delivered.forEach((one) => record(application, one))) === 'written') return []
  return delivered.filter((one) => {
    const mayHaveGone = one.outcome.kind === 'accepted' || one.outcome.kind === 'in doubt'
    const ways = [
      () => record(application, one),
      () => record(application, one, false),
      ...(mayHaveGone ? [() => doubt(application, one)] : []),
    ]
    for (const way of ways) {
      const outcome = written(way)
      if (outcome !== 'never') return outcome === 'waits'
    }
    return false
  })
}

/** Something accepted could not be written down yet; it stays in flight. */
export class NotWritten extends Error {}

/** What a turn takes on. */
interface Taken {
  readonly beginning: readonly Composed[]
  readonly claimed: readonly Claimed[]
}

const isMail = ({ parcel }: Claimed) => parcel.kind === 'mail'

/** What goes through no mail account keeps the lane of the main one. */
const laneIdOf = ({ parcel }: Claimed) => (parcel.kind === 'mail' ? parcel.through : mainAccountId)

/** The messages in flight: being composed, ready, on the wire, delivered. */
export class InFlight {
  private readonly composing = new Set<Claimed>()
  /** With when each began, by the clock that cannot be set. */
  private readonly onTheWire = new Map<Claimed, number>()
  private ready: Composed[] = []
  private delivered: Delivered[] = []
  /** Whether more has fallen due than was looked at, which account it goes through. */
  hasMoreToRoute = false

  constructor(
    private readonly application: Application,
    private readonly accounts: MailAccounts,
    private readonly onFault: OnFault,
    private readonly ended: Signal,
  ) {}

  get isEmpty() {
    const all = this.composing.size + this.ready.length + this.onTheWire.size + this.delivered.length
    return all === 0
  }

  /** The tokens of all that is in flight. */
  get tokens(): ReadonlySet<string> {
    const all = [...this.composing, ...this.onTheWire.keys()]
    const composed = [...this.ready, ...this.delivered].map(({ claimed }) => claimed)
    return new Set([...all, ...composed].map(({ token }) => token))
  }

  get hasOnTheWire() {
    return this.onTheWire.size > 0
  }

  /** Whether something is ready and may begin at once. */
  get canBegin() {
    return this.beginning().length > 0
  }

  /** What is in flight in the lane of one account. */
  private inLane(id: string) {
    const isIn = (claimed: Claimed) => laneIdOf(claimed) === id
    const onTheWire = [...this.onTheWire].filter(([claimed]) => isIn(claimed))
    const since = performance.now() - slowMs
    return {
      composing: [...this.composing].filter(isIn),
      ready: this.ready.filter(({ claimed }) => isIn(claimed)),
      onTheWire: onTheWire.map(([claimed]) => claimed),
      quick: onTheWire.filter(([, startedAt]) => startedAt > since).length,
    }
  }

  /** How many messages the account of a lane may have in hand; none where it is gone. */
  private roomOf(id: string): number {
    return this.accounts.of(id)?.room() ?? 0
  }

  /** What may begin now in a lane: without its account only what does not go by mail. Slow ones hold nobody up. */
  private beginningIn(id: string): readonly Composed[] {
    const { size } = this.accounts.main
    const { ready, onTheWire, quick } = this.inLane(id)
    const freeLines = Math.max(0, Math.min(size - quick, mostEach * size - onTheWire.length))
    let left = Math.max(0, this.roomOf(id) - onTheWire.filter(isMail).length)
    return ready.filter(({ claimed }) => !isMail(claimed) || left-- > 0).slice(0, freeLines)
  }

  private beginning(): readonly Composed[] {
    return this.accounts.ids().flatMap((id) => this.beginningIn(id))
  }

  /**
   * Writes what has ended, first and for itself; then marks what begins and claims what comes next, in one transaction,
   * and begins it. What cannot be written stays in flight.
   */
  turnOver(mayClaim: boolean) {
    this.delivered = [...recordAll(this.application, this.delivered, this.onFault)]
    if (this.delivered.length > 0) throw new NotWritten()
    const { beginning, claimed } = this.takeOn(mayClaim)
    beginning.forEach((one) => this.begin(one))
    claimed.forEach((one) => this.take(one))
  }

  private takeOn(mayClaim: boolean): Taken {
    const { application } = this
    // Mail that came in since may be why something does not go: it is checked once more.
    const isOverdue = ({ claimed }: Composed) => application.arrivals.haveComeSince(claimed.arrivals)
    const beginning = mayClaim ? this.beginning().filter((one) => !isOverdue(one)) : []
    const isLeft = (claimed: Claimed) => isMail(claimed) && this.roomOf(laneIdOf(claimed)) === 0
    const givenBack = this.ready.filter((one) => !mayClaim || isLeft(one.claimed) || isOverdue(one))
    try {
      const claimed = application.store.transaction(() => {
        givenBack.forEach(({ claimed: one }) => giveBack(application, one))
        beginning.forEach(({ claimed: one }) => this.markBegun(one))
        return mayClaim ? this.claimed() : []
      })
      this.ready = this.ready.filter((one) => !beginning.includes(one) && !givenBack.includes(one))
      return { beginning, claimed }
    } catch (fault) {
      // Without anything ready it was the claiming that something was thrown at: nobody's fault in flight.
      if (isOfStore(fault) || this.ready.length === 0) throw fault
      this.onFault(fault)
      return { beginning: this.oneByOne(beginning, givenBack), claimed: [] }
    }
  }

  /** Claims what there is room for, lane by lane. */
  private claimed(): readonly Claimed[] {
    const { application, accounts, onFault } = this
    this.hasMoreToRoute = routeDue(application, accounts, onFault)
    return accounts.ids().flatMap((id) => this.claimedIn(id))
  }

  private claimedIn(laneId: string): readonly Claimed[] {
    const { application, accounts, onFault } = this
    const { composing, ready, onTheWire, quick } = this.inLane(laneId)
    const free = inFlightEach * accounts.main.size - composing.length - ready.length - quick
    const inHand = [...composing, ...ready.map(({ claimed }) => claimed), ...onTheWire].filter(isMail)
    const mails = Math.min(free, Math.max(0, this.roomOf(laneId) - inHand.length))
    if (free <= 0 || (mails === 0 && laneId !== mainAccountId)) return []
    const claiming = { laneId, limit: mails > 0 ? mails : free, withMail: mails > 0 }
    return claim({ application, accounts, onFault }, claiming)
  }

  private readonly markBegun = ({ send, token }: Claimed) =>
    this.application.store.statements.run('beginClaim', { id: send.id, token })

  /** The same for each by itself: the one that something is thrown at fails, and the others begin. */
  private oneByOne(beginning: readonly Composed[], givenBack: readonly Composed[]): readonly Composed[] {
    const isDone = (one: Composed, mark: (claimed: Claimed) => unknown) => {
      this.ready = this.ready.filter((other) => other !== one)
      try {
        mark(one.claimed)
        return true
      } catch (fault) {
        this.onFault(fault)
        this.delivered.push({ ...one, source: null, outcome: { kind: 'not made' } })
        return false
      }
    }
    givenBack.forEach((one) => isDone(one, (claimed) => giveBack(this.application, claimed)))
    return beginning.filter((one) => isDone(one, this.markBegun))
  }

  private take(claimed: Claimed) {
    this.composing.add(claimed)
    void compose(this.application, claimed)
      .then((one) => void this.ready.push(one))
      .catch((fault: unknown) => {
        this.onFault(fault)
        this.delivered.push({ claimed, source: null, outcome: { kind: 'not made' } })
      })
      .finally(() => {
        this.composing.delete(claimed)
        this.ended.raise()
      })
  }

  private begin(composed: Composed) {
    const { claimed } = composed
    this.onTheWire.set(claimed, performance.now())
    void deliver(this.application, this.accounts, composed)
      .then((one) => void this.delivered.push(one))
      .catch((fault: unknown) => {
        this.onFault(fault)
        this.delivered.push({ ...composed, outcome: { kind: 'in doubt', answer: '' } })
      })
      .finally(() => {
        this.onTheWire.delete(claimed)
        this.ended.raise()
      })
  }
}
