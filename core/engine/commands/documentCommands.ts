import { z } from 'zod'
import {
  documentId,
  signableDocument,
  signature,
  type SignableDocument,
  type Signing,
} from '../../model/document.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings, Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { happened } from './dealingCommands.ts'
import { elsewhere } from './settingsFault.ts'

/* Documents to sign: as they are written, and as clients sign them. */

export const documentInput = signableDocument.omit({ id: true, revision: true })
export type DocumentInput = z.infer<typeof documentInput>

/** A document is added or changed, on the revision that was decided on. */
export const documentChange = z
  .object({
    /** Null: a new one. */
    id: documentId.nullable(),
    revision: z.number().int(),
    document: documentInput,
  })
  .strict()
export type DocumentChange = z.infer<typeof documentChange>

type Decided = Result<readonly Effect[]>

/** A document as it is put: what was sent before stays as it was sent. `namedBy`: letters and sequences that go by its name. */
export function putDocument(
  settings: Settings,
  { id, revision, document: input }: DocumentChange,
  namedBy: readonly string[],
  context: EngineContext,
): Decided {
  const present = settings.documents.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such document any more.')
  if (present && present.revision !== revision) return elsewhere()
  const isTaken = settings.documents.some(
    (one) => one.id !== id && one.name.toLowerCase() === input.name.toLowerCase(),
  )
  if (isTaken) return refused('invalid', `There is a document “${input.name}” already.`, 'name')
  if (present && present.name !== input.name && namedBy.length > 0) {
    const names = namedBy.join(', ')
    return refused('not allowed now', `“${present.name}” is named by ${names}. Change that first.`, 'name')
  }
  const put: SignableDocument = {
    ...input,
    id: id ?? context.newId('dc'),
    revision: (present?.revision ?? 0) + 1,
  }
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put document', document: put },
    appendEvent(context, 'settings changed', { name: put.name }, `Document ${deed}: ${put.name}.`),
  ])
}

/** A document that nobody was sent and nothing goes by is deleted. */
export function removeDocument(
  settings: Settings,
  id: string,
  namedBy: readonly string[],
  sent: number,
  context: EngineContext,
): Decided {
  const present = settings.documents.find((one) => one.id === id)
  if (!present) return refused('not found', 'There is no such document any more.')
  if (namedBy.length > 0) {
    return refused('not allowed now', `It is named by ${namedBy.join(', ')}. Archive it instead.`)
  }
  if (sent > 0) return refused('not allowed now', 'It has been sent to somebody. Archive it instead.')
  return done([
    { kind: 'remove document', id },
    appendEvent(context, 'settings changed', { name: present.name }, `Document deleted: ${present.name}.`),
  ])
}

/** What a client gives to sign. */
export interface GivenSignature {
  readonly typedName: string
  readonly address: string
  /** The hash of the text that was read. */
  readonly hash: string
  readonly at: number
}

/** A client signs what they have read: refused where it says something else by now, or is signed already. */
export function signDocument(
  slice: Slice,
  present: Signing,
  { typedName, address, hash, at }: GivenSignature,
  pdf: Uint8Array,
  context: EngineContext,
): Decided {
  if (present.signed !== null) return refused('not allowed now', 'It is signed already.')
  if (present.hash !== hash) return refused('changed meanwhile', 'It says something else by now.')
  const signed = signature.safeParse({ at, typedName, address })
  if (!signed.success) return refused('invalid', 'Please type your name.', 'typedName')
  const { name } = present.document
  const { clientId } = present
  const put: Effect = { kind: 'put signing', signing: { ...present, signed: signed.data }, pdf }
  const words = `“${name}” was signed by ${signed.data.typedName}.`
  const happening = { kind: 'signed', name, at: context.now } as const
  const told = appendEvent(context, 'document signed', { clientId, subject: present.subject, name }, words)
  const facts = withEffects(slice.facts, [put])
  return done([
    put,
    told,
    ...conclude({ ...slice, facts }, happened(clientId, happening, context, words), context),
  ])
}
