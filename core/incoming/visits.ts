import { hourMs } from '../time/calendar.ts'

/*
 * Who asked for a link of a message, or for the picture that tells that it was opened: a person, or a program that looks at
 * mail beforehand. There is no sure sign; what is told of opens is uncertain in any case. Common practice, no source.
 */

/** Once something was asked for. */
export interface Visit {
  readonly id: number
  /** The link; null: the picture. */
  readonly linkKey: string | null
  /** Real time in milliseconds. */
  readonly seenAt: number
  /** Asked only whether it is there, as nobody does who reads. */
  readonly isHead: boolean
}

/** What comes this close together, in milliseconds, was asked for at one go. */
const atOneGoMs = 5000
/** So many different links at one go nobody follows. */
const mostAtOneGo = 2
/** What is asked for this soon after a message was handed over, in milliseconds, nobody has read yet. */
const unreadMs = 5000

/** How long one waits before it is told whose a visit was: what comes at one go with it belongs to it. */
export const settleMs = atOneGoMs

function isOneOfMany(visit: Visit, others: readonly Visit[]): boolean {
  const links = others.flatMap(({ linkKey, seenAt }) =>
    linkKey !== null && Math.abs(seenAt - visit.seenAt) <= atOneGoMs ? [linkKey] : [],
  )
  return new Set(links).size > mostAtOneGo
}

/**
 * Which of the visits of a message are a person's.
 *
 * @param handedOverAt Real time in milliseconds; null: not known.
 */
export function visitsOfPersons(visits: readonly Visit[], handedOverAt: number | null): ReadonlySet<number> {
  const own = visits.filter((visit) => {
    if (visit.isHead) return false
    if (handedOverAt !== null && visit.seenAt - handedOverAt < unreadMs) return false
    // A program that asks whether links are there follows them, too.
    const hasHead = visits.some(
      ({ isHead, seenAt }) => isHead && Math.abs(seenAt - visit.seenAt) <= atOneGoMs,
    )
    return !hasHead && !isOneOfMany(visit, visits)
  })
  return new Set(own.map(({ id }) => id))
}

/** A page that is left and opened again, or a picture that is fetched again, tells nothing new. Business time. */
const againMs = hourMs

/** Whether a person asked for the same shortly before. */
export const isAgain = (
  { id, linkKey, at }: Visit & { readonly at: number },
  others: readonly (Visit & { readonly at: number; readonly isPerson: boolean | null })[],
): boolean =>
  others.some(
    (one) => one.isPerson === true && one.linkKey === linkKey && one.id < id && at - one.at < againMs,
  )

/** Where a link leads, to be read: without what only programs read, and without what opens a page of the house. */
export const shownUrl = (url: string): string =>
  url
    .replace(/^https?:\/\//, '')
    .replace(/[?#].*$/, '')
    .replace(/^(\/\w+\/)[^/]+/, '$1…')
    .slice(0, 120)
