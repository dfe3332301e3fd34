import {
  addLetter,
  archiveLetter,
  dropDraft,
  lettersOfOtherNeeds,
  lettersOfOtherWords,
  putPassage,
  removeLetter,
  removePassage,
  publishLetter,
  saveDraft,
  type Writing,
} from '#core/engine/commands/letterCommands.ts'
import type { EngineContext } from '#core/engine/context.ts'
import { settingsWithEffects, type Effect } from '#core/engine/effects.ts'
import { replan } from '#core/engine/following/replan.ts'
import { done, type Result } from '#core/model/problem.ts'
import type { LetterContent, EnclosedFile, Passage } from '#core/model/letter.ts'
import type { Settings } from '#core/planning/slice.ts'
import { draftRevision } from '../../db/letterStore.ts'
import { onlyLiving } from '../../db/livingStore.ts'
import type { CommandCall, Application } from '../application.ts'

interface Saved {
  readonly id: string
  readonly version: number
}

function savedIn(effects: readonly Effect[]): Saved {
  for (const effect of effects) {
    if (effect.kind === 'put letter') return { id: effect.letter.id, version: effect.letter.version }
    if (effect.kind === 'put passage') return { id: effect.passage.id, version: effect.passage.version }
    if (effect.kind === 'remove letter' || effect.kind === 'remove passage')
      return { id: effect.id, version: 0 }
  }
  throw new Error('The command changed nothing')
}

/**
 * What is planned with a letter follows at once where the letter may go to others now than it could before; what is
 * approved, where it keeps words that are others by now.
 */
function plannedAnew(
  application: Application,
  before: Settings,
  changed: readonly Effect[],
  context: EngineContext,
): readonly Effect[] {
  const { statements } = application.store
  const settings = settingsWithEffects(before, changed)
  const clientsOf = (query: 'clientsWithPlannedLetter' | 'clientsWithApprovedLetter', letterId: string) =>
    statements.all(query, { letterId }).map(({ id }) => String(id))
  const clientIds = [
    ...lettersOfOtherNeeds(before, settings).flatMap((id) => clientsOf('clientsWithPlannedLetter', id)),
    ...lettersOfOtherWords(before, settings).flatMap((id) => clientsOf('clientsWithApprovedLetter', id)),
  ]
  return [...new Set(clientIds)].flatMap((id) => {
    const slice = application.readableSliceOf(id, onlyLiving)
    return slice ? replan({ ...slice, settings }, context) : []
  })
}

/** What a person can do with letters and passages. */
export function createLetterCommands(application: Application) {
  const answered = (
    call: CommandCall,
    decide: (context: EngineContext, settings: Settings) => Result<readonly Effect[]>,
  ): Result<Saved> =>
    application.command(call, (context, settings) => {
      const decided = decide(context, settings)
      if (!decided.ok) return decided
      const effects = [...decided.value, ...plannedAnew(application, settings, decided.value, context)]
      return done({ effects, answer: savedIn(decided.value) })
    })
  const present = (id: string) => draftRevision(application.store.statements, id)
  const drafted = (
    call: CommandCall,
    id: string,
    decide: (context: EngineContext, settings: Settings, present: number) => Result<readonly Effect[]>,
  ): Result<{ id: string; revision: number }> =>
    application.command(call, (context, settings) => {
      const before = present(id)
      const decided = decide(context, settings, before)
      return decided.ok ? done({ effects: decided.value, answer: { id, revision: before + 1 } }) : decided
    })
  const sentWith = (id: string) =>
    Number(application.store.statements.one('sendsWithLetter', { id })?.['count'] ?? 0)
  return {
    addLetter: (call: CommandCall, content: LetterContent) =>
      answered(call, (context) => addLetter(content, context)),
    /** Keeps what is being written; nobody gets it. */
    saveLetterDraft: (call: CommandCall, id: string, writing: Writing) =>
      drafted(call, id, (context, settings, before) => saveDraft(settings, id, before, writing, context)),
    dropLetterDraft: (call: CommandCall, id: string) =>
      drafted(call, id, (context, settings, before) => dropDraft(settings, id, before, context)),
    /** The published text from now on; what is planned with it takes it. */
    publishLetter: (call: CommandCall, id: string, writing: Writing) =>
      answered(call, (context, settings) => publishLetter(settings, id, present(id), writing, context)),
    archiveLetter: (call: CommandCall, id: string, isArchived: boolean) =>
      answered(call, (context, settings) => archiveLetter(settings, id, isArchived, context)),
    removeLetter: (call: CommandCall, id: string) =>
      answered(call, (_, settings) => removeLetter(settings, id, sentWith(id))),
    putPassage: (call: CommandCall, passage: Omit<Passage, 'version'>, version: number) =>
      answered(call, (_, settings) => putPassage(settings, passage, version)),
    /** A picture or a document for letters; the same act stores it once. */
    addFile: (call: CommandCall, file: Omit<EnclosedFile, 'id'>) =>
      application.command(call, ({ newId }) => {
        const id = newId(file.type === 'application/pdf' ? 'fl' : 'pc')
        return done({ effects: [{ kind: 'put file', file: { ...file, id } }], answer: { id } })
      }),
    addOwnWord: (call: CommandCall, word: string) =>
      application.command(call, () => done({ effects: [{ kind: 'add own word', word }], answer: { word } })),
    removePassage: (call: CommandCall, id: string) =>
      answered(call, (_, settings) => removePassage(settings, id)),
  }
}
