import { setTimeout as pause } from 'node:timers/promises'
import type { IncomingMailbox, ReadingState } from '#core/model/incomingMailbox.ts'
import { minuteMs } from '#core/time/calendar.ts'
import type { WayIn } from '../../db/incomingStore.ts'
import { readIncomingMailboxes } from '../../db/mailboxStore.ts'
import { outageMs } from '../../mail/mailAccount.ts'
import type { NamedTrouble } from '../../mail/mailAccounts.ts'
import { addressOf } from '../waysOut.ts'
import { openedPassword } from '../../mail/sealed.ts'
import {
  MailboxFault,
  openMailbox,
  type MailboxAddress,
  type MailboxFaultKind,
  type OpenMailbox,
} from '../../mail/incoming/mailboxClient.ts'
import type { Application } from '../application.ts'
import { MailboxPass } from './mailboxLoop.ts'

/** How long until it is looked at again, in milliseconds of real time. */
export interface ReadingTimes {
  /** Also where the server says by itself when something comes: that can be lost. */
  readonly pollMs: number
  /** After each fault in a row; then as long as after the last. */
  readonly afterFault: readonly number[]
  /** The same after a refused sign-in: many servers lock who tries too often. */
  readonly afterRefusal: readonly number[]
  /** One that cannot be reached for less than this comes back by itself, more often than not. */
  readonly outageMs: number
}

export const usualReadingTimes: ReadingTimes = {
  pollMs: minuteMs,
  afterFault: [1000, 10_000, minuteMs, 5 * minuteMs],
  afterRefusal: [5 * minuteMs, 15 * minuteMs, 60 * minuteMs],
  outageMs,
}

/** A mailbox with how it is reached now; `address` null: its password cannot be read any more. */
export interface ReadFrom {
  readonly id: string
  readonly name: string
  /** It came with the house. */
  readonly isOwn: boolean
  readonly address: MailboxAddress | null
}

/** All mailboxes that are read. */
export interface MailboxReading {
  /** Begins, and follows what has changed in Set-up. */
  renew(): void
  stateOf(id: string): ReadingState
  /** The one that came with the house; null: there is none. */
  own(): { readonly name: string; readonly state: ReadingState } | null
  troubles(): readonly NamedTrouble[]
  /** Looks at all of them at once; resolves when what lies there is stored, or cannot be. */
  look(): Promise<void>
  end(): Promise<void>
}

const faultWords: Readonly<Record<MailboxFaultKind, string>> = {
  away: 'the mail server cannot be reached just now.',
  unsafe: 'the mail server’s connection is not safe: check its address and its certificate.',
  'sign-in refused': 'the mailbox refuses the user or the password: they may have changed.',
  'no folder': 'it has no such folder.',
}
const consequence = 'Answers may lie there that nobody here knows of.'
const unreadable = (name: string) =>
  `“${name}” is not read: its password cannot be read with the key file that is here now. Type it anew in Set-up, under “What comes back”. ${consequence}`

const faultSentence = (name: string, { what, answer }: MailboxFault) =>
  `“${name}” is not read: ${faultWords[what]} It says: “${answer}” It is tried again by itself. ${consequence}`

interface Parts {
  readonly application: Application
  readonly take: (source: Buffer, way: WayIn) => boolean
  readonly onFault: (fault: unknown) => void
  readonly times: ReadingTimes
}

/** One mailbox: connected, read, listened to, and again after each fault. */
class Reading {
  state: ReadingState = { kind: 'connecting' }
  private fault: { readonly of: MailboxFault; readonly since: number } | null = null
  private faults = 0
  private readonly begunAt = Date.now()
  private readonly ended = new AbortController()
  private open: OpenMailbox | null = null
  private readonly pass: MailboxPass
  private readonly work: Promise<void>
  /** How often something was said to have come. */
  private news = 0
  private wake: () => void = () => undefined
  /** Looks that were asked for and are not done. */
  private asked: (() => void)[] = []

  constructor(
    readonly from: ReadFrom,
    private readonly parts: Parts,
  ) {
    this.pass = new MailboxPass({
      store: parts.application.store,
      mailboxId: from.id,
      isOwn: from.isOwn,
      take: parts.take,
      now: () => Date.now(),
      onState: (state) => this.set(state),
    })
    this.work = this.run()
  }

  get trouble(): NamedTrouble | null {
    const { id, name, address } = this.from
    if (!address) return { id, sentence: unreadable(name), since: this.begunAt }
    const { fault } = this
    if (!fault) return null
    const isSoon = fault.of.what === 'away' && Date.now() - fault.since < this.parts.times.outageMs
    return isSoon ? null : { id, sentence: faultSentence(name, fault.of), since: fault.since }
  }

  look(): Promise<void> {
    if (this.isOver() || !this.from.address) return Promise.resolve()
    return new Promise((resolve) => {
      this.asked.push(resolve)
      this.wake()
    })
  }

  async end() {
    this.ended.abort()
    this.open?.close()
    this.wake()
    await this.work
    this.answer()
  }

  private isOver(): boolean {
    return this.ended.signal.aborted
  }

  private set(state: ReadingState) {
    this.state = state
    this.parts.application.changes.publish(['mailboxes'])
  }

  private answer(asked = this.asked.splice(0)) {
    for (const resolve of asked) resolve()
  }

