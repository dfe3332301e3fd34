import type { FixedDocument, SignableDocument } from '../model/document.ts'
import {
  documentOfSignField,
  isSignField,
  type FieldName,
  type Letter,
  type Passage,
} from '../model/letter.ts'
import type { MergeFacts } from './fields.ts'
import { fieldsIn, mergeWords } from './merge.ts'

/** A document with its fields filled in for one reader, or the fields that are missing. */
export function fixed(
  { id: documentId, name, language, paragraphs, consent }: SignableDocument,
  facts: MergeFacts,
):
  | { readonly ok: true; readonly document: FixedDocument }
  | { readonly ok: false; readonly missing: readonly FieldName[] } {
  const filled = paragraphs.map(({ kind, content }) => ({
    kind,
    merged: mergeWords(content, facts, language),
  }))
  const missing = filled.flatMap(({ merged }) => (merged.ok ? [] : merged.missing))
  if (missing.length > 0) return { ok: false, missing: [...new Set(missing)] }
  const texts = filled.flatMap(({ kind, merged }) =>
    merged.ok && merged.text !== '' ? [{ kind, text: merged.text }] : [],
  )
  return { ok: true, document: { documentId, name, language, paragraphs: texts, consent } }
}

/** The documents a letter leads to, as they say it for its reader, and what they miss. */
export function documentsOf(
  letter: Letter,
  passages: readonly Passage[],
  facts: MergeFacts,
): { readonly documents: readonly FixedDocument[]; readonly missing: readonly FieldName[] } {
  if (facts.toSign.length === 0) return { documents: [], missing: [] }
  const named = fieldsIn(letter, passages).flatMap((name) =>
    isSignField(name) ? [documentOfSignField(name)] : [],
  )
  const filled = facts.toSign
    .filter(({ document }) => named.includes(document.name))
    .map(({ document }) => fixed(document, facts))
  return {
    documents: filled.flatMap((one) => (one.ok ? [one.document] : [])),
    missing: [...new Set(filled.flatMap((one) => (one.ok ? [] : one.missing)))],
  }
}
