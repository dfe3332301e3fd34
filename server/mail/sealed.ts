import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto'

/*
 * What must not be read by who gets hold of the database, such as passwords: sealed with AES-256-GCM (NIST SP 800-38D) by
 * a key that lies outside it. A seal that was made with another key, or was altered, does not open.
 */

const way = 'aes-256-gcm'
/** SP 800-38D 8.2.2: 96 bits, random. */
const nonceBytes = 12
const version = 'v1'

/** Seals a text with a key of 64 hexadecimal digits. */
export function seal(text: string, key: string): string {
  const nonce = randomBytes(nonceBytes)
  const cipher = createCipheriv(way, Buffer.from(key, 'hex'), nonce)
  const sealed = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()])
  return [version, ...[nonce, cipher.getAuthTag(), sealed].map((part) => part.toString('base64url'))].join(
    '.',
  )
}

/** The text of a seal; null: it was made with another key, or altered. */
export function unseal(sealed: string, key: string): string | null {
  const [made, ...parts] = sealed.split('.')
  const [nonce, tag, text] = parts.map((part) => Buffer.from(part, 'base64url'))
  if (made !== version || !nonce || !tag || !text) return null
  try {
    const decipher = createDecipheriv(way, Buffer.from(key, 'hex'), nonce, { authTagLength: 16 })
    decipher.setAuthTag(tag)
    return Buffer.concat([decipher.update(text), decipher.final()]).toString('utf8')
  } catch {
    return null
  }
}

/** A password as it is kept: sealed, or none. */
export interface OpenedPassword {
  /** Null: there is none, or it cannot be read any more. */
  readonly password: string | null
  /** There is one, sealed with another key. */
  readonly isUnreadable: boolean
}

/** Opens a password that is kept; null: there is none. */
export function openedPassword(sealed: string | null, key: string): OpenedPassword {
  const password = sealed === null ? null : unseal(sealed, key)
  return { password, isUnreadable: sealed !== null && password === null }
}
