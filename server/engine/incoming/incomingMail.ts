import { setTimeout as pause } from 'node:timers/promises'
import { hasIncomingToTakeUp, nextIncoming, storeIncoming, type WayIn } from '../../db/incomingStore.ts'
import { keyOf } from '../../mail/incoming/keyOf.ts'
import { createReader, type Reader } from '../../mail/incoming/reader.ts'
import type { Application } from '../application.ts'
import { newId } from '../ids.ts'
import { takeUp } from './takeUp.ts'

/** How soon taking up is tried again when something was thrown at it. Real time. */
const againMs = 500

const stuck =
  'Mail that came in cannot be taken up, so nothing goes out: it could be what an answer stops. It is tried again and again.'

/** Mail as it comes in: stored whole first, then taken up one by one in the order it came. */
export interface IncomingMail {
  /** Stores a mail; from then on it is never lost. Returns whether it is new. */
  take(source: Buffer, way: WayIn): boolean
  /** Whether something was stored and nothing has followed from it: until then nothing is claimed. */
  isBehind(): boolean
  /** Why what was stored is not taken up, and since when in business time; null: it is. */
  trouble(): { readonly sentence: string; readonly since: number } | null
  /** What reads mail of strangers, for those who show parts of it. */
  readonly reader: Reader
  /** Takes up what was stored, soon. */
  soon(): void
  /** Resolves when all that was stored is taken up, or something is thrown at that. */
  settled(): Promise<void>
  end(): Promise<void>
}

export interface IncomingParts {
  readonly application: Application
  readonly onFault: (fault: unknown) => void
  /** Told when something was taken up. */
  readonly onTakenUp: () => void
  readonly reader?: Reader
}

export function createIncomingMail({
  application,
  onFault,
  onTakenUp,
  reader = createReader(),
}: IncomingParts): IncomingMail {
  const { store, clock, settings } = application
  const { statements } = store
  let isEnded = false
  let work: Promise<void> | null = null
  let since: number | null = null

  const takeUpAll = async () => {
    while (!isEnded && settings.current()) {
      try {
        const stored = nextIncoming(statements)
        if (!stored) return
        const mail = await reader.read(stored.source, stored.way)
        takeUp(application, stored, mail, onFault)
        since = null
        onTakenUp()
      } catch (fault) {
        since ??= clock.now()
        onFault(fault)
        await pause(againMs)
      }
    }
  }
  const soon = () => {
    if (isEnded) return
    work ??= takeUpAll().finally(() => {
      work = null
    })
  }
  return {
    take(source, way) {
      const key = keyOf(source)
      const isNew = storeIncoming(statements, { id: newId('im'), key, cameAt: clock.now(), way, source })
      if (!isNew) return false
      application.arrivals.note()
      soon()
      return true
    },
    isBehind: () => hasIncomingToTakeUp(statements),
    trouble: () => (since === null ? null : { sentence: stuck, since }),
    reader,
    soon,
    async settled() {
      // What gets no further is waited for by nobody: it says so in Trouble.
      while (work && since === null) await Promise.race([work, pause(20)])
    },
    async end() {
      isEnded = true
      await work?.catch(onFault)
      await reader.end()
    },
  }
}
