import { minuteMs } from '#core/time/calendar.ts'
import type { SmtpSender } from './smtpSender.ts'
import type { AccountFault, AccountFaultKind, Outcome } from './whoseFault.ts'

/** What is wrong with a mail account, for the person who sees to it. */
export interface AccountTrouble {
  readonly sentence: string
  /** Real time. */
  readonly since: number
}

/**
 * A mail account that stops by itself when it is at fault, and not the messages: they wait and keep their attempts. It is
 * tried again by and by, and messages follow as soon as it lets them.
 */
export interface MailAccount extends Omit<SmtpSender, 'check' | 'renew'> {
  /** How many messages may be in hand: as many as one likes, one to see whether it goes again, none. */
  room(): number
  /** What a person has to know of; null: all goes on, or it will soon by itself. */
  trouble(): AccountTrouble | null
  /** Tries now what would be tried by and by. What is wrong, if it still is. */
  tryNow(): Promise<AccountFault | null>
  /** It is another account now: nothing is known against it, and what waits goes at once. */
  renew(): void
}

/** How long it is left alone after each fault in a row, in real time; then as long as after the last. */
const waits = [1000, 10_000, minuteMs, 5 * minuteMs, 15 * minuteMs, 60 * minuteMs] as const
const waitAfter = (faults: number) => waits[Math.min(faults, waits.length) - 1] ?? waits[0]

/** An account that cannot be reached for less than this comes back by itself, more often than not. */
export const outageMs = 10 * minuteMs

const sentenceOf: Readonly<Record<AccountFaultKind, string>> = {
  away: 'The mail account does not take messages just now.',
  unsafe: 'The mail server’s connection is not safe: check its address and its certificate.',
  'not let in': 'The mail server does not let us in: ask who runs it.',
  'sign-in refused': 'The mail account refuses the user or the password: they may have changed.',
  'sender refused': 'The mail account does not take messages from this sender: check the sender’s address.',
}

/** What went wrong, in words: what it is, what the server said, what happens. */
export function accountSentence({ what, answer }: AccountFault): string {
  return `${sentenceOf[what]} It says: “${answer}” Messages wait and go as soon as it lets them; it is tried again by itself.`
}

export interface AccountOptions {
  /** Called when messages may go again, or no more. */
  readonly onChange: () => void
  /** How many messages it takes in any minute of real time; null: any number. */
  readonly perMinute?: () => number | null
}

/** How many more messages may go in this minute. What is on the wire is no part of it: it counts once it has ended. */
class Pace {
  /** When the last ones ended, by the clock that cannot be set. */
  private ended: number[] = []

  constructor(private readonly most: () => number | null) {}

  get room() {
    const most = this.most()
    if (most === null) return Infinity
    const from = performance.now() - minuteMs
    this.ended = this.ended.filter((at) => at > from)
    return Math.max(0, most - this.ended.length)
  }

  note() {
    if (this.most() !== null) this.ended.push(performance.now())
  }
}

/** Whether an account is at fault, since when, and when it is tried again. */
class Standing {
  private away: AccountFault | null = null
  /** Faults in a row and since when; what was only tried without a message does not end the row. */
  private faults = 0
  private since: number | null = null
  private timer: NodeJS.Timeout | null = null
  private checking: Promise<AccountFault | null> | null = null
  private isClosed = false
  /** When a message was last taken or refused for what it is, by the clock that cannot be set. */
  workedAt = -Infinity

  constructor(
    private readonly sender: SmtpSender,
    private readonly onChange: () => void,
  ) {}

  get room() {
    if (this.isWaiting) return 0
    return this.faults > 0 ? 1 : Infinity
  }

  get isWaiting() {
    return this.timer !== null || this.checking !== null
  }

  get trouble(): AccountTrouble | null {
    const { away, since } = this
    if (!away || since === null) return null
    const isSoon = away.what === 'away' && Date.now() - since < outageMs
    return isSoon ? null : { sentence: accountSentence(away), since }
  }

  goesOn() {
    this.workedAt = performance.now()
    if (this.faults === 0) return
    this.faults = 0
    this.since = null
    this.away = null
    this.onChange()
  }

  wait(fault: AccountFault) {
    if (this.isClosed) return
    this.faults += 1
    this.since ??= Date.now()
    this.away = fault
    this.stopTimer()
    this.timer = setTimeout(() => void this.check(), waitAfter(this.faults))
    this.timer.unref()
    this.onChange()
  }

  check(): Promise<AccountFault | null> {
    this.stopTimer()
    this.checking ??= this.sender
      .check()
      .then((fault) => {
        if (fault) this.wait(fault)
        else {
          // Who may sign in may still not send: that shows with the next message.
          if (this.away?.what !== 'sender refused') this.away = null
          this.onChange()
        }
        return fault
      })
      .finally(() => (this.checking = null))
    return this.checking
  }

  forget() {
    this.stopTimer()
    this.faults = 0
    this.since = null
    this.away = null
    this.onChange()
  }

  close() {
    this.isClosed = true
    this.stopTimer()
  }

  private stopTimer() {
    if (this.timer) clearTimeout(this.timer)
    this.timer = null
  }
}

const isOfAccount = (outcome: { readonly kind: string }): outcome is AccountFault =>
  outcome.kind === 'account'

export function createMailAccount(
  sender: SmtpSender,
  { onChange, perMinute = () => null }: AccountOptions,
): MailAccount {
  const standing = new Standing(sender, onChange)
  const pace = new Pace(perMinute)
  const noted = async <How extends { readonly kind: string } = Outcome>(
    deliver: () => Promise<How | Outcome>,
  ): Promise<How | Outcome> => {
    const startedAt = performance.now()
    const outcome = await deliver()
    pace.note()
    if (outcome.kind === 'accepted' || outcome.kind === 'refused') standing.goesOn()
    if (!isOfAccount(outcome)) return outcome
    // Others have gone through since: then it is this message the server will not have.
    if (standing.workedAt >= startedAt) return { kind: 'later', answer: outcome.answer }
    if (!standing.isWaiting) standing.wait(outcome)
    return outcome
  }
  return {
    size: sender.size,
    room: () => Math.min(standing.room, pace.room),
    trouble: () => standing.trouble,
    tryNow: () => standing.check(),
    renew() {
      sender.renew()
      standing.forget()
    },
    deliver: (envelope, source) => noted(() => sender.deliver(envelope, source)),
    deliverWhile: (envelope, source, mayGo) => noted(() => sender.deliverWhile(envelope, source, mayGo)),
    close() {
      standing.close()
      sender.close()
    },
  }
}
