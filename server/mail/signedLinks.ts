import { createHmac, timingSafeEqual } from 'node:crypto'

/** What a link of a message lets its bearer do: choose what to get, or see to one booking. */
export type LinkPurpose = 'opt-out' | 'booking'

/** A token that names a client or a booking and that nobody without the secret can make. */
export function signedToken(purpose: LinkPurpose, id: string, secret: string): string {
  const signature = createHmac('sha256', secret).update(`${purpose} ${id}`).digest('base64url')
  return `${id}.${signature}`
}

/** What a token names; null: it was not made here, or for something else. */
export function idOfToken(purpose: LinkPurpose, token: string, secret: string): string | null {
  const id = token.slice(0, token.indexOf('.'))
  const right = Buffer.from(signedToken(purpose, id, secret))
  const given = Buffer.from(token)
  return right.length === given.length && timingSafeEqual(right, given) ? id : null
}
