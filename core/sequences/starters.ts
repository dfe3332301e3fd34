import { startRule, type SequenceVersion } from '../model/sequence.ts'
import { step } from '../model/step.ts'

/** A confirmation at once and a reminder the evening before. */
const starterSteps = [
  step.parse({
    kind: 'mail',
    id: 'st_starter-confirmation',
    letterId: 'lt_starter-confirmation',
    purpose: 'confirmation',
    timing: { kind: 'at once' },
  }),
  step.parse({
    kind: 'mail',
    id: 'st_starter-reminder',
    letterId: 'lt_starter-reminder',
    purpose: 'reminder',
    timing: {
      kind: 'calendar',
      amount: 1,
      unit: 'days',
      direction: 'before',
      anchor: { of: 'booking start' },
      atTime: '18:00',
    },
  }),
]

export const starterVersion: SequenceVersion = {
  sequenceId: 'sq_starter',
  version: 1,
  start: startRule.parse({ on: 'booking confirmed' }),
  steps: starterSteps,
  stops: [],
}

/** The letters its steps send: who switches it on has seen them. */
export const starterLetterIds: readonly string[] = starterSteps.flatMap((one) =>
  one.kind === 'mail' ? [one.letterId] : [],
)
