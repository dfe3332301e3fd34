import { dueMomentOrder, handleDueMoment } from '#core/engine/dueMoments.ts'
import type { DueMoment } from '#core/engine/effects.ts'
import { hourMs } from '#core/time/calendar.ts'
import { isOfStore } from '../db/storeFault.ts'
import type { Dispatcher } from './dispatcher.ts'
import type { Office } from './office.ts'
import type { NoteMoment, TeamNotes } from './teamNotes.ts'

/**
 * The one loop for real and demo time. It takes the earliest due moment, sets the clock to it, handles it, waits
 * for the outcomes, then looks again, because more may have come up meanwhile. At one instant facts come first,
 * sendings last.
 */
export interface Pump {
  /** Handles all that is due up to a moment. A second call joins after the first; it can be stopped between two moments. */
  advance(to: number): Promise<void>
  /** Handles what is due at the clock's present moment, soon. */
  soon(): void
  stop(): void
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

export interface PumpFault {
  (fault: unknown): void
}

type Next =
  | DueMoment
  | { readonly kind: 'sends'; readonly at: number }
  | { readonly kind: 'note'; readonly at: number; readonly note: NoteMoment }

/** What comes first; at one instant facts, then notes to the team, then sendings. */
function earliest(office: Office, notes: TeamNotes, until: number): Next | null {
  const next = earliestOfClients(office, until)
  const note = notes.next(until)
  if (!note) return next
  const isFirst = !next || note.at < next.at || (note.at === next.at && next.kind === 'sends')
  return isFirst ? { kind: 'note', at: note.at, note } : next
}

function earliestOfClients(
  office: Office,
  until: number,
): DueMoment | { readonly kind: 'sends'; readonly at: number } | null {
  const { statements } = office.store
  const moment = statements.one('earliestDueMoment', { until, kinds })
  const sendAt = office.settings.required().isSendingOn
    ? statements.one('earliestDueSend')?.['at']
    : undefined
  const momentAt = moment?.['at'] as number | undefined
  if (momentAt !== undefined && (typeof sendAt !== 'number' || momentAt <= sendAt)) {
    return {
      at: momentAt,
      kind: moment?.['kind'] as DueMoment['kind'],
      key: String(moment?.['key']),
      clientId: String(moment?.['clientId']),
    }
  }
  return typeof sendAt === 'number' && sendAt <= until ? { at: sendAt, kind: 'sends' } : null
}

/** The order of kinds at one instant, as the query asks for it. */
const kinds = `|${dueMomentOrder.join('|')}|`

function handleMoment(office: Office, moment: DueMoment) {
  const slice = office.sliceOf(moment.clientId)
  office.apply(
    slice ? handleDueMoment(moment, slice, office.context(null)) : [{ kind: 'clear due moment', moment }],
  )
}

/** When the next message goes; null: none does, or sending is held back. */
function nextMessageAt({ settings, store }: Office): number | null {
  if (!settings.current()?.isSendingOn) return null
  const at = store.statements.one('earliestDueSend')?.['at']
  return typeof at === 'number' ? at : null
}

function reach({ clock, changes }: Office, at: number) {
  if (at <= clock.now()) return
  clock.reach(at)
  changes.publish(['clock'])
}

/** Does what has fallen due. */
async function handle(office: Office, dispatcher: Dispatcher, notes: TeamNotes, next: Next) {
  if (next.kind === 'sends') await dispatcher.sendDue()
  else if (next.kind === 'note') await notes.send(next.note)
  else handleMoment(office, next)
}

/** How much later something is tried again that something was thrown at. Business time. */
const againAfterMs = hourMs

/** What something was thrown at is tried again later, and everything else goes on. False: that cannot be written. */
function putOff(office: Office, notes: TeamNotes, next: Next, fault: unknown, onFault: PumpFault): boolean {
  onFault(fault)
  if (next.kind === 'sends' || isOfStore(fault)) return false
  try {
    if (next.kind === 'note') notes.leaveOut(next.note)
    else office.apply([{ kind: 'set due moment', moment: { ...next, at: next.at + againAfterMs } }])
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
    isStuckAt(next: Next) {
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
function putAside(office: Office, next: Next, onFault: PumpFault): boolean {
  onFault(new Error(`Nothing gets further at ${next.at}: ${next.kind} came up again and again.`))
  if (next.kind === 'sends' || next.kind === 'note') return false
  office.apply([{ kind: 'clear due moment', moment: next }])
  return true
}

interface Loop {
  readonly office: Office
  readonly dispatcher: Dispatcher
  readonly notes: TeamNotes
  readonly onFault: PumpFault
}

/** Handles what comes next, and what is thrown at it. False: nothing can be handled any more for now. */
async function turn(
  { office, dispatcher, notes, onFault }: Loop,
  next: Next,
  isStuck: boolean,
): Promise<boolean> {
  if (isStuck) return putAside(office, next, onFault)
  try {
    await handle(office, dispatcher, notes, next)
    return true
  } catch (fault) {
    return putOff(office, notes, next, fault, onFault)
  }
}

/** What comes next; undefined: something was thrown at looking. */
function look({ office, notes, onFault }: Loop, to: number): Next | null | undefined {
  try {
    const next = earliest(office, notes, to)
    if (next) reach(office, next.at)
    return next
  } catch (fault) {
    onFault(fault)
    return undefined
  }
}

/** Walks through all that is due up to a moment, as long as it is not over, and knows since when it gets no further. */
function createWalk(loop: Loop, isOver: () => boolean) {
  const { clock } = loop.office
  let stuckSince: number | null = null
  const walk = async (to: number) => {
    const progress = watchProgress()
    for (;;) {
      if (isOver()) return
      const next = look(loop, to)
      if (next === null) break
      if (next !== undefined && (await turn(loop, next, progress.isStuckAt(next)))) continue
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
  return { walk, stuckSince: () => stuckSince }
}

export function createPump(
  office: Office,
  dispatcher: Dispatcher,
  notes: TeamNotes,
  onFault: PumpFault,
): Pump {
  const loop: Loop = { office, dispatcher, notes, onFault }
  const { clock, changes } = office
  let chain: Promise<void> = Promise.resolve()
  let target: number | null = null
  let isStopped = false
  let isEnded = false
  let isSoon = false

  const { walk, stuckSince } = createWalk(loop, () => isStopped || isEnded)

  const advance = (to: number): Promise<void> => {
    const work = chain.then(async () => {
      if (isEnded || !office.settings.current()) return
      isStopped = false
      if (to > clock.now()) target = to
      try {
        await walk(to)
      } finally {
        target = null
        changes.publish(['clock'])
      }
    })
    chain = work.catch(onFault)
    return work
  }

  return {
    advance,
    soon() {
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
    end() {
      isEnded = true
    },
    movingTo: () => target,
    nextMessageAt: () => nextMessageAt(office),
    stuckSince,
    settled: () => chain,
  }
}
