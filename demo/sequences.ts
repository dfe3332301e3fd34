import type { Sequence, SequenceVersion, Step } from '#core/model/sequence.ts'

const plain = { kind: 'mail', lead: null, sendingHours: null, ifLate: null, ifMoved: null } as const

const booked = (id: string): Step => ({
  ...plain,
  id,
  letterId: 'lt_booked',
  purpose: 'confirmation',
  timing: { kind: 'at once' },
})

const eveningBefore = (id: string, atTime: string): Step => ({
  ...plain,
  id,
  letterId: 'lt_flightcall',
  purpose: 'reminder',
  timing: {
    kind: 'calendar',
    amount: 1,
    unit: 'days',
    direction: 'before',
    anchor: 'booking start',
    atTime,
  },
})

export interface DemoSequence {
  readonly sequence: Omit<Sequence, 'liveSince'>
  readonly version: SequenceVersion
}

/** The sequences of the demo. */
export const sequences: readonly DemoSequence[] = [
  {
    sequence: { id: 'sq_sunrise', name: 'Before a morning flight', state: 'live', currentVersion: 1 },
    version: {
      sequenceId: 'sq_sunrise',
      version: 1,
      start: { event: 'booking confirmed', serviceIds: ['sv_sunrise', 'sv_private'] },
      steps: [
        booked('st_sunrise-booked'),
        {
          ...plain,
          id: 'st_sunrise-wear',
          letterId: 'lt_wear',
          purpose: 'preparation',
          timing: {
            kind: 'calendar',
            amount: 3,
            unit: 'days',
            direction: 'before',
            anchor: 'booking start',
            atTime: '18:00',
          },
        },
        eveningBefore('st_sunrise-call', '18:00'),
      ],
      stops: ['booking cancelled'],
    },
  },
  {
    sequence: { id: 'sq_evening', name: 'Before an evening with us', state: 'live', currentVersion: 1 },
    version: {
      sequenceId: 'sq_evening',
      version: 1,
      start: { event: 'booking confirmed', serviceIds: ['sv_evening', 'sv_island', 'sv_groundschool'] },
      steps: [
        booked('st_evening-booked'),
        eveningBefore('st_evening-call', '19:00'),
        {
          ...plain,
          id: 'st_evening-three',
          letterId: 'lt_threehours',
          purpose: 'reminder',
          timing: { kind: 'elapsed', amount: 3, unit: 'hours', direction: 'before', anchor: 'booking start' },
        },
      ],
      stops: ['booking cancelled'],
    },
  },
]
