import { z } from 'zod'
import { contactId } from './client.ts'
import { condition, type Condition } from './condition.ts'
import { personId } from './business.ts'
import { dateStamped, stageGiven, statusGiven, tagGiven, taskAsked } from './inHouse.ts'
import { inline, letterId } from './letter.ts'
import { purpose, repeat, span, timing, type Timing } from './timing.ts'
import { emailAddress, idOf, oneLine, requiredLine } from './values.ts'

export const sequenceId = idOf('sq')
export const stepId = idOf('st')

export const sendingHoursRule = z.enum(['earlier', 'later', 'ignore'])
export type SendingHoursRule = z.infer<typeof sendingHoursRule>
export const ifLate = z.enum(['drop', 'send now'])
export type IfLate = z.infer<typeof ifLate>
export const ifMoved = z.enum(['send again', 'leave'])
export type IfMoved = z.infer<typeof ifMoved>

/** A kind of recipient can have a letter of its own; null: the step's. */
const ownLetter = { letterId: letterId.nullable().default(null) }

/** Who gets a step's message. */
export const recipientRule = z.discriminatedUnion('to', [
  z
    .object({
      to: z.enum([
        'primary contact',
        'all contacts',
        'other contacts',
        'who pays',
        'who takes part',
        'person in charge',
        'team',
        'copy to self',
      ]),
      ...ownLetter,
    })
    .strict(),
  z.object({ to: z.literal('named contacts'), contactIds: z.array(contactId).min(1), ...ownLetter }).strict(),
  /** One of the team by name; after leaving, the business gets it. */
  z.object({ to: z.literal('person'), personId, ...ownLetter }).strict(),
  z.object({ to: z.literal('address'), name: oneLine(120), address: emailAddress, ...ownLetter }).strict(),
])
export type RecipientRule = z.infer<typeof recipientRule>
export const recipientRules = z.array(recipientRule).min(1, 'Somebody has to get it.').max(20)

/** In whose name a message goes. Where nobody is in charge, or the person has left, the business sends. */
export const senderRule = z.enum(['business', 'person in charge', 'shared mailbox'])

/** On which days a step goes; all others are closed days for it. ISO 8601 weekdays, 1 is Monday. */
export const onlyDays = z.union([
  z.object({ weekdays: z.array(z.number().int().min(1).max(7)).min(1, 'At least one day.').max(7) }).strict(),
  z.literal('working days'),
])
export type OnlyDays = z.infer<typeof onlyDays>

const planned = {
  id: stepId,
  timing,
  repeat: repeat.nullable().default(null),
  /** Tested at each sending; where it does not hold the step is skipped. */
  onlyIf: condition.nullable().default(null),
  /** The days on which it goes; null: any. */
  onlyDays: onlyDays.nullable().default(null),
  /** Switched off: it plans nothing, and the next step counts from the one before it. */
  isOff: z.boolean().default(false),
  /** Waits for a person's approval. */
  needsApproval: z.boolean().default(false),
  /** How long before its anchor a before-step must have gone; null: the default of the rules. */
  lead: span.nullable().default(null),
  /** How long after its wanted time it is still of use; null: as the purpose says. */
  usefulFor: span.nullable().default(null),
  /** Each null: as the purpose says. */
  sendingHours: sendingHoursRule.nullable().default(null),
  ifLate: ifLate.nullable().default(null),
  ifMoved: ifMoved.nullable().default(null),
  /** Among promotional messages of one client: 1 is planned first. */
  priority: z.number().int().min(1).max(9).default(5),
}

const toPrimary = [{ to: 'primary contact' as const, letterId: null }]
const message = {
  ...planned,
  purpose: purpose.exclude(['internal']),
  /** A yearly wish that is an offer as well: it counts among promotional messages, and needs consent. */
  isOffer: z.boolean().default(false),
  recipients: recipientRules.default(toPrimary),
  sender: senderRule.default('business'),
}
const words = z.array(inline).min(1, 'Write what it says.').max(200)
const toPersonInCharge = [{ to: 'person in charge' as const, letterId: null }]

/** A step for the business alone. */
const internal = { ...planned, purpose: z.literal('internal').default('internal') }

