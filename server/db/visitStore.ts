import type { Visit } from '#core/incoming/visits.ts'
import type { KeyedLink } from '#core/letters/noticedLinks.ts'
import { flag, isSet } from './columns.ts'
import type { Statements } from './statements.ts'

/** A visit with when it was, where it led, and whose it was; null: not told yet. */
export interface KeptVisit extends Visit {
  /** Business time. */
  readonly at: number
  readonly url: string | null
  readonly isPerson: boolean | null
}

export function putLinks(statements: Statements, sendId: string, links: readonly KeyedLink[]) {
  for (const { key, url } of links) statements.run('putMessageLink', { sendId, key, url })
}

/** Where a link of a message leads; null: it has no such link. */
export function linkTarget(statements: Statements, sendId: string, key: string): string | null {
  const url = statements.one('messageLink', { sendId, key })?.url
  return typeof url === 'string' ? url : null
}

export function addVisit(
  statements: Statements,
  visit: Omit<Visit, 'id'> & { readonly sendId: string; readonly at: number },
) {
  statements.run('addVisit', { ...visit, isHead: flag(visit.isHead) })
}

/** So many are noted of one message, and no more. */
export const mostVisits = 200

/** What is known of a message, the last first. */
export const visitsOfSend = (statements: Statements, sendId: string): readonly KeptVisit[] =>
  statements
    .all('visitsOfSend', { sendId, limit: mostVisits })
    .map(({ id, linkKey, at, seenAt, isHead, isPerson, url }) => ({
      id: Number(id),
      linkKey: typeof linkKey === 'string' ? linkKey : null,
      at: Number(at),
      seenAt: Number(seenAt),
      isHead: isSet(isHead),
      isPerson: isPerson === null ? null : isSet(isPerson),
      url: typeof url === 'string' ? url : null,
    }))

/** Messages with visits, up to a moment of real time, of which nothing was told. */
export const sendsToTell = (statements: Statements, until: number): readonly string[] =>
  statements.all('sendsWithVisitsToTell', { until }).map(({ sendId }) => String(sendId))

export function tellVisit(statements: Statements, id: number, isPerson: boolean) {
  statements.run('tellVisit', { id, isPerson: flag(isPerson) })
}

/** Whether it is not noticed what a client opens and follows. */
export const isUnnoticed = (statements: Statements, clientId: string): boolean =>
  statements.one('isUnnoticed', { clientId }) !== undefined

export function setClientNoticed(statements: Statements, clientId: string, isNoticed: boolean) {
  if (isNoticed) statements.run('forgetUnnoticed', { clientId })
  else statements.run('putUnnoticed', { clientId })
}
