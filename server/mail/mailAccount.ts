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
export interface MailAccount extends SmtpSender {
  /** How many messages may be in hand: as many as one likes, one to see whether it goes again, none. */
  room(): number
  /** What a person has to know of; null: all goes on, or it will soon by itself. */
  trouble(): AccountTrouble | null
  /** Tries now what would be tried by and by. What is wrong, if it still is. */
  tryNow(): Promise<AccountFault | null>
}

/** How long it is left alone after each fault in a row, in real time; then as long as after the last. */
const waits = [1000, 10_000, minuteMs, 5 * minuteMs, 15 * minuteMs, 60 * minuteMs] as const
const waitAfter = (faults: number) => waits[Math.min(faults, waits.length) - 1] ?? waits[0]

/** An account that cannot be reached for less than this comes back by itself, more often than not. */
const outageMs = 10 * minuteMs

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
  readonly now?: () => number
}

export function createMailAccount(
  sender: SmtpSender,
  { onChange, now = Date.now }: AccountOptions,
): MailAccount {
  let away: AccountFault | null = null
  /** Faults in a row and since when; what was only tried without a message does not end the row. */
  let faults = 0
  let since: number | null = null
  let workedAt = -Infinity
  let timer: NodeJS.Timeout | null = null
  let checking: Promise<AccountFault | null> | null = null
  let isClosed = false

  const goesOn = () => {
    workedAt = now()
    if (faults === 0) return
    faults = 0
    since = null
    away = null
    onChange()
  }
  const waitAgain = (fault: AccountFault) => {
    if (isClosed) return
    faults += 1
    since ??= now()
    away = fault
    if (timer) clearTimeout(timer)
    timer = setTimeout(() => void check(), waitAfter(faults))
    timer.unref()
    onChange()
  }
  const check = () => {
    if (timer) clearTimeout(timer)
    timer = null
    checking ??= sender
      .check()
      .then((fault) => {
        if (fault) waitAgain(fault)
        else {
          // Who may sign in may still not send: that shows with the next message.
          if (away?.what !== 'sender refused') away = null
          onChange()
        }
        return fault
      })
      .finally(() => (checking = null))
    return checking
  }
  return {
    size: sender.size,
    room: () => (timer || checking ? 0 : faults > 0 ? 1 : Infinity),
    trouble() {
      if (!away || since === null) return null
      const isSoon = away.what === 'away' && now() - since < outageMs
      return isSoon ? null : { sentence: accountSentence(away), since }
    },
    tryNow: check,
    async deliver(envelope, source): Promise<Outcome> {
      const startedAt = now()
      const outcome = await sender.deliver(envelope, source)
      if (outcome.kind === 'accepted' || outcome.kind === 'refused') goesOn()
      if (outcome.kind !== 'account') return outcome
      // Others have gone through since: then it is this message the server will not have.
      if (workedAt >= startedAt) return { kind: 'later', answer: outcome.answer }
      if (!timer && !checking) waitAgain(outcome)
      return outcome
    },
    check: () => sender.check(),
    close() {
      isClosed = true
      if (timer) clearTimeout(timer)
      timer = null
      sender.close()
    },
  }
}
