import { documentInput, type DocumentInput } from '#core/engine/commands/documentCommands.ts'
import type { SignableDocument } from '#core/model/document.ts'
import { sayFault } from './typed.ts'

type Paragraph = DocumentInput['paragraphs'][number]

/** A paragraph as its form holds it. */
export interface ParagraphDraft {
  /** Tells it from the others while it is being written. */
  readonly key: string
  readonly paragraph: Paragraph
}

/** A document as its form holds it. */
export interface DocumentDraft extends Omit<DocumentInput, 'paragraphs'> {
  readonly paragraphs: readonly ParagraphDraft[]
}

export const newParagraph = (kind: Paragraph['kind']): ParagraphDraft => ({
  key: crypto.randomUUID(),
  paragraph: { kind, content: [] },
})

export const draftOfDocument = (document: SignableDocument | null): DocumentDraft => ({
  name: document?.name ?? '',
  language: document?.language ?? 'en',
  consent: document?.consent ?? 'I have read this and agree to it.',
  isActive: document?.isActive ?? true,
  paragraphs: document
    ? document.paragraphs.map((paragraph) => ({ key: crypto.randomUUID(), paragraph }))
    : [newParagraph('text')],
})

/** What a draft means, or what is wrong with it, by field. */
export function readDocument(
  draft: DocumentDraft,
): { readonly meant: DocumentInput } | { readonly faults: Readonly<Record<string, string>> } {
  const paragraphs = draft.paragraphs.map(({ paragraph }) => paragraph)
  const parsed = documentInput.safeParse({ ...draft, paragraphs })
  if (parsed.success) return { meant: parsed.data }
  const faults: Record<string, string> = {}
  for (const { path, message } of parsed.error.issues) faults[path.join('.')] ??= sayFault(message)
  return { faults }
}
