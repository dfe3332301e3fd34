import { describe, expect, test } from '@jest/globals'
import { words, writtenLetter } from '../../letters/authoring.ts'
import { contentOf } from '../../letters/content.ts'
import type { Result } from '../../model/problem.ts'
import { exampleSettings } from '../../rehearsal/exampleBusiness.ts'
import { realZones } from '../../time/realZones.ts'
import {
  addLetter,
  archiveLetter,
  putPassage,
  readLetterFile,
  removeLetter,
  removePassage,
  saveLetter,
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
  passages: [{ id: 'ps_way', name: 'The way', paragraphs: [], version: 2 }],
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
  test('a new one begins with version 1, read by whoever wrote it', () => {
    expect(effects(addLetter(content, context))).toEqual([
      {
        kind: 'put letter',
        personId: 'pe_1',
        letter: { ...content, id: 'lt_new', isStarter: false, isArchived: false, version: 1, changedAt: 5 },
      },
    ])
  })

  test('saving makes the next version, and a starter is read then', () => {
    const [effect] = effects(saveLetter(settings, 'lt_spare', 3, content, context))
    expect(effect).toMatchObject({ letter: { version: 4, isStarter: false, changedAt: 5 } })
  })

  test('what was changed elsewhere meanwhile is not overwritten', () => {
    expect(refusal(saveLetter(settings, 'lt_spare', 2, content, context))).toMatch(
      'changed elsewhere meanwhile',
    )
  })

  test('a letter that is not there, and a passage that is not there', () => {
    expect(refusal(saveLetter(settings, 'lt_none', 1, content, context))).toBe('There is no such letter.')
    const sections = [{ id: 'a', kind: 'passage' as const, passageId: 'ps_gone' }]
    expect(refusal(saveLetter(settings, 'lt_spare', 3, { ...content, sections }, context))).toBe(
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
      '1 message was planned or sent with it: put it away instead.',
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
    const way = { id: 'ps_way', name: 'The way', paragraphs: [words`Left`] }
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
