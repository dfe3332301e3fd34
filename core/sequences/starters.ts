import { field, words } from '../letters/authoring.ts'
import type { Letter } from '../model/letter.ts'
import { startRule, step, type SequenceVersion } from '../model/sequence.ts'

/** Letters to start from, in plain words that fit any service. */
export const starterLetters: readonly Letter[] = [
  {
    id: 'lt_starter-confirmation',
    name: 'Your booking is confirmed',
    moment: 'booked',
    version: 1,
    subject: words`${field('booking.service')} on ${field('booking.date')}, ${field('booking.time')}`,
    sections: [
      {
        kind: 'text',
        paragraphs: [
          words`Hello ${field('contact.firstName', 'and good day')},`,
          words`your booking is confirmed. Here it is once more:`,
        ],
      },
      { kind: 'facts' },
      { kind: 'text', paragraphs: [words`If something is not right, just answer this message.`] },
      { kind: 'signature' },
    ],
  },
  {
    id: 'lt_starter-reminder',
    name: 'See you soon',
    moment: 'before',
    version: 1,
    subject: words`${field('booking.service')}: ${field('booking.dayFromSending')} at ${field('booking.time')}`,
    sections: [
      {
        kind: 'text',
        paragraphs: [
          words`Hello ${field('contact.firstName', 'and good day')},`,
          words`we are looking forward to seeing you ${field('booking.dayFromSending')}, ${field('booking.date')}, at ${field('booking.time')}.`,
        ],
      },
      { kind: 'facts' },
      { kind: 'signature' },
    ],
  },
]

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
