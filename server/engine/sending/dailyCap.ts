import { appendEvent } from '#core/engine/context.ts'
import { dailyCap, noCap, type DailyCap } from '#core/model/dailyCap.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import { fromJson } from '../../db/columns.ts'
import { sentSince } from '../../db/sendStore.ts'
import type { Statements } from '../../db/statements.ts'
import type { Application } from '../application.ts'

export const dailyCapKey = 'daily cap'

/** The cap as it is kept; what cannot be read is as if there were none, and is never more than what was set. */
export function readDailyCap(statements: Statements): DailyCap {
  const value = statements.one('readMeta', { key: dailyCapKey })?.['value']
  const parsed = dailyCap.safeParse(value === undefined ? noCap : fromJson(value))
  return parsed.success ? parsed.data : noCap
}

/** How many messages have left today that count for the cap, those on the wire too. */
export function countedToday({ store, settings, clock }: Application, { countsFrom }: DailyCap): number {
  const { business, zones } = settings.required()
  const zone = zones.zone(business.zone)
  const from = Math.max(instantAt(zone, dayAt(zone, clock.now()), 0), countsFrom)
  return sentSince(store.statements, from)
}

/** How many messages may still leave today; Infinity: any number. */
export function leftOfCap(application: Application): number {
  const cap = readDailyCap(application.store.statements)
  return cap.most === null ? Infinity : Math.max(0, cap.most - countedToday(application, cap))
}

/** Holds everything back where a message is due that the cap does not let go. True where it did. */
export function heldAtCap(application: Application): boolean {
  const { store, clock } = application
  const [due] = store.statements.all('dueMessages', { until: clock.now(), through: null })
  if (due === undefined) return false
  const cap = readDailyCap(store.statements)
  const sentence = `All sending was held back by itself: ${cap.most ?? 0} messages went today, and no more may go in a day.`
  application.apply([
    { kind: 'set sending', isOn: false },
    { kind: 'set daily cap', cap: { ...cap, reachedAt: clock.now() } },
    appendEvent(application.context(null), 'sending held back', {}, sentence),
  ])
  return true
}
