import { setImmediate as breathe, setTimeout as pause } from 'node:timers/promises'
import { handleDueMoment } from '#core/engine/following/dueMoments.ts'
import type { DueMoment } from '#core/engine/effects.ts'
import { hourMs, minuteMs } from '#core/time/calendar.ts'
import { isOfStore } from '../../db/storeFault.ts'
import type { IncomingMail } from '../incoming/incomingMail.ts'
import type { Dispatcher } from '../sending/dispatcher.ts'
import { earliest, nextMessageAt, type Due } from './dueNext.ts'
import type { Application } from '../application.ts'
import type { TeamNotes } from './teamNotes.ts'
import { stepRollout } from '../rollouts/rolloutSteps.ts'

/**
 * The one loop for real and demo time. It takes the earliest due moment, sets the clock to it, handles it, then looks
 * again, because more may have come up meanwhile. At one instant facts come first, sendings last. In demo time it waits for
 * the outcomes, so that a message goes at exactly its moment; in real time sendings and notes go on beside it, so that
 * nothing waits for a mail server.
 */
export interface Pump {
  /** Handles all that is due up to a moment. A second call joins after the first; it can be stopped between two moments. */
  advance(to: number): Promise<void>
  /** Handles what is due at the clock's present moment, soon. */
  soon(): void
  stop(): void
  /** What happens from outside as demo time passes. */
  plays(script: Script): void
  /** Stops for good: what is still asked for is not begun any more. */
  end(): void
  movingTo(): number | null
  /** When the next message goes, if sending is on. */
  nextMessageAt(): number | null
  /** Since when nothing can be handled, in business time; null: all goes on. */
  stuckSince(): number | null
  /** Resolves when nothing is being handled. */
  settled(): Promise<void>
}

/** What happens from outside at moments of demo time, as the walk comes past them. */
export interface Script {
  nextAfter(moment: number): { readonly at: number; readonly play: () => Promise<void> } | null
}

const nothingHappens: Script = { nextAfter: () => null }

export interface PumpFault {
  (fault: unknown): void
}

function handleMoment(application: Application, moment: DueMoment) {
  const named = moment.key.split('|')
  const slice = application.sliceOf(moment.clientId, { subjectIds: named, runIds: named })
  application.apply(
    slice
      ? handleDueMoment(moment, slice, application.context(null))
      : [{ kind: 'clear due moment', moment }],
  )
}

/** Tells the pages what time it is: demo time with every walk, real time by the minute, as they show it. */
function createTimeNotice({ clock, changes }: Application, stuckSince: () => number | null) {
  let told: string | null = null
  return () => {
    const shown = `${Math.floor(clock.now() / minuteMs)}|${stuckSince() ?? ''}`
    if (clock.kind === 'real' && shown === told) return
    told = shown
    changes.publish(['clock'])
  }
}

function reach({ clock, changes }: Application, at: number) {
  if (at <= clock.now()) return
  clock.reach(at)
  changes.publish(['clock'])
}

/** How soon demo time looks again whether the mail account lets messages go; it stands until then. Real time. */
const accountAgainMs = 100

/** How much later something is tried again that something was thrown at. Business time. */
const againAfterMs = hourMs

/** What something was thrown at is tried again later, and everything else goes on. False: that cannot be written. */
function putOff(
  application: Application,
  notes: TeamNotes,
  next: Due,
  fault: unknown,
  onFault: PumpFault,
): boolean {
  onFault(fault)
  if (next.kind === 'sends' || next.kind === 'rollout' || isOfStore(fault)) return false
  try {
    if (next.kind === 'note') notes.leaveOut(next.note)
    else application.apply([{ kind: 'set due moment', moment: { ...next, at: next.at + againAfterMs } }])
    return true
  } catch (again) {
    onFault(again)
    return false
  }
}

/** How often one and the same thing may come up at one instant before it is taken for one that gets no further. */
const mostTurns = 1000

/** Notices that at one instant the same comes up again and again. */
function watchProgress() {
  let at = -Infinity
  const turns = new Map<string, number>()
  return {
    isStuckAt(next: Due) {
      if (next.at !== at) turns.clear()
      at = next.at
      const name = `${next.kind}|${'key' in next ? next.key : ''}`
      const count = (turns.get(name) ?? 0) + 1
      turns.set(name, count)
      return count > mostTurns
    },
  }
}

/** What gets no further is put aside, and said, so that everything else goes on. False: it cannot be put aside. */
function putAside(application: Application, next: Due, onFault: PumpFault): boolean {
  onFault(new Error(`Nothing gets further at ${next.at}: ${next.kind} came up again and again.`))
  if (next.kind === 'sends' || next.kind === 'rollout' || next.kind === 'note') return false
  application.apply([{ kind: 'clear due moment', moment: next }])
  return true
}

interface Loop {
  readonly application: Application
  readonly incoming: Pick<IncomingMail, 'settled'>
  readonly dispatcher: Dispatcher
  readonly notes: TeamNotes
  readonly onFault: PumpFault
}

/** What goes on beside the walk in real time: sendings, and one note at a time. */
interface Beside {
  sendings(): void
  /** Whether a note is under way. */
  readonly isTelling: () => boolean
  tell(due: Due & { kind: 'note' }): void
  /** Since when sending gets no further, in business time. */
  readonly stuckSince: () => number | null
}

