import { createHmac } from 'node:crypto'
import { Secret } from 'otpauth'
import type { Keys } from '../keys.ts'
import { isSameSecret } from '../signedLinks.ts'

/*
 * The mark of a message in the address its answers go to: `office+mark@…` (sub-addressing, RFC 5233). Mail servers may
 * change upper and lower case, so it is written in letters that do not mind (RFC 4648 6, in lower case, without padding).
 */

const signatureLength = 12

function signatureOf(sendId: string, key: string): string {
  const digest = createHmac('sha256', key).update(`answer to ${sendId}`).digest()
  return new Secret({ buffer: new Uint8Array(digest).buffer }).base32.toLowerCase().slice(0, signatureLength)
}

/** A UUID takes less room without its hyphens. */
const uuid = /^([0-9a-f]{8})-([0-9a-f]{4})-([0-9a-f]{4})-([0-9a-f]{4})-([0-9a-f]{12})$/
const bareUuid = /^([0-9a-f]{8})([0-9a-f]{4})([0-9a-f]{4})([0-9a-f]{4})([0-9a-f]{12})$/

const markOf = (sendId: string, key: string) =>
  `${sendId.slice(3).replace(uuid, '$1$2$3$4$5')}.${signatureOf(sendId, key)}`

/** RFC 5321 4.5.3.1.1: the part before the @ has at most 64 octets. */
const mostBefore = 64

/** An address with the mark of a message; the address as it is, where that would be too long. */
export function signedAddress(address: string, sendId: string, { links }: Pick<Keys, 'links'>): string {
  const at = address.lastIndexOf('@')
  const local = `${address.slice(0, at)}+${markOf(sendId, links)}`
  return local.length > mostBefore ? address : `${local}${address.slice(at)}`
}

/** The message whose mark an address carries; null: it carries none that was made here. */
export function sendIdOfAddress(
  address: string,
  { links, formerLinks }: Pick<Keys, 'links' | 'formerLinks'>,
): string | null {
  const [, id = '', given = ''] = /\+([A-Za-z0-9-]{1,60})\.([a-z2-7]{12})@/i.exec(address) ?? []
  const sendId = `sd_${id.toLowerCase().replace(bareUuid, '$1-$2-$3-$4-$5')}`
  const fits = (key: string) => isSameSecret(given.toLowerCase(), signatureOf(sendId, key))
  return id !== '' && (fits(links) || (formerLinks !== null && fits(formerLinks))) ? sendId : null
}
