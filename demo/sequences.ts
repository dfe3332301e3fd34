import { endsOn, startRule, type Sequence, type SequenceVersion } from '#core/model/sequence.ts'
import { plainStep, type MailStep, type PlainStep } from '#core/model/step.ts'
import { charterAgreement } from './documents.ts'
import { sendAgreement } from './moves.ts'

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
  /** Since the past that is played, or only since the demo's own beginning; null: it has never been live. */
  readonly liveSince: 'past' | 'present' | null
}

type Rules = Pick<SequenceVersion, 'steps' | 'stops'> & { readonly start: object }

function sequence(
  id: string,
  name: string,
  state: Sequence['state'],
  liveSince: DemoSequence['liveSince'],
  { start, steps, stops }: Rules,
): DemoSequence {
  return {
    sequence: { id, name, state, currentVersion: 1 },
    version: { sequenceId: id, version: 1, start: startRule.parse(start), steps, stops },
    liveSince,
  }
}

const atOnce = { kind: 'at once' } as const

const afterEnd = (
  amount: number,
  unit: 'days' | 'months' | 'years',
  atTime: string,
): PlainStep['timing'] => ({
  kind: 'calendar',
  amount,
  unit,
  direction: 'after',
  anchor: { of: 'booking end' },
  atTime,
})

const afterPrevious = (
  amount: number,
  unit: 'days' | 'working days',
  atTime: string,
): PlainStep['timing'] => ({
  kind: 'after previous',
  amount,
  unit,
  atTime,
})

const plain = (part: object): PlainStep => plainStep.parse(part)
const flown = { field: 'booking.status', comparison: 'is', value: 'completed' } as const
const flights = ['sv_sunrise', 'sv_evening', 'sv_private', 'sv_island']

const beforeFlights: readonly DemoSequence[] = [
  sequence('sq_sunrise', 'Before a morning flight', 'live', 'past', {
    start: { on: 'booking confirmed', serviceIds: ['sv_sunrise', 'sv_private'] },
    steps: [booked('st_sunrise-booked'), wear, eveningBefore('st_sunrise-call', '18:00')],
    stops: [],
  }),
  sequence('sq_evening', 'Before an evening with us', 'live', 'past', {
    start: { on: 'booking confirmed', serviceIds: ['sv_evening', 'sv_island', 'sv_groundschool'] },
    steps: [booked('st_evening-booked'), eveningBefore('st_evening-call', '19:00'), threeHoursBefore],
    stops: [],
  }),
  sequence('sq_balance', 'The rest of the price', 'live', 'past', {
    start: { on: 'invoice issued' },
    steps: [
      plain({
        kind: 'mail',
        id: 'st_balance-deposit',
        letterId: 'lt_deposit',
        purpose: 'payment',
        timing: atOnce,
        onlyIf: { field: 'invoice.asks for', comparison: 'is', value: 'deposit' },
      }),
      plain({
        kind: 'mail',
        id: 'st_balance-rest',
        letterId: 'lt_balance',
        purpose: 'payment',
        timing: {
          kind: 'calendar',
          amount: 2,
          unit: 'weeks',
          direction: 'before',
          anchor: { of: 'invoice due' },
          atTime: '09:00',
        },
        onlyIf: { field: 'invoice.asks for', comparison: 'is', value: 'balance' },
        // Who books at short notice is told by the confirmation.
        ifLate: 'drop',
        repeat: {
          every: { amount: 4, unit: 'days' },
          untilCondition: { field: 'invoice.paid', comparison: 'is', value: true },
          untilAnchor: { of: 'invoice due' },
          atMost: 3,
        },
      }),
    ],
    stops: [endsOn('invoice paid')],
  }),
]

