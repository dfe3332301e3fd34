import { describe, expect, test } from '@jest/globals'
import { startRule } from '../model/sequence.ts'
import { step as stepOf, type Step } from '../model/step.ts'
import { exampleSettings } from '../rehearsal/exampleBusiness.ts'
import { realZones } from '../time/realZones.ts'
import { loopThrough, type RuledSequence } from './loops.ts'
import { asSequenceFile, readSequenceFile, sequenceFile } from './sequenceFile.ts'
import { starterDesigns } from './starterDesigns.ts'
import { starterLetters } from './starterLetters.ts'
import { plainSteps } from './steps.ts'
import { surprisesOf, type WarningFacts } from './warnings.ts'

const every = { kind: 'every time', gap: null }
const step = (id: string, part: object): Step =>
  stepOf.parse({ id: `st_${id}`, timing: { kind: 'at once' }, ...part })
const ruled = (id: string, start: object, steps: readonly Step[]): RuledSequence => ({
  id: `sq_${id}`,
  name: id.toUpperCase(),
  version: { start: startRule.parse(start), steps: [...steps] },
})

describe('a loop between sequences', () => {
  const tagsA = ruled('b', { on: 'booking confirmed', again: every }, [step('1', { kind: 'tag', tag: 'a' })])
  const onTag = (again: object = every) =>
    ruled('a', { on: 'tag added', name: 'a', again }, [step('1', { kind: 'status', status: 'confirmed' })])

  test('is found through a tag and a status, with its way', () => {
    expect(loopThrough(onTag(), [tagsA])).toEqual({ names: ['A', 'B'], isEndless: true })
  })

  test('is found between stages', () => {
    const between = (id: string, from: string, to: string) =>
      ruled(id, { on: 'enquiry stage entered', name: from, again: every }, [
        step('1', { kind: 'stage', stage: to }),
      ])
    expect(loopThrough(between('a', 'offer', 'planning'), [between('b', 'planning', 'offer')])).toEqual({
      names: ['A', 'B'],
      isEndless: true,
    })
  })

  test('ends where one of them starts only once', () => {
    expect(loopThrough(onTag({ kind: 'once per client' }), [tagsA])?.isEndless).toBe(false)
  })

  test('of its own, through a step that starts a sequence, through a fork and a list', () => {
    const own = ruled('a', { on: 'list joined', name: 'news', again: every }, [
      step('fork', {
        kind: 'branch',
        condition: { field: 'client.tag', comparison: 'is', value: 'a' },
        timing: { kind: 'after previous', amount: 1, unit: 'days', atTime: null },
        yes: [{ id: 'st_2', timing: { kind: 'at once' }, kind: 'list', list: 'news' }],
        no: [],
      }),
    ])
    expect(loopThrough(own, [])?.names).toEqual(['A'])
    const starts = (id: string, other: string) =>
      ruled(id, { on: 'signed', again: every }, [step('1', { kind: 'sequence', sequenceId: `sq_${other}` })])
    expect(loopThrough(starts('a', 'b'), [starts('b', 'c'), starts('c', 'a')])?.names).toEqual([
      'A',
      'B',
      'C',
    ])
  })

  test.each<[string, RuledSequence]>([
    ['another tag', ruled('a', { on: 'tag added', name: 'z', again: every }, onTag().version.steps)],
    [
      'a step that takes the tag off',
      ruled('a', { on: 'tag added', name: 'a', again: every }, [
        step('1', { kind: 'tag', tag: 'a', adds: false }),
      ]),
    ],
    [
      'a step that is switched off',
      ruled('a', { on: 'tag added', name: 'a', again: every }, [
        step('1', { kind: 'status', status: 'confirmed', isOff: true }),
      ]),
    ],
  ])('is none: %s', (_, own) => {
    expect(loopThrough(own, [tagsA])).toBeNull()
  })
})

const settings = exampleSettings(realZones)
const facts: WarningFacts = {
  ...settings,
  letters: settings.letters.map((letter) => ({ ...letter, isStarter: true })),
  serviceName: (id) => id,
  problemsOf: (id) => (id === 'lt_starter-reminder' ? 2 : 0),
}
const surprises = (steps: readonly Step[], start: object = { on: 'booking confirmed' }, of = facts) =>
  surprisesOf({ id: 'sq_x', name: 'X', start: startRule.parse(start), steps }, of).map(({ code, stepId }) => [
    code,
    stepId,
  ])
const mail = (id: string, part: object = {}) =>
  step(id, { kind: 'mail', letterId: 'lt_starter-reminder', purpose: 'reminder', ...part })
const read = { ...facts, letters: facts.letters.map((letter) => ({ ...letter, isStarter: false })) }

