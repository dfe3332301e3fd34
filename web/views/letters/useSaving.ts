import { letterContent } from '#core/model/letter.ts'
import { call } from '../../app/api.ts'
import { createAutosave } from '../../app/autosave.ts'

/**
 * What is being written about a letter, saved by itself as its draft, one revision after the other. Nobody gets it until it
 * is published. `base` is the published version it is written over.
 */
export const useSaving = createAutosave({
  name: 'letter',
  read: (left) => letterContent.parse(left),
  afterMs: 1200,
  canSave: ({ name }) => name.trim() !== '',
  async save(id, content, revision, commandId, base) {
    const body = { commandId, version: Number(base), revision, content }
    return (await call('saveLetterDraft', { parameters: { id }, body })).revision
  },
  async present(id) {
    const { letter, draft } = await call('letter', { parameters: { id } })
    return { revision: draft?.revision ?? 0, base: String(letter.version) }
  },
})