const whenItChanges: readonly DemoSequence[] = [
  sequence('sq_moved', 'A flight is moved', 'live', 'past', {
    start: { on: 'booking moved', again: { kind: 'every time', gap: null } },
    steps: [mail({ id: 'st_moved', letterId: 'lt_moved', purpose: 'change', timing: atOnce })],
    stops: [],
  }),
  sequence('sq_cancelled', 'A flight is cancelled', 'live', 'past', {
    start: { on: 'booking cancelled', again: { kind: 'every time', gap: null } },
    steps: [
      mail({ id: 'st_cancelled', letterId: 'lt_cancelled', purpose: 'cancellation', timing: atOnce }),
      plain({
        kind: 'task',
        id: 'st_cancelled-call',
        title: 'Ask whether another day would suit',
        timing: afterPrevious(2, 'working days', '09:00'),
      }),
    ],
    stops: [endsOn('booked')],
  }),
  sequence('sq_missed', 'Nobody came', 'live', 'past', {
    start: { on: 'booking missed' },
    steps: [
      plain({
        kind: 'mail',
        id: 'st_missed',
        letterId: 'lt_missed',
        purpose: 'follow-up',
        timing: {
          kind: 'elapsed',
          amount: 4,
          unit: 'hours',
          direction: 'after',
          anchor: { of: 'run started' },
        },
        needsApproval: true,
      }),
    ],
    stops: [],
  }),
]

const afterwards: readonly DemoSequence[] = [
  sequence('sq_landed', 'After the landing', 'live', 'past', {
    start: { on: 'booking confirmed', serviceIds: flights },
    steps: [
      plain({
        kind: 'mail',
        id: 'st_landed-photos',
        letterId: 'lt_photos',
        purpose: 'follow-up',
        timing: afterEnd(2, 'days', '10:00'),
        onlyIf: flown,
      }),
      plain({
        kind: 'mail',
        id: 'st_landed-review',
        letterId: 'lt_review',
        purpose: 'follow-up',
        timing: afterPrevious(3, 'days', '10:00'),
        needsApproval: true,
        onlyIf: {
          all: [flown, { field: 'since the run started: answered', comparison: 'is', value: false }],
        },
      }),
    ],
    stops: [],
  }),
  sequence('sq_anniversary', 'A year later', 'live', 'past', {
    start: { on: 'booking completed', serviceIds: flights, again: { kind: 'once per client' } },
    steps: [
      mail({
        id: 'st_anniversary',
        letterId: 'lt_anniversary',
        purpose: 'promotional',
        timing: afterEnd(1, 'years', '10:00'),
      }),
    ],
    stops: [endsOn('opted out')],
  }),
  sequence('sq_birthday', 'Birthdays', 'draft', null, {
    start: { on: 'date known', name: 'birthday', again: { kind: 'once per client' } },
    steps: [
      plain({
        kind: 'mail',
        id: 'st_birthday',
        letterId: 'lt_birthday',
        purpose: 'occasion',
        timing: { kind: 'yearly', label: 'birthday', daysBefore: 0, atTime: '09:00' },
        needsApproval: true,
      }),
    ],
    stops: [endsOn('opted out')],
  }),
]

const monthsAsleep = (amount: number) =>
  ({
    kind: 'calendar',
    amount,
    unit: 'months',
    direction: 'after',
    anchor: { of: 'enquiry stage', stage: 'asleep' },
    atTime: '10:00',
  }) as const

const hasAnswered = { field: 'since the run started: answered', comparison: 'is', value: true } as const

const hasSigned = { field: 'since the run started: signed', comparison: 'is', value: true } as const

