import { createHmac, timingSafeEqual } from 'node:crypto'
import type { ClientAct } from '#core/model/clientAct.ts'
import type { Keys } from './keys.ts'

/**
 * What a link lets its bearer do: choose what to get, see to one booking or to all, one act with a booking alone, pay an
 * invoice, read a calendar of the team; or when a form was given out, and what a message's own links lead to.
 */
export type LinkPurpose =
  | 'opt-out'
  | 'booking'
  | ClientAct
  | 'all bookings'
  | 'pay'
  | 'sign'
  | 'calendar feed'
  | 'form'
  | 'followed link'
  | 'opened'

const between = '~'

/** What a link to sign names: a document, and what it is about. */
export const signingKey = (subjectId: string, documentId: string) => `${subjectId}${between}${documentId}`

/** What a document is about, and which it is; null: neither. */
export function keyOfSigning(id: string): { readonly subjectId: string; readonly documentId: string } | null {
  const [subjectId = '', documentId = ''] = id.split(between)
  return subjectId === '' || documentId === '' ? null : { subjectId, documentId }
}

function signed(purpose: LinkPurpose, id: string, key: string): string {
  const signature = createHmac('sha256', key).update(`${purpose} ${id}`).digest('base64url')
  return `${id}.${signature}`
}

/** A token that names a client or a booking and that nobody without the key can make. */
export function signedToken(purpose: LinkPurpose, id: string, { links }: Pick<Keys, 'links'>): string {
  return signed(purpose, id, links)
}

/** Whether two texts are the same, in a time that does not tell how far they are. */
export function isSameSecret(one: string, other: string): boolean {
  const [given, right] = [Buffer.from(one), Buffer.from(other)]
  return given.length === right.length && timingSafeEqual(given, right)
}

/** What a token names; null: it was not made here, or for something else. */
export function idOfToken(
  purpose: LinkPurpose,
  token: string,
  { links, formerLinks }: Pick<Keys, 'links' | 'formerLinks'>,
): string | null {
  const id = token.slice(0, token.indexOf('.'))
  const fits = (key: string) => isSameSecret(token, signed(purpose, id, key))
  return fits(links) || (formerLinks !== null && fits(formerLinks)) ? id : null
}
