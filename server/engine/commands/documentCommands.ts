import {
  putDocument,
  removeDocument,
  signDocument,
  type DocumentChange,
  type GivenSignature,
} from '#core/engine/commands/documentCommands.ts'
import type { Signing } from '#core/model/document.ts'
import { done, refused, type Result } from '#core/model/problem.ts'
import { lastSigning } from '../../db/documentStore.ts'
import { focusOn } from '../../db/livingStore.ts'
import type { Application, CommandCall } from '../application.ts'
import { usesOfDocument } from '../uses.ts'
import { onClient, type Changed } from './onClient.ts'

/** Documents written, and signed by clients. */
export function createDocumentCommands(application: Application) {
  const { statements } = application.store
  return {
    putDocument: (call: CommandCall, change: DocumentChange): Result<Changed> =>
      application.command(call, (context, settings) => {
        const put = putDocument(settings, change, usesOfDocument(application, change.id), context)
        if (!put.ok) return put
        const [first] = put.value
        const { id = '', revision = 0 } = first?.kind === 'put document' ? first.document : {}
        return done({ effects: put.value, answer: { id, revision } })
      }),
    removeDocument: (call: CommandCall, id: string) =>
      application.command(call, (context, settings) => {
        const sent = Number(statements.one('sentOfDocument', { documentId: id })?.['count'] ?? 0)
        const decided = removeDocument(settings, id, usesOfDocument(application, id), sent, context)
        return decided.ok ? done({ effects: decided.value, answer: { id } }) : decided
      }),
    /** What was read is signed, with the copy made of it; refused where another text was sent since. */
    signDocument: (
      call: CommandCall,
      read: Signing,
      given: GivenSignature,
      pdf: Uint8Array,
    ): Result<{ id: string }> =>
      application.command(call, (context) => {
        const present = lastSigning(statements, read.subject.id, read.document.documentId)
        if (!present) return refused('not found', 'There is no such document.')
        return onClient(
          application,
          present.clientId,
          focusOn(present.subject.id),
          'There is no such client.',
          (slice) => signDocument(slice, present, given, pdf, context),
          () => ({ id: present.id }),
        )
      }),
  }
}
