import { startRule, type SequenceVersion } from '../model/sequence.ts'
import { step } from '../model/step.ts'

/** A confirmation at once and a reminder the evening before. Each waits for a look until it has earned to go by itself. */
const starterSteps = [
  step.parse({
    kind: 'mail',
    id: 'st_starter-confirmation',
    letterId: 'lt_starter-confirmation',
    purpose: 'confirmation',
    needsApproval: true,
    timing: { kind: 'at once' },
  }),
  step.parse({
    kind: 'mail',
    id: 'st_starter-reminder',
    letterId: 'lt_starter-reminder',
    purpose: 'reminder',
    needsApproval: true,
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
