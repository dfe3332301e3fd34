import { z } from 'zod'
import { documentInput } from '../engine/commands/documentCommands.ts'
import { signableDocument, signing } from '../model/document.ts'
import { ask, change, changed, command, commandOn, end, made, tell } from './described.ts'

const documentView = z.object({
  document: signableDocument,
  /** How many times it was sent to be signed. */
  sent: z.number().int(),
  /** What goes by its name: letters that lead to it, sequences that start or stop on it. */
  namedBy: z.array(z.string()),
})
export type DocumentView = z.infer<typeof documentView>

/** A document that was sent to be signed. */
export const signingView = z.object({
  ...signing.pick({ id: true, hash: true, fixedAt: true, signed: true }).shape,
  name: z.string(),
})
export type SigningView = z.infer<typeof signingView>

/** Documents to sign. */
export const documentEndpoints = {
  document: ask({
    path: '/api/documents/:id',
    summary: 'A document to sign, and what goes by its name',
    answer: documentView,
  }),
  addDocument: tell({
    path: '/api/documents',
    summary: 'New document to sign',
    body: z.object({ ...command, document: documentInput }).strict(),
    answer: changed,
    access: 'owner',
  }),
  changeDocument: change({
    path: '/api/documents/:id',
    summary: 'Change a document to sign; what was sent stays as it was sent',
    body: z.object({ ...commandOn, document: documentInput }).strict(),
    answer: changed,
    access: 'owner',
  }),
  removeDocument: end({
    path: '/api/documents/:id',
    summary: 'Delete a document that was never sent',
    body: z.object(command).strict(),
    answer: made,
    access: 'owner',
  }),
} as const
