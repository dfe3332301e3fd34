import { startRule, type Sequence, type SequenceVersion } from '#core/model/sequence.ts'
import { plainStep, type MailStep, type PlainStep } from '#core/model/step.ts'

const mail = (part: Pick<MailStep, 'id' | 'letterId' | 'purpose' | 'timing'>): PlainStep =>
  plainStep.parse({ kind: 'mail', ...part })

const daysBefore = (amount: number, atTime: string): PlainStep['timing'] => ({
  kind: 'calendar',
  amount,
  unit: 'days',
  direction: 'before',
  anchor: { of: 'booking start' },
  atTime,
})

const booked = (id: string) =>
  mail({ id, letterId: 'lt_booked', purpose: 'confirmation', timing: { kind: 'at once' } })

const eveningBefore = (id: string, atTime: string) =>
  mail({ id, letterId: 'lt_flightcall', purpose: 'reminder', timing: daysBefore(1, atTime) })

const wear = mail({
  id: 'st_sunrise-wear',
  letterId: 'lt_wear',
  purpose: 'preparation',
  timing: daysBefore(3, '18:00'),
})

const threeHoursBefore = mail({
  id: 'st_evening-three',
  letterId: 'lt_threehours',
  purpose: 'reminder',
  timing: { kind: 'elapsed', amount: 3, unit: 'hours', direction: 'before', anchor: { of: 'booking start' } },
})

export interface DemoSequence {
  readonly sequence: Omit<Sequence, 'liveSince'>
  readonly version: SequenceVersion
}

function live(id: string, name: string, serviceIds: string[], steps: PlainStep[]): DemoSequence {
  return {
    sequence: { id, name, state: 'live', currentVersion: 1 },
    version: {
      sequenceId: id,
      version: 1,
      start: startRule.parse({ on: 'booking confirmed', serviceIds }),
      steps,
      stops: [],
    },
  }
}

/** The sequences of the demo. */
export const sequences: readonly DemoSequence[] = [
  live(
    'sq_sunrise',
    'Before a morning flight',
    ['sv_sunrise', 'sv_private'],
    [booked('st_sunrise-booked'), wear, eveningBefore('st_sunrise-call', '18:00')],
  ),
  live(
    'sq_evening',
    'Before an evening with us',
    ['sv_evening', 'sv_island', 'sv_groundschool'],
    [booked('st_evening-booked'), eveningBefore('st_evening-call', '19:00'), threeHoursBefore],
  ),
]
