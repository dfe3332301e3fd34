import { endsOn, startRule, type StartRule, type StopRule } from '../model/sequence.ts'
import { plainStep, type PlainStep } from '../model/step.ts'
import type { Timing } from '../model/timing.ts'

/** A sequence to begin with, in the words of the trade: off until somebody has read it and lets it go live. */
export interface StarterDesign {
  readonly name: string
  /** What it is for. */
  readonly about: string
  readonly start: StartRule
  readonly steps: readonly PlainStep[]
  readonly stops: readonly StopRule[]
}

const letter = (name: string) => ({ letterId: `lt_starter-${name}` })

const daysBefore = (amount: number, atTime: string): Timing => ({
  kind: 'calendar',
  amount,
  unit: 'days',
  direction: 'before',
  anchor: { of: 'booking start' },
  atTime,
})

const daysAfterEnd = (amount: number, atTime: string): Timing => ({
  kind: 'calendar',
  amount,
  unit: 'days',
  direction: 'after',
  anchor: { of: 'booking end' },
  atTime,
})

const hoursBefore = (amount: number): Timing => ({
  kind: 'elapsed',
  amount,
  unit: 'hours',
  direction: 'before',
  anchor: { of: 'booking start' },
})

const monthsAsleep = (amount: number): Timing => ({
  kind: 'calendar',
  amount,
  unit: 'months',
  direction: 'after',
  anchor: { of: 'enquiry stage', stage: 'asleep' },
  atTime: '10:00',
})

const steps = (...parts: readonly object[]): readonly PlainStep[] =>
  parts.map((part, index) => plainStep.parse({ kind: 'mail', id: `st_starter-${index + 1}`, ...part }))

/** Sequences of our own to start from, each step with its letter of `starterLetters.ts`. */
export const starterDesigns: readonly StarterDesign[] = [
  {
    name: 'Before an appointment',
    about: 'A confirmation at once, a reminder the evening before and one three hours before.',
    start: startRule.parse({ on: 'booking confirmed' }),
    steps: steps(
      { ...letter('confirmation'), purpose: 'confirmation', timing: { kind: 'at once' } },
      { ...letter('reminder'), purpose: 'reminder', timing: daysBefore(1, '18:00') },
      { ...letter('day'), purpose: 'reminder', timing: hoursBefore(3) },
    ),
    stops: [],
  },
  {
    name: 'A request comes in',
    about: 'Says at once that it is there and will be looked at.',
    start: startRule.parse({ on: 'booking requested' }),
    steps: steps({ ...letter('requested'), purpose: 'confirmation', timing: { kind: 'at once' } }),
    stops: [],
  },
  {
    name: 'A booking moves',
    about: 'Says the new time, once quick changes have settled.',
    start: startRule.parse({ on: 'booking moved', again: { kind: 'every time', gap: null } }),
    steps: steps({ ...letter('changed'), purpose: 'change', timing: { kind: 'at once' } }),
    stops: [],
  },
  {
    name: 'A booking is cancelled',
    about: 'Says that it is off, whoever called it off.',
    start: startRule.parse({ on: 'booking cancelled', again: { kind: 'every time', gap: null } }),
    steps: steps({ ...letter('cancelled'), purpose: 'cancellation', timing: { kind: 'at once' } }),
    stops: [],
  },
  {
    name: 'After an appointment',
    about: 'Two days after, looked through by a person, unless nobody came.',
    start: startRule.parse({ on: 'booking confirmed' }),
    steps: steps({
      ...letter('thanks'),
      purpose: 'follow-up',
      timing: daysAfterEnd(2, '10:00'),
      needsApproval: true,
      onlyIf: { field: 'booking.status', comparison: 'is not', value: 'missed' },
    }),
    stops: [endsOn('answered')],
  },
  {
    name: 'Until it is paid',
    about: 'From two weeks before the due date on, every four days, until the invoice is paid.',
    start: startRule.parse({ on: 'invoice issued' }),
    steps: steps({
      ...letter('invoice'),
      purpose: 'payment',
      timing: {
        kind: 'calendar',
        amount: 2,
        unit: 'weeks',
        direction: 'before',
        anchor: { of: 'invoice due' },
        atTime: '09:00',
      },
      repeat: {
        every: { amount: 4, unit: 'days' },
        untilCondition: { field: 'invoice.paid', comparison: 'is', value: true },
        untilAnchor: { of: 'invoice due' },
        atMost: 4,
      },
    }),
    stops: [endsOn('invoice paid')],
  },
  {
    name: 'An enquiry that waits',
    about: 'Three days and ten days after the enquiry, as long as there is no answer.',
    start: startRule.parse({ on: 'enquiry received' }),
    steps: steps(
      {
        ...letter('still'),
        purpose: 'follow-up',
        timing: { kind: 'after previous', amount: 3, unit: 'days', atTime: '10:00' },
        needsApproval: true,
      },
      {
        ...letter('last-word'),
        purpose: 'follow-up',
        timing: { kind: 'after previous', amount: 1, unit: 'weeks', atTime: '10:00' },
        needsApproval: true,
      },
    ),
    stops: [endsOn('answered'), endsOn('booked')],
  },
  {
    name: 'After a long silence',
    about: 'Three and six months after an enquiry fell asleep; two weeks later it is closed with the reason.',
    start: startRule.parse({ on: 'enquiry stage entered', name: 'asleep' }),
    steps: [
      ...steps(
        { ...letter('silence'), purpose: 'follow-up', timing: monthsAsleep(3) },
        { ...letter('last-word'), purpose: 'follow-up', timing: monthsAsleep(6) },
      ),
      plainStep.parse({
        kind: 'stage',
        id: 'st_starter-close',
        stage: 'lost',
        reason: 'No answer in six months.',
        timing: { kind: 'after previous', amount: 14, unit: 'days', atTime: '10:00' },
      }),
    ],
    stops: [endsOn('answered'), endsOn('booked'), endsOn('enquiry stage entered')],
  },
  {
    name: 'A quiet client',
    about:
      'Every three months after the last visit, up to two years, looked at first; a booking or an answer ends it.',
    start: startRule.parse({
      on: 'booking completed',
      onlyIf: { field: 'client.has a booking ahead', comparison: 'is', value: false },
    }),
    steps: steps({
      ...letter('later'),
      purpose: 'promotional',
      timing: {
        kind: 'calendar',
        amount: 3,
        unit: 'months',
        direction: 'after',
        anchor: { of: 'booking end' },
        atTime: '10:00',
      },
      repeat: {
        every: { amount: 3, unit: 'months' },
        untilCondition: null,
        untilAnchor: null,
        atMost: 8,
      },
      needsApproval: true,
    }),
    stops: [endsOn('answered'), endsOn('booked'), endsOn('opted out')],
  },
  {
    name: 'A birthday',
    about: 'Every year on the day itself.',
    start: startRule.parse({ on: 'date known', name: 'birthday', again: { kind: 'once per client' } }),
    steps: steps({
      ...letter('birthday'),
      purpose: 'occasion',
      timing: { kind: 'yearly', label: 'birthday', daysBefore: 0, atTime: '09:00' },
      needsApproval: true,
    }),
    stops: [endsOn('opted out')],
  },
]