function createBeside({ application, dispatcher, notes, onFault }: Loop, again: () => void): Beside {
  let stuckSince: number | null = null
  let isTelling = false
  return {
    sendings() {
      dispatcher.sendDue().then(
        () => (stuckSince = null),
        (fault: unknown) => {
          onFault(fault)
          stuckSince ??= application.clock.now()
        },
      )
    },
    isTelling: () => isTelling,
    tell(due) {
      isTelling = true
      notes
        .send(due.note)
        .catch((fault: unknown) => putOff(application, notes, due, fault, onFault))
        .finally(() => {
          isTelling = false
          again()
        })
    },
    stuckSince: () => stuckSince,
  }
}

/** Does what has fallen due. */
async function handle(
  { application, dispatcher, incoming, notes, onFault }: Loop,
  next: Due,
  beside: Beside | null,
) {
  if (next.kind === 'sends') {
    // In demo time it waits for what has come in: it may stop what is due.
    await incoming.settled()
    await dispatcher.sendDue()
    if (!dispatcher.takesMail()) await pause(accountAgainMs)
  } else if (next.kind === 'rollout') {
    stepRollout(application, onFault)
    await breathe()
  } else if (next.kind !== 'note') {
    handleMoment(application, next)
    // Lets pages be answered and outcomes come in.
    if (beside) await breathe()
  } else if (beside) beside.tell(next)
  else await notes.send(next.note)
}

/** Handles what comes next, and what is thrown at it. False: nothing can be handled any more for now. */
async function turn(loop: Loop, next: Due, isStuck: boolean, beside: Beside | null): Promise<boolean> {
  const { application, notes, onFault } = loop
  if (isStuck) return putAside(application, next, onFault)
  try {
    await handle(loop, next, beside)
    return true
  } catch (fault) {
    return putOff(application, notes, next, fault, onFault)
  }
}

/** What comes next; undefined: something was thrown at looking. */
function look(
  { application, notes, onFault }: Loop,
  to: number,
  beside: Beside | null,
): Due | null | undefined {
  try {
    const next = earliest(application, {
      until: to,
      withSends: beside === null,
      notes: beside?.isTelling() ? null : notes,
    })
    if (next) reach(application, next.at)
    return next
  } catch (fault) {
    onFault(fault)
    return undefined
  }
}

/** Walks through all that is due up to a moment, as long as it is not over, and knows since when it gets no further. */
function createWalk(loop: Loop, beside: Beside | null, isOver: () => boolean) {
  const { clock } = loop.application
  let stuckSince: number | null = null
  const walk = async (to: number) => {
    const progress = watchProgress()
    for (;;) {
      if (isOver()) return
      beside?.sendings()
      const next = look(loop, to, beside)
      if (next === null) break
      if (next !== undefined && (await turn(loop, next, progress.isStuckAt(next), beside))) continue
      stuckSince ??= clock.now()
      return
    }
    try {
      clock.reach(to)
      stuckSince = null
    } catch (fault) {
      loop.onFault(fault)
      stuckSince ??= clock.now()
    }
  }
  return { walk, stuckSince: () => stuckSince ?? beside?.stuckSince() ?? null }
}

/** Walks up to a moment with what happens on the way; where it is stopped or stuck before, that has not happened. */
function withScript({ application: { clock }, onFault }: Loop, walk: (to: number) => Promise<void>) {
  let script = nothingHappens
  return {
    plays: (wanted: Script) => void (script = wanted),
    walk: async (to: number): Promise<void> => {
      for (;;) {
        const next = script.nextAfter(clock.now())
        if (next === null || next.at > to) return walk(to)
        await walk(next.at)
        if (clock.now() < next.at) return
        await next.play().catch(onFault)
      }
    },
  }
}

export function createPump(
  application: Application,
  dispatcher: Dispatcher,
  notes: TeamNotes,
  incoming: Pick<IncomingMail, 'settled'>,
  onFault: PumpFault,
): Pump {
  const loop: Loop = { application, dispatcher, incoming, notes, onFault }
  const { clock } = application
  let chain: Promise<void> = Promise.resolve()
  let target: number | null = null
  let isStopped = false
  let isEnded = false
  let isSoon = false

  const beside = clock.kind === 'real' ? createBeside(loop, () => pump.soon()) : null
  // While nobody knows what time it is, nothing is decided by it.
  const { walk, stuckSince } = createWalk(loop, beside, () => isStopped || isEnded || clock.jump() !== null)
  const through = withScript(loop, walk)
  const tellTime = createTimeNotice(application, stuckSince)

  const advance = (to: number): Promise<void> => {
    const work = chain.then(async () => {
      if (isEnded || !application.settings.current()) return
      isStopped = false
      if (to > clock.now()) target = to
      try {
        await through.walk(to)
      } finally {
        target = null
        tellTime()
      }
    })
    chain = work.catch(onFault)
    return work
  }

  const pump: Pump = {
    advance,
    soon() {
      dispatcher.lookAgain()
      if (isSoon) return
      isSoon = true
      setImmediate(() => {
        isSoon = false
        advance(clock.now()).catch(() => undefined)
      })
    },
    stop() {
      isStopped = true
    },
    plays: through.plays,
    end() {
      isEnded = true
    },
    movingTo: () => target,
    nextMessageAt: () => nextMessageAt(application),
    stuckSince,
    settled: () => chain,
  }
  return pump
}
