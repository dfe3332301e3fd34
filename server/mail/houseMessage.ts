import type { OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { composeMessage } from './compose.ts'

/** A message of the house itself to somebody of the team: words alone. */
export type HouseMessage = Pick<OutgoingMessage, 'messageId' | 'from' | 'to' | 'subject' | 'text' | 'at'>

/** Its RFC 5322 message. */
export function composeHouseMessage(message: HouseMessage): Promise<Buffer> {
  return composeMessage({
    ...message,
    replyTo: null,
    html: null,
    pictureIds: [],
    files: [],
    appointment: null,
    optOutUrl: null,
    told: { booking: null, lines: null },
    toSign: [],
  })
}
