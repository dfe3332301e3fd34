import MailComposer from 'nodemailer/lib/mail-composer'
import type { Attachment } from 'nodemailer/lib/mailer'
import type { OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import type { StoredFile } from '../db/letterStore.ts'
import { calendarFile, methodOf } from './calendarFile.ts'

/** Promotional messages can be ended at one press (RFC 2369 3.2, RFC 8058 3.1). */
function optOutHeaders({ optOutUrl }: OutgoingMessage): Record<string, string> {
  if (optOutUrl === null || optOutUrl === '') return {}
  return { 'List-Unsubscribe': `<${optOutUrl}>`, 'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click' }
}

type FileOf = (id: string) => StoredFile | null

function attachmentsOf({ pictureIds, files }: OutgoingMessage, fileOf: FileOf): Attachment[] {
  const pictures = pictureIds.flatMap((id): Attachment[] => {
    const file = fileOf(id)
    if (!file) return []
    return [{ filename: file.name, contentType: file.type, content: file.bytes, cid: `${id}@vorfreude` }]
  })
  const stored = files.flatMap(({ id, name }): Attachment[] => {
    const file = fileOf(id)
    return file ? [{ filename: name, contentType: file.type, content: file.bytes }] : []
  })
  return [...pictures, ...stored]
}

/** The appointment, beside the words for calendars and as a file for people (RFC 6047, 2.4). */
function invitation({ appointment, at, to }: OutgoingMessage) {
  if (appointment === null) return {}
  const content = calendarFile(appointment, at, to)
  return { icalEvent: { method: methodOf(appointment, to), filename: 'appointment.ics', content } }
}

/**
 * The RFC 5322 message of an outgoing message: multipart/alternative with a plain-text and an HTML part, or plain text
 * alone for a telephone.
 * Auto-Submitted says that no person typed it (RFC 3834 5), so that automatic answers stay away.
 */
export async function composeMessage(message: OutgoingMessage, fileOf: FileOf = () => null): Promise<Buffer> {
  const composer = new MailComposer({
    messageId: message.messageId,
    date: new Date(message.at),
    from: message.from,
    to: message.to,
    subject: message.subject,
    text: message.text,
    ...(message.html === null ? {} : { html: message.html }),
    ...(message.replyTo === null ? {} : { replyTo: message.replyTo }),
    headers: { 'Auto-Submitted': 'auto-generated', ...optOutHeaders(message) },
    attachments: attachmentsOf(message, fileOf),
    ...invitation(message),
    disableFileAccess: true,
    disableUrlAccess: true,
    // As on the wire (RFC 5322 2.1): what is kept is what went.
    newline: 'windows',
  })
  return await composer.compile().build()
}
