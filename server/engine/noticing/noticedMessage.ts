import { createHash } from 'node:crypto'
import type { OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { withNoticedLinks, withOpeningPicture, type KeyedLink } from '#core/letters/noticedLinks.ts'
import type { Send } from '#core/model/send.ts'
import type { Noticing } from '#core/model/noticing.ts'
import { isUnnoticed, putLinks } from '../../db/visitStore.ts'
import { idOfToken } from '../../mail/signedLinks.ts'
import type { Application } from '../application.ts'

/** A message and one of its links, as the token of that link names them. */
export const linkId = (sendId: string, key: string) => `${sendId}~${key}`

/** A link of a message by the token that leads from it; null: it was not made here. */
export function linkOfToken(
  token: string,
  keys: Parameters<typeof idOfToken>[2],
): { readonly sendId: string; readonly linkKey: string } | null {
  const [sendId, linkKey] = idOfToken('followed link', token, keys)?.split('~') ?? []
  return sendId === undefined || linkKey === undefined ? null : { sendId, linkKey }
}

const nothing: Noticing = { links: false, opens: false }

/** What is noticed of a message: it can be switched off for the business, the letter and the client. */
export function noticedOf({ store, settings }: Application, { clientId, letterId }: Send): Noticing {
  const { letters, noticing } = settings.required()
  // Asked in the order of what it costs: this is on the way of every message.
  const isOff =
    (!noticing.links && !noticing.opens) ||
    letters.find(({ id }) => id === letterId)?.isUnnoticed === true ||
    isUnnoticed(store.statements, clientId)
  return isOff ? nothing : noticing
}

/** Short enough for a link, and the same for the same address. */
const keyOf = (url: string) => createHash('sha256').update(url).digest('base64url').slice(0, 10)

/** Pages of the house itself are found where it is by then, even if it has another address. */
const withoutHouse =
  (house: string) =>
  ({ key, url }: KeyedLink): KeyedLink => ({
    key,
    url: url.startsWith(`${house}/`) ? url.slice(house.length) : url,
  })

/**
 * A message as it goes: its links lead through ours where they are noticed, and where they lead is written down, within a
 * transaction, before it leaves. Its text part and messages that are text alone stay as they are.
 */
export function noticedMessage(
  application: Application,
  send: Send,
  message: OutgoingMessage,
): OutgoingMessage {
  if (message.html === null) return message
  const { clientLinks } = application.settings.required()
  const { links: noticesLinks, opens } = noticedOf(application, send)
  let { html } = message
  if (noticesLinks) {
    const noticed = withNoticedLinks(html, {
      keyOf,
      through: (key) => clientLinks.followed(send.id, key),
      // Who wants nothing more is not looked at on the way out.
      isLeft: (url) => url === clientLinks.optOut(send.clientId),
    })
    const house = new URL(clientLinks.optOut(send.clientId)).origin
    putLinks(application.store.statements, send.id, noticed.links.map(withoutHouse(house)))
    html = noticed.html
  }
  if (opens) html = withOpeningPicture(html, clientLinks.opened(send.id))
  return { ...message, html }
}