describe('what would surprise about a sequence', () => {
  test.each<
    [string, readonly (readonly [string, string | null])[], readonly Step[], object | undefined, WarningFacts]
  >([
    ['no steps', [['empty', null]], [], undefined, read],
    ['a letter nobody has read', [['unread letter', 'st_1']], [mail('1')], undefined, facts],
    ['a letter with problems', [['letter problems', 'st_1']], [mail('1')], undefined, read],
    [
      'statuses that no booking can get',
      [
        ['no status', null],
        ['no status', 'st_1'],
      ],
      [step('1', { kind: 'status', status: 'papers in' })],
      { on: 'booking status entered', name: 'weather watch' },
      { ...read, ownStatuses: [{ name: 'papers in', isActive: false }] },
    ],
    [
      'none: statuses that there are',
      [],
      [step('1', { kind: 'status', status: 'papers in' })],
      { on: 'booking status entered', name: 'weather watch' },
      { ...read, ownStatuses: ['papers in', 'weather watch'].map((name) => ({ name, isActive: true })) },
    ],
    [
      'stages that no pipeline has',
      [
        ['no stage', null],
        ['no stage', 'st_1'],
      ],
      [step('1', { kind: 'stage', stage: 'planning' })],
      { on: 'enquiry stage entered', name: 'offer' },
      { ...read, pipelines: [{ stages: [] }] },
    ],
    ['a letter that is gone', [['no letter', 'st_1']], [mail('1', { letterId: 'lt_gone' })], undefined, read],
    [
      'a condition against what it starts for',
      [['never', 'st_1']],
      [
        step('1', {
          kind: 'tag',
          tag: 'x',
          onlyIf: { field: 'booking.service', comparison: 'is', value: 'sv_other' },
        }),
      ],
      { on: 'booking confirmed', serviceIds: ['sv_lesson'] },
      read,
    ],
    [
      'a timing that cannot be',
      [['fault', 'st_1']],
      [
        step('1', {
          kind: 'tag',
          tag: 'x',
          lead: { amount: 2, unit: 'days' },
          timing: {
            kind: 'elapsed',
            amount: 1,
            unit: 'hours',
            direction: 'before',
            anchor: { of: 'booking start' },
          },
        }),
      ],
      undefined,
      read,
    ],
    [
      'a sequence that is not live',
      [['sequence not live', 'st_1']],
      [step('1', { kind: 'sequence', sequenceId: 'sq_1' })],
      undefined,
      { ...read, sequences: read.sequences.map((one) => ({ ...one, state: 'paused' as const })) },
    ],
  ])('%s', (_, expected, steps, start, of) => {
    expect(surprises(steps, start, of)).toEqual(expected)
  })
})

describe('a sequence as a file', () => {
  const [starter] = starterDesigns
  const design = {
    name: 'X',
    start: startRule.parse({ on: 'booking confirmed', serviceIds: ['sv_lesson'] }),
    steps: [...(starter?.steps ?? [])],
    stops: [],
  }

  test('goes out and comes in again as it was', () => {
    const file = asSequenceFile(design, settings)
    expect(sequenceFile.parse(JSON.parse(JSON.stringify(file)))).toEqual(file)
    expect(readSequenceFile(JSON.stringify(file), settings)).toEqual({ ok: true, value: design })
  })

  test('finds letters and services of another house by their names', () => {
    const file = asSequenceFile(design, settings)
    const elsewhere = {
      ...settings,
      services: settings.services.map((one) => ({ ...one, id: 'sv_theirs' })),
      letters: settings.letters.map((one) => ({ ...one, id: `${one.id}-theirs` })),
    }
    const came = readSequenceFile(JSON.stringify(file), elsewhere)
    if (!came.ok) throw new Error(came.problem.sentence)
    expect(came.value.start.serviceIds).toEqual(['sv_theirs'])
    expect(came.value.steps[0]).toMatchObject({ letterId: 'lt_starter-confirmation-theirs' })
  })

  test.each([
    ['This file is no JSON', 'nonsense'],
    ['This is no sequence of Vorfreude, at format', '{"format":"x"}'],
    ['The file needs letters that are not here: “Gone”', ''],
  ])('is refused: %s', (sentence, text) => {
    const file = asSequenceFile(design, settings)
    const gone = JSON.stringify(file)
      .replaceAll('lt_starter-confirmation', 'lt_other')
      .replaceAll(/"name":"[^"]*confirm[^"]*"/gi, '"name":"Gone"')
    const withGone = JSON.parse(gone) as typeof file
    const named = {
      ...withGone,
      letters: withGone.letters.map((one) => (one.id === 'lt_other' ? { ...one, name: 'Gone' } : one)),
    }
    const came = readSequenceFile(text === '' ? JSON.stringify(named) : text, settings)
    expect(came.ok ? '' : came.problem.sentence).toContain(sentence)
  })
})

test('every ready-made sequence is one that can be used, each step with a letter of its own', () => {
  // The stages every business begins with that they name.
  const stages = ['asleep', 'lost'].map((name) => ({
    ...{ name, meaning: 'open' as const, personInChargeId: null },
    ...{ deadlineDays: null, checklist: [] },
  }))
  const known = { ...read, pipelines: [{ stages }], problemsOf: () => 0 }
  for (const { name, start, steps, stops } of starterDesigns) {
    expect(surprisesOf({ id: 'sq_x', name, start, steps }, known)).toEqual([])
    expect(stops.every(({ on }) => on.length > 0)).toBe(true)
    const letters = plainSteps(steps).flatMap((one) => (one.kind === 'mail' ? [one.letterId] : []))
    expect(new Set(letters).size).toBe(steps.filter(({ kind }) => kind === 'mail').length)
    expect(starterLetters.map(({ id }) => id)).toEqual(expect.arrayContaining(letters))
  }
})
