import { createHash } from 'node:crypto'
import { headerFields, messageIdsIn } from '#core/incoming/mail.ts'
import { headerBlock } from './readMail.ts'

const hash = (...parts: readonly (string | Buffer)[]) => {
  const made = createHash('sha256')
  for (const part of parts) made.update(part).update('\n')
  return made.digest('base64url')
}

const saidIn = (block: string) => {
  const fields = headerFields(block)
  return (name: string) => fields[name]?.[0] ?? ''
}

/** The key of a mail by its Message-ID; null: it has none. */
function keyById(said: (name: string) => string): string | null {
  const [messageId] = messageIdsIn(said('message-id'))
  return messageId === undefined ? null : hash('id', messageId, said('from'), said('date'))
}

/** The key of a mail of which only the header is known; without a Message-ID it is another than that of the whole mail. */
export function keyOfHeader(header: Buffer): string {
  const block = headerBlock(header)
  return keyById(saidIn(block)) ?? hash('header', block)
}

/**
 * What tells a mail from every other: its Message-ID with sender and date, which stand the same however often and by
 * whichever way it comes. Without a Message-ID all of it but the lines that mail servers add on the way.
 */
export function keyOf(source: Buffer): string {
  const block = headerBlock(source)
  const said = saidIn(block)
  const own = ['from', 'to', 'date', 'subject', 'content-type'].map(said)
  return keyById(said) ?? hash('whole', ...own, source.subarray(block.length))
}
