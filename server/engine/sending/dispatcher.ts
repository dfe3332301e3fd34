import { setImmediate as breathe, setTimeout as pause } from 'node:timers/promises'
import { readSend } from '../../db/sendStore.ts'
import { isOfStore } from '../../db/storeFault.ts'
import type { MailAccounts } from '../../mail/mailAccounts.ts'
import { leaseMs } from './claim.ts'
import type { OnFault } from './faults.ts'
import { InFlight, NotWritten, slowMs } from './inFlight.ts'
import type { Application } from '../application.ts'
import { settle } from './endClaim.ts'
import { createSignal, type Signal } from '../loop/signal.ts'

/*
 * The life of a claim:
 *
 *   ready/approved --claim--> sending --check fails--> blocked, cancelled, missed, skipped, waiting
 *                                     --no message---> done in the transaction of the claim: sent, or failed
 *                                     --250----------> sent
 *                                     --5yz----------> failed
 *                                     --4yz, not begun-> ready/approved, due later
 *                                     --lost after DATA, process killed, lease over--> in doubt
 *                                     --draining, not begun, account at fault--> ready/approved, attempt not counted
 *
 * Everything after the claim names the claim's token: where no row answers to it, the claim was lost and
 * nothing is done.
 */

/**
 * What ends or gets ready within so many milliseconds is written in one transaction, with the next claims: waiting for
 * the disk costs more than anything else here. Real time.
 */
const gatheringMs = 3

export interface Dispatcher {
  /** Sends everything due up to the clock's present moment and waits for the outcomes. Called meanwhile, it looks again. */
  sendDue(): Promise<void>
  /** Looks again for what is due, if it is at work. */
  lookAgain(): void
  /** Whether messages can be claimed; false while the main mail account is at fault. */
  takesMail(): boolean
  /** Claims of a process that is gone: whether those messages went, nobody can tell. */
  doubtAbandoned(): void
  /** Claims nothing more, waits up to a deadline for what is under way, gives back what has not begun. */
  drain(deadlineMs: number): Promise<void>
}

/** How soon writing is tried again when the database could not be written to. Real time. */
const storeAgainMs = 500

/**
 * Claims whose tokens nobody here knows are of a process that is gone. What had not begun cannot have gone and is given
 * back, uncharged.
 */
function doubtAbandoned(application: Application, tokens: ReadonlySet<string>) {
  const { statements } = application.store
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
    settle(application, { send, token }, { state: 'in doubt', reason, event: 'message in doubt' })
  }
}

/** Keeps the leases of what is in flight, and lets nothing that nobody has in flight lie in between. */
function keepLeases(application: Application, inFlight: InFlight, onFault: OnFault): NodeJS.Timeout {
  const renewal = setInterval(() => {
    try {
      const leaseUntil = Date.now() + leaseMs
      for (const token of inFlight.tokens)
        application.store.statements.run('renewLease', { token, leaseUntil })
      doubtAbandoned(application, inFlight.tokens)
    } catch (fault) {
      onFault(fault)
    }
  }, leaseMs / 2)
  return renewal.unref()
}

/** Turns over what is in flight until there is nothing more. */
async function workOff(inFlight: InFlight, ended: Signal, isDraining: () => boolean, onFault: OnFault) {
  for (;;) {
    try {
      inFlight.turnOver(!isDraining())
    } catch (fault) {
      if (isDraining()) return
      const isOver = inFlight.isEmpty || !(fault instanceof NotWritten || isOfStore(fault))
      if (isOver) throw fault
      if (!(fault instanceof NotWritten)) onFault(fault)
      // What is in flight is written as soon as the database can be written to again.
      await pause(storeAgainMs)
      continue
    }
    const looksOn = inFlight.hasMoreToRoute && !isDraining()
    if (inFlight.isEmpty && !looksOn) return
    if (looksOn) {
      await breathe()
      continue
    }
    if (inFlight.canBegin && !isDraining()) continue
    await ended.raised(slowMs)
    if (inFlight.hasOnTheWire) await pause(gatheringMs)
  }
}

export function createDispatcher(
  application: Application,
  accounts: MailAccounts,
  onFault: OnFault,
): Dispatcher {
  const ended = createSignal()
  const inFlight = new InFlight(application, accounts, onFault, ended)
  let isDraining = false
  let work: Promise<void> | null = null
  const renewal = keepLeases(application, inFlight, onFault)

  return {
    sendDue() {
      if (work) ended.raise()
      work ??= workOff(inFlight, ended, () => isDraining, onFault).finally(() => (work = null))
      return work
    },
    lookAgain: () => ended.raise(),
    takesMail: () => accounts.main.room() > 0,
    doubtAbandoned: () => doubtAbandoned(application, inFlight.tokens),
    async drain(deadlineMs) {
      isDraining = true
      clearInterval(renewal)
      ended.raise()
      const until = (ms: number) => pause(ms, undefined, { ref: false })
      const over = (work ?? Promise.resolve()).catch(onFault)
      await Promise.race([over, until(deadlineMs)])
      // What is still on the wire breaks off, and is written down as that.
      accounts.close()
      await Promise.race([over, until(storeAgainMs)])
    },
  }
}
