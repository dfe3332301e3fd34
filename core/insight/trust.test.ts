import { describe, expect, test } from '@jest/globals'
import type { Sequence, SequenceVersion } from '../model/sequence.ts'
import { exampleSettings, exampleSteps } from '../rehearsal/exampleBusiness.ts'
import { realZones } from '../time/realZones.ts'
import { earnedTrust, keptTrust, sameSinceVersion, wilsonInterval, type Judgement } from './trust.ts'

describe('the interval of a rate', () => {
  // Newcombe, Two-sided confidence intervals for the single proportion, Statistics in Medicine 17 (1998), table I, method 3.
  test.each([
    [81, 263, 0.2553, 0.3662],
    [15, 148, 0.0624, 0.1605],
    [0, 20, 0, 0.1611],
    [1, 29, 0.0061, 0.1718],
  ])('%i of %i', (successes, of, lower, upper) => {
    const interval = wilsonInterval(successes, of)
    expect(interval.lower).toBeCloseTo(lower, 4)
    expect(interval.upper).toBeCloseTo(upper, 4)
  })

  test('is as wide as can be where nothing is known', () =>
    expect(wilsonInterval(0, 0)).toEqual({ lower: 0, upper: 1 }))
})

const times = (count: number, what: Judgement): Judgement[] => Array<Judgement>(count).fill(what)

describe('earned trust', () => {
  test.each<[string, readonly Judgement[], 'letting go' | null]>([
    ['nothing yet', [], null],
    ['eleven in a row are too few', times(11, 'as it was'), null],
    ['twelve in a row are enough', times(12, 'as it was'), 'letting go'],
    ['one edited among twelve is not', [...times(11, 'as it was'), 'edited'], null],
    ['two skipped among forty', [...times(38, 'as it was'), ...times(2, 'skipped')], 'letting go'],
  ])('%s', (_, judgements, suggests) => expect(earnedTrust(judgements).suggests).toBe(suggests))

  test('says its numbers', () => {
    const trust = earnedTrust([...times(3, 'as it was'), 'edited', 'skipped'])
    expect(trust).toMatchObject({ asItWas: 3, edited: 1, skipped: 1, suggests: null })
    expect(trust.lower).toBeCloseTo(wilsonInterval(3, 5).lower)
  })

  test('of a step that goes by itself is doubted where many were stopped', () => {
    expect(keptTrust(30, 1).suggests).toBeNull()
    expect(keptTrust(20, 8).suggests).toBe('taking back')
    expect(keptTrust(0, 0).suggests).toBeNull()
  })
})

describe('since when a step is what it is', () => {
  const [first] = exampleSteps
  if (!first) throw new Error('no step')
  const sequence: Sequence = { ...exampleSettings(realZones).sequences[0], currentVersion: 4 } as Sequence
  const version = (number: number, part: object): SequenceVersion => ({
    ...(exampleSettings(realZones).sequenceVersions[0] as SequenceVersion),
    version: number,
    steps: [{ ...first, ...part }],
  })

  test('whether it waits may change; anything else starts over', () => {
    const versions = [
      version(1, { letterId: 'lt_other' }),
      version(2, { needsApproval: true }),
      version(3, { needsApproval: false }),
      version(4, { needsApproval: true }),
    ]
    expect(sameSinceVersion(sequence, versions, first.id)).toBe(2)
  })

  test('a step that went and came back begins anew', () => {
    const gone = { ...version(3, {}), steps: [] }
    expect(sameSinceVersion(sequence, [version(1, {}), version(2, {}), gone, version(4, {})], first.id)).toBe(
      4,
    )
  })
})
