import MailComposer from 'nodemailer/lib/mail-composer'
import type { OutgoingMessage } from '#core/engine/checkAtSending.ts'

/**
 * The RFC 5322 message of an outgoing message: multipart/alternative with a plain-text and an HTML part.
 * Auto-Submitted says that no person typed it (RFC 3834 5), so that automatic answers stay away.
 */
export async function composeMessage(message: OutgoingMessage): Promise<Buffer> {
  const composer = new MailComposer({
    messageId: message.messageId,
    date: new Date(message.at),
    from: message.from,
    to: message.to,
    subject: message.subject,
    text: message.text,
    html: message.html,
    headers: { 'Auto-Submitted': 'auto-generated' },
    disableFileAccess: true,
    disableUrlAccess: true,
  })
  return await composer.compile().build()
}
