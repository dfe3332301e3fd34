import { setImmediate as breathe } from 'node:timers/promises'
import { simpleParser } from 'mailparser'
import { addMonths } from '#core/time/calendar.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import { letGoOfSource, packSome, sourcesBetween, type AgedSource } from '../../db/messageStore.ts'
import type { Statements } from '../../db/statements.ts'
import type { Application } from '../application.ts'

/*
 * E-mails as they went are kept packed, and let go of when they have come of age: their text stays. It is done beside
 * everything else, few at a time, once a day of business time and whenever the age is set anew.
 */

const fewAtATime = 50
/** Up to which message they have been let go of, as `moment|id`. */
const upToKey = 'sources let go of up to'

/** The moment before which e-mails are no longer kept as they went. */
export function agedBefore({ clock, settings }: Application, months: number): number {
  const { business, zones } = settings.required()
  const zone = zones.zone(business.zone)
  return instantAt(zone, addMonths(dayAt(zone, clock.now()), -months), 0)
}

/** How far it has come. */
export function letGoUpTo(statements: Statements): { after: number; afterId: string } {
  const value = statements.one('readMeta', { key: upToKey })?.['value']
  const [after = '0', afterId = ''] = typeof value === 'string' ? value.split('|') : []
  return { after: Number(after), afterId }
}

/** What cannot be read has no text: that it went, and when, stays all the same. */
async function textOf({ source }: AgedSource): Promise<string> {
  return source ? ((await simpleParser(source).catch(() => null))?.text ?? '') : ''
}

async function letGoOfSome({ store }: Application, upTo: number): Promise<number> {
  const { statements } = store
  const aged = sourcesBetween(statements, { ...letGoUpTo(statements), upTo, most: fewAtATime })
  const texts = await Promise.all(aged.map(textOf))
  const last = aged.at(-1)
  if (!last) return 0
  store.transaction(() => {
    aged.forEach(({ sendId, source }, index) => {
      if (source) letGoOfSource(statements, sendId, texts[index] ?? '')
    })
    statements.run('writeMeta', { key: upToKey, value: `${last.sentAt}|${last.sendId}` })
  })
  return aged.length
}

export interface SourceKeeping {
  /** Begins, where it is not under way already. */
  begin(): void
  end(): Promise<void>
}

export function createSourceKeeping(
  application: Application,
  onFault: (fault: unknown) => void,
): SourceKeeping {
  const { statements } = application.store
  let isEnded = false
  let underWay: Promise<void> | null = null
  let doneFor = ''

  const goOn = async (step: () => number | Promise<number>) => {
    while (!isEnded && (await step()) > 0) await breathe()
  }
  const keep = async (upTo: number | null) => {
    await goOn(() => application.store.transaction(() => packSome(statements, fewAtATime)))
    if (upTo !== null) await goOn(() => letGoOfSome(application, upTo))
  }
  const begin = () => {
    if (isEnded || underWay || !application.settings.current()) return
    const months = statements.one('readSourcesKept')?.['months']
    const upTo = typeof months === 'number' ? agedBefore(application, months) : null
    if (doneFor === String(upTo)) return
    doneFor = String(upTo)
    underWay = keep(upTo)
      .catch(onFault)
      .finally(() => {
        underWay = null
      })
  }
  const forget = application.changes.subscribe((topics) => {
    if (topics.includes('clock') || topics.includes('sending')) begin()
  })
  return {
    begin,
    async end() {
      isEnded = true
      forget()
      await underWay
    },
  }
}