const charters: readonly DemoSequence[] = [
  sequence('sq_enquiry', 'A private charter is asked for', 'live', 'past', {
    start: { on: 'enquiry received' },
    steps: [mail({ id: 'st_enquiry-asked', letterId: 'lt_asked', purpose: 'confirmation', timing: atOnce })],
    stops: [endsOn('booked')],
  }),
  sequence('sq_offer', 'An offer for a private basket', 'live', 'past', {
    start: { on: 'enquiry stage entered', name: 'offer' },
    steps: [
      plain({
        kind: 'mail',
        id: 'st_offer',
        letterId: 'lt_offer',
        purpose: 'follow-up',
        timing: atOnce,
        needsApproval: true,
        sender: 'person in charge',
      }),
      {
        kind: 'branch',
        id: 'st_offer-fork',
        condition: hasAnswered,
        timing: { kind: 'after previous', amount: 7, unit: 'days', atTime: '10:00' },
        yes: [plain({ kind: 'task', id: 'st_offer-call', title: 'Call and settle the day', timing: atOnce })],
        no: [
          plain({
            kind: 'mail',
            id: 'st_offer-still',
            letterId: 'lt_stillasking',
            purpose: 'follow-up',
            timing: atOnce,
            needsApproval: true,
          }),
        ],
      },
    ],
    stops: [endsOn('booked'), endsOn('enquiry stage entered')],
  }),
  sequence('sq_agreement', 'The agreement for a charter', 'live', 'past', {
    start: {
      on: 'enquiry move pressed',
      name: sendAgreement.name,
      again: { kind: 'every time', gap: null },
    },
    steps: [
      plain({
        kind: 'mail',
        id: 'st_agreement',
        letterId: 'lt_agreement',
        purpose: 'follow-up',
        timing: atOnce,
        sendingHours: 'ignore',
        recipients: [{ to: 'who takes part' }],
        sender: 'person in charge',
      }),
      plain({
        kind: 'mail',
        id: 'st_agreement-unsigned',
        letterId: 'lt_unsigned',
        purpose: 'follow-up',
        timing: { kind: 'after previous', amount: 4, unit: 'days', atTime: '10:00' },
        repeat: {
          every: { amount: 4, unit: 'days' },
          untilCondition: hasSigned,
          untilAnchor: null,
          atMost: 3,
        },
        recipients: [{ to: 'who takes part' }],
        sender: 'person in charge',
      }),
    ],
    stops: [{ on: 'signed', name: charterAgreement.name, does: 'ends' }, endsOn('booked')],
  }),
  sequence('sq_signed', 'An agreement is signed', 'live', 'past', {
    start: { on: 'signed', name: charterAgreement.name, again: { kind: 'every time', gap: null } },
    steps: [
      plain({ kind: 'task', id: 'st_signed-book', title: 'Book the charter: it is signed', timing: atOnce }),
    ],
    stops: [],
  }),
  sequence('sq_progress', 'What moved on today', 'live', 'past', {
    start: { on: 'enquiry stage entered', name: 'planning' },
    steps: [
      plain({
        kind: 'mail',
        id: 'st_progress',
        letterId: 'lt_evening',
        purpose: 'follow-up',
        timing: { kind: 'evening', atTime: '18:00' },
        recipients: [{ to: 'who takes part' }],
        sender: 'person in charge',
      }),
    ],
    stops: [endsOn('booked'), endsOn('enquiry stage entered')],
  }),
  sequence('sq_asleep', 'After a long silence', 'live', 'past', {
    start: { on: 'enquiry stage entered', name: 'asleep' },
    steps: [
      plain({
        kind: 'mail',
        id: 'st_asleep-three',
        letterId: 'lt_silence',
        purpose: 'follow-up',
        timing: monthsAsleep(3),
        sender: 'person in charge',
      }),
      plain({
        kind: 'mail',
        id: 'st_asleep-six',
        letterId: 'lt_silence',
        purpose: 'follow-up',
        timing: monthsAsleep(6),
        sender: 'person in charge',
      }),
      plain({
        kind: 'stage',
        id: 'st_asleep-close',
        stage: 'lost',
        reason: 'No answer in six months.',
        timing: { kind: 'after previous', amount: 14, unit: 'days', atTime: '10:00' },
      }),
    ],
    stops: [endsOn('answered'), endsOn('booked'), endsOn('enquiry stage entered')],
  }),
  sequence('sq_voucher', 'A voucher is given', 'draft', null, {
    start: { on: 'tag added', name: 'voucher' },
    steps: [
      mail({ id: 'st_voucher', letterId: 'lt_voucher', purpose: 'confirmation', timing: atOnce }),
      plain({
        kind: 'mail',
        id: 'st_voucher-season',
        letterId: 'lt_season',
        purpose: 'promotional',
        timing: {
          kind: 'calendar',
          amount: 6,
          unit: 'months',
          direction: 'after',
          anchor: { of: 'run started' },
          atTime: '10:00',
        },
        onlyIf: { field: 'client.has a booking ahead', comparison: 'is', value: false },
      }),
    ],
    stops: [endsOn('booked')],
  }),
]

/** The sequences of the demo. */
export const sequences: readonly DemoSequence[] = [
  ...beforeFlights,
  ...whenItChanges,
  ...afterwards,
  ...charters,
]
