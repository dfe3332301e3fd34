import { followedOrOpened } from '#core/engine/following/followedOrOpened.ts'
import { isAgain, settleMs, visitsOfPersons } from '#core/incoming/visits.ts'
import { presentClientId } from '../../db/clientMerges.ts'
import { onlyLiving } from '../../db/livingStore.ts'
import { readSend } from '../../db/sendStore.ts'
import { isOfStore } from '../../db/storeFault.ts'
import {
  addVisit,
  linkTarget,
  mostVisits,
  sendsToTell,
  tellVisit,
  visitsOfSend,
} from '../../db/visitStore.ts'
import type { Application } from '../application.ts'
import { noticedOf } from './noticedMessage.ts'

/** A request for a link of a message, or for its picture. */
export interface Asked {
  readonly sendId: string
  /** Null: the picture. */
  readonly linkKey: string | null
  readonly isHead: boolean
}

/** Notices what clients open and follow. */
export interface Visits {
  /** Where a link of a message leads; null: it has no such link. */
  targetOf(sendId: string, linkKey: string): string | null
  /** Notes that something was asked for. Whose it was is told a little later, when it is known what came with it. */
  note(asked: Asked): void
  /** Takes up what was noted before the program ended. */
  begin(): void
  /** Resolves when of all that was noted it is told whose it was. */
  settled(): Promise<void>
  end(): Promise<void>
}

interface Parts {
  readonly application: Application
  readonly onFault: (fault: unknown) => void
  /** How long one waits for what belongs together, in milliseconds of real time. */
  readonly waitMs?: number
}

/** When it was handed over, in real time; null: the clock is moved by hand, and nobody can say. */
const handedOverAt = ({ clock }: Application, sentAt: number | null) =>
  clock.kind === 'real' ? sentAt : null

/** Tells of the visits of a message whose they were, with what follows from those of a person. */
function tell(application: Application, sendId: string) {
  const { store } = application
  store.transaction(() => {
    const visits = visitsOfSend(store.statements, sendId)
    const send = readSend(store.statements, sendId)
    const untold = visits.filter(({ isPerson }) => isPerson === null).toReversed()
    const persons = visitsOfPersons(visits, handedOverAt(application, send?.sentAt ?? null))
    for (const { id } of untold) tellVisit(store.statements, id, persons.has(id))
    if (!send) return
    const told = visits.map((one) => ({ ...one, isPerson: one.isPerson ?? persons.has(one.id) }))
    const own = untold.filter((one) => persons.has(one.id) && !isAgain(one, told))
    for (const visit of own) {
      const slice = application.sliceOf(presentClientId(store.statements, send.clientId), {
        ...onlyLiving,
        runIds: [send.runId],
      })
      if (slice) application.apply(followedOrOpened(slice, send, visit, application.context(null)))
    }
  })
  application.changes.publish(['sends', 'clients'])
}

export function createVisits({ application, onFault, waitMs = settleMs }: Parts): Visits {
  const { store, clock } = application
  const { statements } = store
  let timer: NodeJS.Timeout | null = null
  let isEnded = false

  const tellAll = (until: number) => {
    for (const sendId of sendsToTell(statements, until)) {
      try {
        tell(application, sendId)
      } catch (fault) {
        onFault(fault)
        if (isOfStore(fault)) return
        // What something is thrown at is nobody's, and costs nothing else.
        for (const { id, isPerson } of visitsOfSend(statements, sendId)) {
          if (isPerson === null) tellVisit(statements, id, false)
        }
      }
    }
  }
  const later = () => {
    if (isEnded) return
    timer ??= setTimeout(() => {
      timer = null
      tellAll(Date.now() - waitMs)
      if (sendsToTell(statements, Date.now()).length > 0) later()
    }, waitMs + 10)
    timer.unref()
  }
  return {
    targetOf: (sendId, key) => linkTarget(statements, sendId, key),
    note(asked) {
      const send = readSend(statements, asked.sendId)
      const { links, opens } = send ? noticedOf(application, send) : { links: false, opens: false }
      if (!(asked.linkKey === null ? opens : links)) return
      // Whoever asks for one message more often than that tells nothing more.
      if (visitsOfSend(statements, asked.sendId).length >= mostVisits) return
      addVisit(statements, { ...asked, at: clock.now(), seenAt: Date.now() })
      later()
    },
    begin: later,
    async settled() {
      while (timer !== null) await new Promise((resolve) => setTimeout(resolve, 20))
    },
    end() {
      isEnded = true
      if (timer) clearTimeout(timer)
      timer = null
      return Promise.resolve()
    },
  }
}
