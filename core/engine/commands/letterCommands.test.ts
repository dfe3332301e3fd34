import { describe, expect, test } from '@jest/globals'
import { words, writtenLetter } from '../../letters/authoring.ts'
import { contentOf } from '../../letters/content.ts'
import type { Result } from '../../model/problem.ts'
import { exampleSettings } from '../../rehearsal/exampleBusiness.ts'
import { realZones } from '../../time/realZones.ts'
import {
  addLetter,
  archiveLetter,
  dropDraft,
  putPassage,
  readLetterFile,
  removeLetter,
  removePassage,
  publishLetter,
  saveDraft,
} from './letterCommands.ts'

const context = { now: 5, personId: 'pe_1', newId: (prefix: string) => `${prefix}_new` }
const spare = writtenLetter({
  id: 'lt_spare',
  name: 'Spare',
  moment: 'later',
  subject: words`Spare`,
  sections: [{ kind: 'passage', passageId: 'ps_way' }],
})
const example = exampleSettings(realZones)
const settings = {
  ...example,
  letters: [...example.letters, { ...spare, isStarter: true, version: 3 }],
  passages: [{ id: 'ps_way', name: 'The way', paragraphs: [], translations: [], version: 2 }],
}
const used = 'lt_starter-reminder'
const content = contentOf(spare)

function refusal(result: Result<unknown>): string {
  if (result.ok) throw new Error('it was not refused')
  return result.problem.sentence
}

function effects<Value>(result: Result<Value>): Value {
  if (!result.ok) throw new Error(result.problem.sentence)
  return result.value
}

describe('letters', () => {
  test('a new one begins with version 1, and goes to nobody until it is published', () => {
    expect(effects(addLetter(content, context))).toEqual([
      {
        kind: 'put letter',
        personId: 'pe_1',
        letter: { ...content, id: 'lt_new', isStarter: true, isArchived: false, version: 1, changedAt: 5 },
      },
    ])
  })

  test('publishing makes the next version of it, and ends its draft', () => {
    const writing = { version: 3, revision: 2, content }
    expect(effects(publishLetter(settings, 'lt_spare', 2, writing, context))).toMatchObject([
      { kind: 'put letter', letter: { version: 4, isStarter: false, changedAt: 5 } },
      { kind: 'remove letter draft', letterId: 'lt_spare' },
    ])
  })

  test('a draft is kept beside the letter, and given up by the published text standing there again', () => {
    const other = { ...content, sections: [] }
    const writing = { version: 3, revision: 0, content: other }
    expect(effects(saveDraft(settings, 'lt_spare', 0, writing, context))).toEqual([
      {
        kind: 'put letter draft',
        draft: { letterId: 'lt_spare', content: other, revision: 1, changedAt: 5, personId: 'pe_1' },
      },
    ])
    expect(effects(dropDraft(settings, 'lt_spare', 1, context))).toMatchObject([
      { kind: 'put letter draft', draft: { content, revision: 2 } },
    ])
  })

  test('one that was never published is called in lists what it is called now', () => {
    const [starter] = settings.letters.filter(({ isStarter }) => isStarter)
    if (!starter) throw new Error('no starter')
    const writing = {
      version: starter.version,
      revision: 0,
      content: { ...contentOf(starter), name: 'Anew' },
    }
    expect(effects(saveDraft(settings, starter.id, 0, writing, context))).toMatchObject([
      { kind: 'put letter', letter: { name: 'Anew', isStarter: true, version: starter.version } },
      { kind: 'put letter draft' },
    ])
  })

  test('what was published or written elsewhere meanwhile is not overwritten', () => {
    const published = { version: 2, revision: 0, content }
    const written = { version: 3, revision: 1, content }
    for (const [writing, present] of [
      [published, 0],
      [written, 2],
    ] as const) {
      const elsewhere = /changed elsewhere meanwhile/
      expect(refusal(saveDraft(settings, 'lt_spare', present, writing, context))).toMatch(elsewhere)
      expect(refusal(publishLetter(settings, 'lt_spare', present, writing, context))).toMatch(elsewhere)
    }
  })

  test('a letter that is not there, and a passage that is not there', () => {
    const writing = { version: 3, revision: 0, content }
    for (const none of [
      publishLetter(settings, 'lt_none', 0, writing, context),
      saveDraft(settings, 'lt_none', 0, writing, context),
      dropDraft(settings, 'lt_none', 0, context),
    ]) {
      expect(refusal(none)).toBe('There is no such letter.')
    }
    const sections = [{ id: 'a', kind: 'passage' as const, passageId: 'ps_gone' }]
    const gone = { ...writing, content: { ...content, sections } }
    expect(refusal(publishLetter(settings, 'lt_spare', 0, gone, context))).toBe(
      'One of its passages is not there any more.',
    )
  })

  test('one in use is neither put away nor deleted, and says who uses it', () => {
    expect(refusal(archiveLetter(settings, used, true, context))).toBe(
      'Sequences still send it: “Before a lesson”.',
    )
    expect(refusal(removeLetter(settings, used, 0))).toBe('Sequences still send it: “Before a lesson”.')
    expect(archiveLetter(settings, used, false, context).ok).toBe(true)
  })

  test('one that was sent is put away instead of deleted', () => {
    expect(refusal(removeLetter(settings, 'lt_spare', 1))).toBe(
      '1 message was planned or sent with it: archive it instead.',
    )
    expect(effects(removeLetter(settings, 'lt_spare', 0))).toEqual([
      { kind: 'remove letter', id: 'lt_spare' },
    ])
    expect(effects(archiveLetter(settings, 'lt_spare', true, context))[0]).toMatchObject({
      letter: { isArchived: true, version: 3 },
    })
  })
})

