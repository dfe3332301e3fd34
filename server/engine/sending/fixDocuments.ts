import { createHash } from 'node:crypto'
import type { OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { textToSign, type FixedDocument } from '#core/model/document.ts'
import type { Send } from '#core/model/send.ts'
import { aboutOf } from '#core/planning/about.ts'
import type { ClientFacts } from '#core/planning/slice.ts'
import { lastSigning } from '../../db/documentStore.ts'
import type { Application } from '../application.ts'

/** SHA-256 (FIPS 180-4) of all that is signed of a document, in hexadecimal. */
export const hashOfDocument = (document: FixedDocument) =>
  createHash('sha256').update(textToSign(document)).digest('hex')

/** What a document is about whose message is about something: the booking of an invoice, not the invoice. */
function subjectOf({ subject, clientId }: Send, facts: ClientFacts) {
  const { booking, enquiry } = aboutOf(subject, facts)
  if (booking) return { kind: 'booking', id: booking.id } as const
  return enquiry
    ? ({ kind: 'enquiry', id: enquiry.id } as const)
    : ({ kind: 'client', id: clientId } as const)
}

/**
 * What a message asks to be signed is fixed as it is sent: kept before it leaves, within the transaction of its claim.
 * Said again in the same words it is the same document, signed or not; in others it is to be signed anew.
 */
export function fixDocuments(
  application: Application,
  send: Send,
  { toSign }: Pick<OutgoingMessage, 'toSign'>,
  facts: ClientFacts,
) {
  const context = application.context(null)
  const subject = subjectOf(send, facts)
  for (const document of toSign) {
    const hash = hashOfDocument(document)
    const last = lastSigning(application.store.statements, subject.id, document.documentId)
    if (last?.hash === hash) continue
    const id = context.newId('sg')
    const { clientId } = send
    const signing = { id, clientId, subject, document, hash, fixedAt: context.now, signed: null }
    application.apply([{ kind: 'put signing', signing, pdf: null }])
  }
}
