import { contentOf, isSameText } from '#core/letters/content.ts'
import type { LetterDraft } from '#core/engine/effects.ts'
import {
  letter,
  letterContent,
  passage,
  type Letter,
  type LetterContent,
  type Passage,
} from '#core/model/letter.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { asJson, flag, fromJson, isSet, kept } from './columns.ts'
import type { Statements } from './statements.ts'
import { readRows } from './unreadable.ts'

export function readLetters(statements: Statements): Letter[] {
  return readRows(statements, 'letter', statements.all('allLetters'), ({ contentJson, ...row }) =>
    letter.parse({
      ...(fromJson(contentJson) as LetterContent),
      ...row,
      isStarter: isSet(row['isStarter']),
      isArchived: isSet(row['isArchived']),
    }),
  )
}

/** Saves of one person within so long are one version in the history. Business time. */
const joinedMs = 10 * minuteMs

export function putLetter(statements: Statements, put: Letter, personId: string | null) {
  const { id, isStarter, isArchived, version, changedAt } = kept(letter, put)
  const contentJson = asJson(contentOf(put))
  const flags = { isStarter: flag(isStarter), isArchived: flag(isArchived) }
  statements.run('putLetter', { id, contentJson, version, changedAt, ...flags })
  const since = changedAt - joinedMs
  statements.run('joinLetterVersions', { letterId: id, before: version - 1, personId, since })
  statements.run('putLetterVersion', { letterId: id, version, contentJson, changedAt, personId })
}

/** Which revision of a letter's draft there is; 0: none. */
export const draftRevision = (statements: Statements, letterId: string): number =>
  Number(statements.one('readDraft', { letterId })?.['revision'] ?? 0)

/** What is being written about a letter, and who wrote last; null: nothing is. */
export function readDraft(statements: Statements, letterId: string) {
  const row = statements.one('readDraft', { letterId })
  if (!row) return null
  return {
    content: letterContent.parse(fromJson(row['contentJson'])),
    revision: Number(row['revision']),
    changedAt: Number(row['changedAt']),
    personName: typeof row['personName'] === 'string' ? row['personName'] : null,
  }
}

/** The letters whose draft says something else than what is published. */
export function lettersBeingWritten(statements: Statements, letters: readonly Letter[]): ReadonlySet<string> {
  const published = new Map(letters.map((one) => [one.id, one]))
  const written = statements.all('allDrafts').flatMap(({ letterId, contentJson }) => {
    const present = published.get(String(letterId))
    const draft = letterContent.safeParse(fromJson(contentJson))
    return present && draft.success && !isSameText(contentOf(present), draft.data) ? [present.id] : []
  })
  return new Set(written)
}

export function putDraft(statements: Statements, { content, ...plain }: LetterDraft) {
  statements.run('putDraft', { ...plain, contentJson: asJson(kept(letterContent, content)) })
}

export function readPassages(statements: Statements): Passage[] {
  return readRows(
    statements,
    'passage',
    statements.all('allPassages'),
    ({ paragraphsJson, translationsJson, ...plain }) =>
      passage.parse({
        ...plain,
        paragraphs: fromJson(paragraphsJson),
        translations: fromJson(translationsJson),
      }),
  )
}

export function putPassage(statements: Statements, put: Passage) {
  const { paragraphs, translations, ...plain } = kept(passage, put)
  statements.run('putPassage', {
    ...plain,
    paragraphsJson: asJson(paragraphs),
    translationsJson: asJson(translations),
  })
}

/** A picture or another file that letters carry. */
export interface StoredFile {
  readonly id: string
  readonly name: string
  readonly type: string
  readonly bytes: Buffer
}

export function readFile(statements: Statements, id: string): StoredFile | null {
  const row = statements.one('readFile', { id })
  return row ? (row as unknown as StoredFile) : null
}
