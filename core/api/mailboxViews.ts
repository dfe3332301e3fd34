import { z } from 'zod'
import { instant } from '../model/values.ts'

/* What lies in the made-up mailboxes of the built-in post office. */

export const mailLine = z.object({
  id: z.number().int(),
  receivedAt: instant,
  from: z.string(),
  subject: z.string(),
  /** The first words of the text. */
  beginning: z.string(),
})
export type MailLine = z.infer<typeof mailLine>

export const mailbox = z.object({ address: z.string(), messages: z.array(mailLine) })
export type MailboxView = z.infer<typeof mailbox>

export const mailView = mailLine.extend({
  address: z.string(),
  to: z.string(),
  messageId: z.string(),
  text: z.string(),
  hasHtml: z.boolean(),
  source: z.string(),
  /** The web links of its HTML part, with the words they stand behind. */
  links: z.array(z.object({ url: z.string(), words: z.string() })),
  /** Whether it has a picture that tells that it was opened. */
  tellsOpening: z.boolean(),
  attachments: z.array(z.object({ name: z.string(), type: z.string(), size: z.number().int() })),
})
export type MailView = z.infer<typeof mailView>
