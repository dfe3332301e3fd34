import { sendIdIn } from '#core/engine/following/replan.ts'
import { messagesOfMbox } from './mbox.ts'

/** A mail that stands among those an account has sent. */
export interface SentMail {
  /** Of the message of this house it is; null: of somebody else's. */
  readonly sendId: string | null
  /** By its Date; null: it says none. */
  readonly at: number | null
  readonly to: string
}

/** A field of a header (RFC 5322 2.2), unfolded; empty: there is none. */
const fieldIn = (header: string, name: string): string =>
  new RegExp(`^${name}:([^\\n]*(?:\\n[ \\t][^\\n]*)*)`, 'im')
    .exec(header)?.[1]
    ?.replace(/\s+/g, ' ')
    .trim() ?? ''

function sentMail(source: string): SentMail {
  const end = source.indexOf('\n\n')
  const header = end < 0 ? source : source.slice(0, end)
  const at = Date.parse(fieldIn(header, 'Date').replace(/\([^)]*\)/g, ''))
  return {
    sendId: sendIdIn(fieldIn(header, 'Message-ID')),
    at: Number.isNaN(at) ? null : at,
    to: fieldIn(header, 'To').slice(0, 300),
  }
}

/** The mails of an account's sent folder, given out as an mbox or as one mail: by their headers alone. */
export const sentMails = (file: Buffer): readonly SentMail[] =>
  messagesOfMbox(file.toString('latin1')).map(sentMail)
