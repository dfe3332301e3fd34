import { describe, expect, test } from '@jest/globals'
import { beginningOf, type BeginningFacts } from './beginning.ts'

const all: BeginningFacts = {
  services: 1,
  letters: 2,
  liveSequences: 1,
  isRealMail: true,
  hasPublicUrl: true,
  isRehearsed: true,
  isSendingOn: true,
}
const missing = (facts: BeginningFacts) =>
  beginningOf(facts).flatMap(({ step, isDone }) => (isDone ? [] : [step]))

describe('what is missing before a message reaches a client', () => {
  test('nothing where all is there', () => {
    expect(missing(all)).toEqual([])
    expect(beginningOf(all)).toHaveLength(7)
  })

  test.each<[Partial<BeginningFacts>, string[]]>([
    [{ services: 0 }, ['service']],
    // Its letters were not read: it would send nothing.
    [{ letters: 0 }, ['sequence']],
    [{ liveSequences: 0 }, ['sequence']],
    [{ hasPublicUrl: false }, ['public address']],
    [{ isRehearsed: false }, ['rehearsal']],
    [{ isSendingOn: false }, ['sending']],
    // With the built-in post office the switch lets nothing out.
    [{ isRealMail: false }, ['mail account', 'sending']],
  ])('%j', (part, expected) => expect(missing({ ...all, ...part })).toEqual(expected))
})