  private async run() {
    if (!this.from.address) {
      this.set({ kind: 'fault', sentence: unreadable(this.from.name) })
      return
    }
    while (!this.isOver()) {
      try {
        await this.readWhileOpen(this.from.address)
      } catch (thrown) {
        if (this.isOver()) return
        this.note(thrown)
        this.answer()
        await this.until(this.waitMs)
      }
    }
  }

  private note(thrown: unknown) {
    if (!(thrown instanceof MailboxFault)) this.parts.onFault(thrown)
    const of =
      thrown instanceof MailboxFault
        ? thrown
        : new MailboxFault('away', 'something in here does not work', { message: '' })
    this.faults += 1
    // One and the same is told once, from its beginning.
    this.fault = { of, since: this.fault?.since ?? Date.now() }
    this.set({ kind: 'fault', sentence: faultSentence(this.from.name, of) })
    this.tellDesk()
  }

  private recovered() {
    this.faults = 0
    if (!this.fault) return
    this.fault = null
    this.tellDesk()
  }

  /** What cannot be read stands in Trouble. */
  private tellDesk() {
    this.parts.application.changes.publish(['incoming'])
  }

  private get waitMs(): number {
    const { afterFault, afterRefusal } = this.parts.times
    const waits = this.fault?.of.what === 'sign-in refused' ? afterRefusal : afterFault
    return waits[Math.min(this.faults, waits.length) - 1] ?? minuteMs
  }

  private async readWhileOpen(address: MailboxAddress) {
    if (!this.fault) this.set({ kind: 'connecting' })
    const mailbox = await openMailbox(address)
    this.open = mailbox
    mailbox.onNews(() => {
      // What a line says as it ends does not cut the time short until it is tried again.
      if (this.open !== mailbox) return
      this.news += 1
      this.wake()
    })
    try {
      this.pass.begin(mailbox)
      while (!this.isOver()) {
        const asked = this.asked.splice(0)
        const { news } = this
        await this.readOnce(mailbox, asked)
        this.recovered()
        if (await this.pass.noteOld(mailbox)) continue
        this.set({ kind: 'listening', isTold: mailbox.isTold })
        if (news === this.news && this.asked.length === 0) await this.until(this.parts.times.pollMs)
        if (!this.isOver()) await mailbox.check()
      }
    } finally {
      this.open = null
      mailbox.close()
    }
  }

  private async readOnce(mailbox: OpenMailbox, asked: (() => void)[]) {
    try {
      while (await this.pass.readNew(mailbox)) if (this.isOver()) break
      this.answer(asked)
    } catch (fault) {
      // Whoever asked waits for the next try.
      this.asked.push(...asked)
      throw fault
    }
  }

  private async until(ms: number) {
    const waiting = new AbortController()
    this.wake = () => waiting.abort()
    if (this.isOver() || this.asked.length > 0) return
    await pause(ms, undefined, { signal: waiting.signal, ref: false }).catch(() => undefined)
    this.wake = () => undefined
  }
}

/** The mailboxes that are set up, with their passwords as far as they can be read. */
function setUp({ store: { statements, keys } }: Application): readonly ReadFrom[] {
  return readIncomingMailboxes(statements).map(({ id, name, account, folder, sealedPassword }) => {
    const { password, isUnreadable } = openedPassword(sealedPassword, keys.mailAccounts)
    return {
      id,
      name,
      isOwn: false,
      address: isUnreadable ? null : { ...addressOf(account, password ?? ''), folder },
    }
  })
}

interface Options extends Omit<Parts, 'times'> {
  readonly times?: ReadingTimes
  /** A mailbox that came with it: that of the built-in post office. */
  readonly own: (() => ReadFrom | null) | null
}

export function createMailboxReading({ own, times = usualReadingTimes, ...parts }: Options): MailboxReading {
  const { settings } = parts.application
  const readings = new Map<string, Reading>()
  let known: readonly IncomingMailbox[] | null = null
  let isEnded = false
  const ended: Promise<void>[] = []

  const isSame = (one: ReadFrom, other: ReadFrom) => JSON.stringify(one) === JSON.stringify(other)
  return {
    renew() {
      const present = settings.current()?.incomingMailboxes ?? null
      if (isEnded || present === null || present === known) return
      known = present
      const built = own?.() ?? null
      const wanted = [...setUp(parts.application), ...(built ? [built] : [])]
      for (const [id, reading] of readings) {
        const now = wanted.find((one) => one.id === id)
        if (now && isSame(now, reading.from)) continue
        readings.delete(id)
        ended.push(reading.end())
      }
      for (const from of wanted) {
        if (!readings.has(from.id)) readings.set(from.id, new Reading(from, { ...parts, times }))
      }
    },
    stateOf: (id) => readings.get(id)?.state ?? { kind: 'connecting' },
    own() {
      const reading = [...readings.values()].find(({ from }) => from.isOwn)
      return reading ? { name: reading.from.name, state: reading.state } : null
    },
    troubles: () => [...readings.values()].flatMap(({ trouble }) => trouble ?? []),
    async look() {
      await Promise.all([...readings.values()].map((reading) => reading.look()))
    },
    async end() {
      isEnded = true
      await Promise.all([...ended, ...[...readings.values()].map((reading) => reading.end())])
    },
  }
}
