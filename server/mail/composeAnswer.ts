import MailComposer from 'nodemailer/lib/mail-composer'
import type { WrittenAnswer } from '#core/model/writtenAnswer.ts'

/**
 * The RFC 5322 message of an answer that a person wrote: plain text with what it answers quoted under it, in its thread
 * (3.6.4). A person typed it, so it says nothing of a program (RFC 3834 5).
 */
export async function composeAnswer(answer: WrittenAnswer): Promise<Buffer> {
  const inReplyTo = answer.references.at(-1)
  const composer = new MailComposer({
    messageId: answer.messageId,
    date: new Date(answer.at),
    from: answer.from,
    to: answer.to,
    subject: answer.subject,
    text: `${answer.text}\n\n${answer.quoted}\n`,
    ...(answer.replyTo === null ? {} : { replyTo: answer.replyTo }),
    ...(inReplyTo === undefined ? {} : { inReplyTo, references: [...answer.references] }),
    disableFileAccess: true,
    disableUrlAccess: true,
    newline: 'windows',
  })
  return await composer.compile().build()
}
