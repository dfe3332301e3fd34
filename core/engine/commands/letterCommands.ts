import {
  letterContent,
  letterFileFormat,
  type Letter,
  type LetterContent,
  type Passage,
} from '../../model/letter.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { contentOf } from '../../letters/content.ts'
import { needsOf } from '../../letters/needs.ts'
import { passageIdsOf } from '../../letters/problems.ts'
import { sendingsOf } from '../../sequences/sendingsOfLetter.ts'
import type { Settings } from '../../planning/slice.ts'
import type { EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'

type Decided = Result<readonly Effect[]>

function found({ letters }: Settings, id: string): Result<Letter> {
  const letter = letters.find((one) => one.id === id)
  return letter ? done(letter) : refused('not found', 'There is no such letter.')
}

const put = (letter: Letter, { personId }: EngineContext): Effect => ({
  kind: 'put letter',
  letter,
  personId,
})

/** A new letter. It goes to nobody until it is published. */
export function addLetter(content: LetterContent, context: EngineContext): Decided {
  const id = context.newId('lt')
  const letter = { ...content, id, isStarter: true, isArchived: false, version: 1, changedAt: context.now }
  return done([put(letter, context)])
}

const writtenElsewhere = refused<never>(
  'changed meanwhile',
  'This letter has been changed elsewhere meanwhile. Your words are still here: compare them with the saved ones.',
)

/** What is being written about a letter: over which version and over which revision of what was kept before; 0: none. */
export interface Writing {
  readonly version: number
  readonly revision: number
  readonly content: LetterContent
}

/**
 * Keeps what is being written about a letter, and nobody gets it. `present` is the revision of what is kept already; 0:
 * nothing is. One that says the same as the published text stays until that is published, so that no revision comes twice.
 */
export function saveDraft(
  settings: Settings,
  id: string,
  present: number,
  { version, revision, content }: Writing,
  { now: changedAt, personId }: EngineContext,
): Decided {
  const old = found(settings, id)
  if (!old.ok) return old
  if (present !== revision || old.value.version !== version) return writtenElsewhere
  const draft: Effect = {
    kind: 'put letter draft',
    draft: { letterId: id, content, revision: revision + 1, changedAt, personId },
  }
  const { name, moment } = content
  const isCalledOther = old.value.name !== name || old.value.moment !== moment
  // Lists know one that was never published by what it is called now.
  if (!old.value.isStarter || !isCalledOther) return done([draft])
  return done([{ kind: 'put letter', letter: { ...old.value, name, moment }, personId }, draft])
}

/** Gives up what was being written: the published text stands there again. */
export function dropDraft(settings: Settings, id: string, present: number, context: EngineContext): Decided {
  const old = found(settings, id)
  if (!old.ok) return old
  const { version } = old.value
  return saveDraft(
    settings,
    id,
    present,
    { version, revision: present, content: contentOf(old.value) },
    context,
  )
}

/** A letter's published text from now on. Refused where somebody else has published or written meanwhile; `present` as above. */
export function publishLetter(
  settings: Settings,
  id: string,
  present: number,
  { version, revision, content }: Writing,
  context: EngineContext,
): Decided {
  const old = found(settings, id)
  if (!old.ok) return old
  if (present !== revision || old.value.version !== version) return writtenElsewhere
  const unknown = passageIdsOf(content).find(
    (one) => !settings.passages.some((passage) => passage.id === one),
  )
  if (unknown !== undefined)
    return refused('not found', 'One of its passages is not there any more.', 'sections')
  const letter = {
    ...old.value,
    ...content,
    isStarter: false,
    version: version + 1,
    changedAt: context.now,
  }
  return done([put(letter, context), { kind: 'remove letter draft', letterId: id }])
}

/** The sequences whose steps send a letter, by name. */
export function usesOfLetter(settings: Settings, id: string): readonly string[] {
  return [...new Set(sendingsOf(settings, id).map(({ sequenceName }) => sequenceName))].sort()
}

const list = (names: readonly string[]) => names.map((name) => `“${name}”`).join(', ')

/** Puts a letter away, or takes it out again. */
export function archiveLetter(
  settings: Settings,
  id: string,
  isArchived: boolean,
  context: EngineContext,
): Decided {
  const old = found(settings, id)
  if (!old.ok) return old
  const uses = isArchived ? usesOfLetter(settings, id) : []
  if (uses.length > 0) return refused('not allowed now', `Sequences still send it: ${list(uses)}.`)
  return done([put({ ...old.value, isArchived }, context)])
}

/** Deletes a letter that nothing depends on. `sent` is how many messages were planned or sent with it. */
export function removeLetter(settings: Settings, id: string, sent: number): Decided {
  const old = found(settings, id)
  if (!old.ok) return old
  const uses = usesOfLetter(settings, id)
  if (uses.length > 0) return refused('not allowed now', `Sequences still send it: ${list(uses)}.`)
  if (sent > 0) {
    const many = sent === 1 ? '1 message was' : `${sent} messages were`
    return refused('not allowed now', `${many} planned or sent with it: archive it instead.`)
  }
  return done([{ kind: 'remove letter', id }])
}

/** A passage, new or changed. Changing one changes all letters that use it. */
export function putPassage(settings: Settings, passage: Omit<Passage, 'version'>, version: number): Decided {
  const old = settings.passages.find(({ id }) => id === passage.id)
  if (old && old.version !== version) {
    return refused('changed meanwhile', 'This passage has been changed elsewhere meanwhile.')
  }
  return done([{ kind: 'put passage', passage: { ...passage, version: (old?.version ?? 0) + 1 } }])
}

/** The letters that use a passage, by name. */
export function usesOfPassage({ letters }: Settings, id: string): readonly string[] {
  return letters.filter((letter) => passageIdsOf(letter).includes(id)).map(({ name }) => name)
}

export function removePassage(settings: Settings, id: string): Decided {
  const uses = usesOfPassage(settings, id)
  if (uses.length > 0) return refused('not allowed now', `Letters still use it: ${list(uses)}.`)
  return done([{ kind: 'remove passage', id }])
}

/** The letters that say something else: messages approved with them keep their words, and say so. */
export function lettersOfOtherWords(before: Settings, after: Settings): readonly string[] {
  const known = new Map(before.letters.map((letter) => [letter.id, letter]))
  const changed = after.passages.filter((passage) => !before.passages.includes(passage)).map(({ id }) => id)
  return after.letters
    .filter((letter) => {
      if (known.get(letter.id) !== letter) return true
      return changed.length > 0 && passageIdsOf(letter).some((id) => changed.includes(id))
    })
    .map(({ id }) => id)
}

/** The letters that go to others than before, or need other values: what is planned with them is planned anew. */
export function lettersOfOtherNeeds(before: Settings, after: Settings): readonly string[] {
  const known = new Map(before.letters.map((letter) => [letter.id, letter]))
  return after.letters
    .filter((letter) => {
      const old = known.get(letter.id)
      // Comparing makes letters ready, which is needless where neither it nor a passage has changed.
      if (!old || (old === letter && before.passages === after.passages)) return false
      return needsOf(old, before.passages) !== needsOf(letter, after.passages)
    })
    .map(({ id }) => id)
}

/** A letter's words out of a file; refused with the path where they do not fit. */
export function readLetterFile(text: string): Result<LetterContent> {
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch {
    return refused('malformed', 'This file is no JSON.')
  }
  const { format, ...content } = (value ?? {}) as Record<string, unknown>
  if (format !== letterFileFormat) {
    return refused('malformed', `This is no letter of Vorfreude: its format is not ${letterFileFormat}.`)
  }
  const read = letterContent.safeParse(content)
  if (read.success) return done(read.data)
  const [issue] = read.error.issues
  return refused('invalid', `${issue?.path.join('.') ?? ''}: ${issue?.message ?? 'does not fit.'}`)
}
