import { z } from 'zod'
import type { BookingStatus } from './booking.ts'
import type { SubjectKind } from './subject.ts'

/*
 * What can set a run going, each described once. The act starts it; being so already does nothing.
 */

interface Traits {
  /** What a run that it starts works for; what happens to the client can end any run of theirs. */
  readonly subject: SubjectKind
  /** What it happens to by name, such as one of many tags; null: there is only one kind. */
  readonly named: string | null
  /** Sequences start only when the change has settled. Stops act at once. */
  readonly settles: boolean
  /** How a booking stands after it; null: it says nothing of that. */
  readonly status: BookingStatus | null
}

const ofBooking = (status: BookingStatus, settles: boolean): Traits => ({
  subject: 'booking',
  named: null,
  settles,
  status,
})
const plain = { named: null, settles: false, status: null } as const

const acts = {
  'booking requested': ofBooking('requested', true),
  'booking confirmed': ofBooking('confirmed', false),
  'booking moved': ofBooking('confirmed', true),
  'booking cancelled': ofBooking('cancelled', true),
  'booking completed': ofBooking('completed', false),
  'booking missed': ofBooking('missed', true),
  /** One of the business's own. */
  'booking status entered': { ...plain, subject: 'booking', named: 'status', settles: true },
  'enquiry received': { ...plain, subject: 'enquiry' },
  'enquiry stage entered': { ...plain, subject: 'enquiry', named: 'stage' },
  /** A person pressed a move of one press. */
  'booking move pressed': { ...plain, subject: 'booking', named: 'move' },
  'enquiry move pressed': { ...plain, subject: 'enquiry', named: 'move' },
  'invoice issued': { ...plain, subject: 'invoice' },
  'invoice paid': { ...plain, subject: 'invoice' },
  'tag added': { ...plain, subject: 'client', named: 'tag', settles: true },
  'list joined': { ...plain, subject: 'client', named: 'list' },
  'form received': { ...plain, subject: 'client', named: 'form' },
  signed: { ...plain, subject: 'client', named: 'document' },
  /** A yearly date of the client became known, such as the birthday. */
  'date known': { ...plain, subject: 'client', named: 'date' },
} as const satisfies Readonly<Record<string, Traits>>

/** Something that happens to a booking, an enquiry, an invoice or a client. */
export type StartAct = keyof typeof acts
export const startActs = Object.keys(acts) as readonly StartAct[]

/** A start event that stands for several acts, and those. */
const severalActs = {
  /** Asked for or made confirmed, whichever the business takes bookings by. */
  'booking made or confirmed': ['booking requested', 'booking confirmed'],
} as const satisfies Readonly<Record<string, readonly StartAct[]>>

export const startEvent = z.enum(['booking made or confirmed', ...startActs])
export type StartEvent = z.infer<typeof startEvent>

export const startTraits: Readonly<Record<StartEvent, Traits>> = {
  'booking made or confirmed': { ...plain, subject: 'booking' },
  ...acts,
}

/** Whether what happens can set a run going, and does not only end one or stand in the history. */
export const isStartEvent = (happens: string): happens is StartEvent => Object.hasOwn(startTraits, happens)

/** The acts that a start event stands for. */
export function actsOf(on: StartEvent): readonly StartAct[] {
  return on in severalActs ? severalActs[on as keyof typeof severalActs] : [on as StartAct]
}

/** What ends a run beside what can start one: something the client does, or the end of what it leads up to. */
export const onlyStopEvents = ['answered', 'booked', 'opted out', 'event over'] as const
