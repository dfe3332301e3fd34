import { createHash } from 'node:crypto'
import { headerFields, messageIdsIn } from '#core/incoming/mail.ts'
import { headerBlock } from './readMail.ts'

const hash = (...parts: readonly (string | Buffer)[]) => {
  const made = createHash('sha256')
  for (const part of parts) made.update(part).update('\n')
  return made.digest('base64url')
}

/**
 * What tells a mail from every other: its Message-ID with sender and date, which stand the same however often and by
 * whichever way it comes. Without a Message-ID all of it but the lines that mail servers add on the way.
 */
export function keyOf(source: Buffer): string {
  const block = headerBlock(source)
  const fields = headerFields(block)
  const said = (name: string) => fields[name]?.[0] ?? ''
  const [messageId] = messageIdsIn(said('message-id'))
  if (messageId !== undefined) return hash('id', messageId, said('from'), said('date'))
  const own = ['from', 'to', 'date', 'subject', 'content-type'].map(said)
  return hash('whole', ...own, source.subarray(block.length))
}
