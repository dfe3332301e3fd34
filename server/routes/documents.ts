import type { Router } from 'express'
import type { DocumentView, SigningView } from '#core/api/documentEndpoints.ts'
import { endpoints } from '#core/api/endpoints.ts'
import { fileEndpoints } from '#core/api/fileEndpoints.ts'
import { signedCopy, signingsOf } from '../db/documentStore.ts'
import type { Statements } from '../db/statements.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { usesOfDocument } from '../engine/uses.ts'
import { Refusal } from '../http/problems.ts'
import { give, serve, valueOf } from './route.ts'

/** What was sent to be signed about a booking or an enquiry. */
export const signingViews = (statements: Statements, subjectId: string): SigningView[] =>
  signingsOf(statements, subjectId).map(({ id, hash, fixedAt, signed, document: { name } }) => ({
    id,
    hash,
    fixedAt,
    signed,
    name,
  }))

function documentView(application: Application, id: string): DocumentView {
  const document = application.settings.required().documents.find((one) => one.id === id)
  if (!document) throw new Refusal('not found', 'There is no such document any more.')
  const row = application.store.statements.one('sentOfDocument', { documentId: id })
  return { document, sent: Number(row?.['count'] ?? 0), namedBy: [...usesOfDocument(application, id)] }
}

/** Documents to sign: written, looked at, and the signed copies. */
export function documentRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.document, ({ parameters }) => documentView(application, parameters.id))
  serve(router, statements, endpoints.addDocument, ({ body, called }) =>
    valueOf(commands.putDocument(called('addDocument'), { id: null, revision: 0, document: body.document })),
  )
  serve(router, statements, endpoints.changeDocument, ({ parameters: { id }, body, called }) => {
    const { revision, document } = body
    return valueOf(commands.putDocument(called('changeDocument'), { id, revision, document }))
  })
  serve(router, statements, endpoints.removeDocument, ({ parameters: { id }, called }) =>
    valueOf(commands.removeDocument(called('removeDocument'), id)),
  )
  give(router, statements, fileEndpoints.signedCopy, ({ parameters: { id }, response }) => {
    const pdf = signedCopy(statements, id)
    if (!pdf) throw new Refusal('not found', 'It is not signed.')
    response.type('application/pdf').send(pdf)
  })
}