describe('passages', () => {
  test('new, changed, changed elsewhere, in use', () => {
    const way = { id: 'ps_way', name: 'The way', paragraphs: [words`Left`], translations: [] }
    expect(effects(putPassage(settings, way, 2))).toEqual([
      { kind: 'put passage', passage: { ...way, version: 3 } },
    ])
    expect(effects(putPassage(settings, { ...way, id: 'ps_2' }, 0))[0]).toMatchObject({
      passage: { version: 1 },
    })
    expect(refusal(putPassage(settings, way, 1))).toMatch('changed elsewhere')
    expect(refusal(removePassage(settings, 'ps_way'))).toBe('Letters still use it: “Spare”.')
    expect(effects(removePassage({ ...settings, letters: [] }, 'ps_way'))).toHaveLength(1)
  })
})

describe('letters as files', () => {
  test('come back as they went', () => {
    const file = JSON.stringify({ format: 'vorfreude-letter-1', ...content })
    expect(effects(readLetterFile(file))).toEqual(content)
  })

  test.each([
    ['', 'This file is no JSON.'],
    ['null', 'This is no letter of Vorfreude: its format is not vorfreude-letter-1.'],
    [JSON.stringify({ ...content }), 'This is no letter of Vorfreude: its format is not vorfreude-letter-1.'],
    [JSON.stringify({ format: 'vorfreude-letter-1', ...content, name: ' ' }), 'name: A letter needs a name.'],
    [
      JSON.stringify({
        format: 'vorfreude-letter-1',
        ...content,
        sections: [...content.sections, ...content.sections],
      }),
      ': Two sections have the same id.',
    ],
  ])('%s', (file, sentence) => {
    expect(refusal(readLetterFile(file))).toContain(sentence)
  })

  test('a field there is not is refused with its place', () => {
    const subject = [{ kind: 'field', field: 'contact.shoeSize', ifMissing: { kind: 'hold' } }]
    const file = JSON.stringify({ format: 'vorfreude-letter-1', ...content, subject })
    expect(refusal(readLetterFile(file))).toMatch(/^subject\.0\.field: /)
  })
})
