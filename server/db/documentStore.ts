import { signableDocument, signing, type SignableDocument, type Signing } from '#core/model/document.ts'
import { asJson, fromJson, kept } from './columns.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

export const readDocuments = (statements: Statements): SignableDocument[] =>
  readRows(statements, 'document', statements.all('allDocuments'), ({ documentJson }) =>
    signableDocument.parse(fromJson(documentJson)),
  )

export function putDocument(statements: Statements, put: SignableDocument) {
  statements.run('putDocument', { id: put.id, documentJson: asJson(kept(signableDocument, put)) })
}

/** Whose it is by now stands in the row: clients can have become one since. */
const asSigning = ({ signingJson, clientId }: Readonly<Record<string, unknown>>) =>
  signing.parse({ ...(fromJson(signingJson) as object), clientId })

/** The document somebody was sent last about something; null: none, or it cannot be read. */
export function lastSigning(statements: Statements, subjectId: string, documentId: string): Signing | null {
  const rows = statements.all('lastSigning', { subjectId, documentId })
  return readRows(statements, 'document to sign', rows, asSigning)[0] ?? null
}

/** What was sent to be signed about something, the latest first. */
export const signingsOf = (statements: Statements, subjectId: string): readonly Signing[] =>
  readRows(statements, 'document to sign', statements.all('signingsOf', { subjectId }), asSigning)

export function putSigning(statements: Statements, put: Signing, pdf: Uint8Array | null) {
  const { id, clientId, subject, document, fixedAt } = put
  statements.run('putSigning', {
    id,
    documentId: document.documentId,
    clientId,
    subjectId: subject.id,
    fixedAt,
    signingJson: asJson(kept(signing, put)),
    pdf: pdf === null ? null : Buffer.from(pdf),
  })
}

/** The signed copy; null: it is not signed. */
export function signedCopy(statements: Statements, id: string): Buffer | null {
  const pdf = statements.one('signedCopy', { id })?.['pdf']
  return Buffer.isBuffer(pdf) ? pdf : null
}
