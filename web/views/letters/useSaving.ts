import { letterContent } from '#core/model/letter.ts'
import { call } from '../../app/api.ts'
import { createAutosave } from '../../app/autosave.ts'

/** A letter's words, saved by themselves, one version after the other. */
export const useSaving = createAutosave({
  name: 'letter',
  read: (left) => letterContent.parse(left),
  afterMs: 1200,
  canSave: ({ name }) => name.trim() !== '',
  async save(id, content, version, commandId) {
    const saved = await call('saveLetter', { parameters: { id }, body: { commandId, version, content } })
    return saved.version
  },
  presentRevision: async (id) => (await call('letter', { parameters: { id } })).letter.version,
})