/** A step that does one thing at its time. */
export const plainStep = z.discriminatedUnion('kind', [
  z.object({ ...message, kind: z.literal('mail'), letterId }).strict(),
  /** To the telephone number of each recipient. */
  z.object({ ...message, kind: z.literal('text message'), words }).strict(),
  z
    .object({
      ...internal,
      kind: z.literal('note to staff'),
      about: requiredLine(150, 'The note needs a subject.'),
      words,
      recipients: recipientRules.default(toPersonInCharge),
      sender: senderRule.default('business'),
    })
    .strict(),
  z.object({ ...internal, kind: z.literal('task'), ...taskAsked }).strict(),
  z.object({ ...internal, kind: z.literal('tag'), ...tagGiven }).strict(),
  z.object({ ...internal, kind: z.literal('stage'), ...stageGiven }).strict(),
  z.object({ ...internal, kind: z.literal('status'), ...statusGiven }).strict(),
  z.object({ ...internal, kind: z.literal('date stamp'), ...dateStamped }).strict(),
  z
    .object({
      ...internal,
      kind: z.literal('list'),
      list: requiredLine(60, 'Which list?'),
      joins: z.boolean().default(true),
    })
    .strict(),
  z
    .object({ ...internal, kind: z.literal('sequence'), sequenceId, starts: z.boolean().default(true) })
    .strict(),
  z
    .object({ ...internal, kind: z.literal('web call'), url: z.url({ protocol: /^https?$/ }).max(500) })
    .strict(),
])
export type PlainStep = z.infer<typeof plainStep>
export type StepKind = PlainStep['kind']
export const stepKind = z.enum(plainStep.options.map(({ shape }): StepKind => shape.kind.value))

interface StepTraits {
  /** What of its recipients it goes to; null: it goes to nobody. */
  readonly goesTo: 'email' | 'phone' | null
  /** It is for clients: it has a purpose, and counts among what they get. */
  readonly isForClients: boolean
}

const inTheHouse: StepTraits = { goesTo: null, isForClients: false }

export const stepTraits: Readonly<Record<StepKind, StepTraits>> = {
  mail: { goesTo: 'email', isForClients: true },
  'text message': { goesTo: 'phone', isForClients: true },
  'note to staff': { goesTo: 'email', isForClients: false },
  task: inTheHouse,
  tag: inTheHouse,
  stage: inTheHouse,
  status: inTheHouse,
  'date stamp': inTheHouse,
  list: inTheHouse,
  sequence: inTheHouse,
  'web call': inTheHouse,
}
export type MailStep = Extract<PlainStep, { kind: 'mail' }>
export type MessageStep = Extract<PlainStep, { recipients: unknown }>

/**
 * A fork: the first arm is taken as soon as the condition holds, the second when the latest moment has come without
 * it. `timing` is that latest moment; counted from the previous step, it is watched from when that one is done.
 */
export interface BranchStep {
  readonly kind: 'branch'
  readonly id: string
  readonly condition: Condition
  readonly timing: Timing
  readonly yes: readonly Step[]
  readonly no: readonly Step[]
}
export type Step = PlainStep | BranchStep

const branchTiming = timing.refine(
  ({ kind }) => kind === 'elapsed' || kind === 'calendar' || kind === 'after previous',
  'A branch is decided at the latest some time after the previous step, or before or after an anchor.',
)

const arm = z.lazy((): z.ZodType<Step[]> => z.array(step).max(50))
const branchStep = z
  .object({ kind: z.literal('branch'), id: stepId, condition, timing: branchTiming, yes: arm, no: arm })
  .strict()

export const step: z.ZodType<Step> = z.discriminatedUnion('kind', [...plainStep.options, branchStep])

export const isBranch = (of: Step): of is BranchStep => of.kind === 'branch'
/** Whether a step's message is promotional: it needs consent, keeps its distance from others, and can be ended. */
export const isPromotional = (of: PlainStep): boolean =>
  of.purpose === 'promotional' || (of.purpose === 'occasion' && 'isOffer' in of && of.isOffer)
export const isMessage = (of: Step): of is MessageStep => 'recipients' in of

const kindsThat = (has: (traits: StepTraits) => boolean) =>
  stepKind.options.filter((kind) => has(stepTraits[kind])).toSorted()

/** Groups of kinds by the names that queries use. */
export const stepGroups: Readonly<Record<string, readonly StepKind[]>> = {
  toSomebody: kindsThat(({ goesTo }) => goesTo !== null),
  forClients: kindsThat(({ isForClients }) => isForClients),
}
