import type { Booking } from '../model/booking.ts'
import type { Client } from '../model/client.ts'
import type { Comparison, Condition, ConditionField, Operand, Test } from '../model/condition.ts'
import type { Happening, Invoice } from '../model/dealings.ts'
import type { Enquiry } from '../model/enquiry.ts'
import { hourMs, weekdayNames, weekdayOf } from '../time/calendar.ts'
import { isClosedOn, type OpenTimes } from '../time/openTimes.ts'
import { dayAt, wallAt, type Zone } from '../time/zones.ts'

/** The facts a condition is asked about. */
export interface ConditionFacts {
  readonly now: number
  readonly runStartedAt: number
  readonly client: Client
  readonly booking: Booking | null
  readonly enquiry: Enquiry | null
  readonly invoice: Invoice | null
  readonly bookings: readonly Booking[]
  readonly happenings: readonly Happening[]
  /** The clock of the event's place, and the days on which the office works. */
  readonly clock: { readonly zone: Zone; readonly officeHours: OpenTimes }
}

/** A field's value: several for tags and lists, none where the fact is missing. */
type Value = readonly Operand[]

const one = (value: Operand | null | undefined): Value => (value == null ? [] : [value])
const hoursBetween = (from: number, to: number) => Math.floor((to - from) / hourMs)

function hasHappened({ happenings, runStartedAt }: ConditionFacts, kind: Happening['kind']): Value {
  return [happenings.some((happening) => happening.kind === kind && happening.at >= runStartedAt)]
}

/** The lists somebody is on: joined, and not left since. `happenings` are in the order of time. */
export function listsOf(happenings: readonly Happening[]): readonly string[] {
  const lists = new Set<string>()
  for (const { kind, name } of happenings) {
    if (kind === 'list joined') lists.add(name)
    if (kind === 'list left') lists.delete(name)
  }
  return [...lists]
}

type Moment = (facts: ConditionFacts) => number | undefined
const startOf: Moment = ({ booking }) => booking?.startAt
const madeOf: Moment = ({ booking }) => booking?.madeAt

const weekday = (of: Moment) => (facts: ConditionFacts) => {
  const at = of(facts)
  return at === undefined ? [] : one(weekdayNames[weekdayOf(dayAt(facts.clock.zone, at)) - 1])
}
/** The hour of the clock at the place, 0 to 23. */
const hour = (of: Moment) => (facts: ConditionFacts) => {
  const at = of(facts)
  return at === undefined ? [] : [Math.floor(wallAt(facts.clock.zone, at).msOfDay / hourMs)]
}
/** A working day is judged by the date of the business. */
const workingDay = (of: Moment) => (facts: ConditionFacts) => {
  const at = of(facts)
  const { officeHours } = facts.clock
  return at === undefined ? [] : [!isClosedOn(officeHours, dayAt(officeHours.zone, at))]
}

const isStanding = ({ status }: Booking) => status === 'confirmed' || status === 'requested'

const readers: Readonly<Record<ConditionField, (facts: ConditionFacts) => Value>> = {
  'booking.status': ({ booking }) => one(booking?.status),
  'booking.own status': ({ booking }) => one(booking?.own.status),
  'booking.status ever reached': ({ booking }) => booking?.history.reached ?? [],
  'booking.service': ({ booking }) => one(booking?.serviceId),
  'booking.party size': ({ booking }) => one(booking?.partySize),
  'booking.hours until start': ({ booking, now }) => one(booking && hoursBetween(now, booking.startAt)),
  'booking.hours between booking and start': ({ booking }) =>
    one(booking && hoursBetween(booking.madeAt, booking.startAt)),
  'booking.start: weekday': weekday(startOf),
  'booking.start: hour': hour(startOf),
  'booking.start: working day': workingDay(startOf),
  'booking.made: weekday': weekday(madeOf),
  'booking.made: hour': hour(madeOf),
  'booking.made: working day': workingDay(madeOf),
  'enquiry.stage': ({ enquiry }) => one(enquiry?.stage),
  'enquiry.service': ({ enquiry }) => one(enquiry?.serviceId),
  'invoice.paid': ({ invoice }) => one(invoice && invoice.paidAt !== null),
  'invoice.amount': ({ invoice }) => one(invoice && invoice.amountCents / 100),
  'invoice.asks for': ({ invoice }) => one(invoice?.reason),
  'client.tag': ({ client }) => client.tags,
  'client.list': ({ happenings }) => listsOf(happenings),
  'client.language': ({ client }) => [client.language],
  'client.takes promotional mail': ({ client }) => [client.takesPromotional],
  'client.has a booking ahead': ({ bookings, now }) => [
    bookings.some((booking) => isStanding(booking) && booking.startAt > now),
  ],
  'since the run started: answered': (facts) => hasHappened(facts, 'answered'),
  'since the run started: opened': (facts) => hasHappened(facts, 'opened'),
  'since the run started: followed a link': (facts) => hasHappened(facts, 'followed a link'),
  'since the run started: form received': (facts) => hasHappened(facts, 'form received'),
  'since the run started: signed': (facts) => hasHappened(facts, 'signed'),
  'since the run started: booked': ({ bookings, runStartedAt }) => [
    bookings.some(({ madeAt }) => madeAt > runStartedAt),
  ],
}

const comparisons: Readonly<Record<Comparison, (value: Value, wanted: readonly Operand[]) => boolean>> = {
  is: (value, wanted) => value.some((part) => part === wanted[0]),
  'is not': (value, wanted) => !value.some((part) => part === wanted[0]),
  'is one of': (value, wanted) => value.some((part) => wanted.includes(part)),
  'is none of': (value, wanted) => !value.some((part) => wanted.includes(part)),
  'is at least': (value, wanted) => value.some((part) => Number(part) >= Number(wanted[0])),
  'is at most': (value, wanted) => value.some((part) => Number(part) <= Number(wanted[0])),
}

/** Whether a condition holds, and the first test that decides against it, with the fact as it is. */
export type Evaluation =
  { readonly holds: true } | { readonly holds: false; readonly because: Test | null; readonly fact: Value }

const holds: Evaluation = { holds: true }

function evaluateTest(asked: Test, facts: ConditionFacts): Evaluation {
  const value = readers[asked.field](facts)
  const wanted = Array.isArray(asked.value) ? asked.value : [asked.value]
  return comparisons[asked.comparison](value, wanted) ? holds : { holds: false, because: asked, fact: value }
}

/** Whether a condition holds. Nothing in `all` or `none` holds, nothing in `any` does not. */
export function evaluate(condition: Condition, facts: ConditionFacts): Evaluation {
  if ('all' in condition) {
    return condition.all.map((part) => evaluate(part, facts)).find((part) => !part.holds) ?? holds
  }
  if ('any' in condition) {
    const parts = condition.any.map((part) => evaluate(part, facts))
    return parts.some((part) => part.holds) ? holds : (parts[0] ?? { holds: false, because: null, fact: [] })
  }
  if ('none' in condition) {
    const offending = condition.none.find((part) => evaluate(part, facts).holds)
    if (!offending) return holds
    const asked = 'field' in offending ? offending : null
    return { holds: false, because: asked, fact: asked ? readers[asked.field](facts) : [] }
  }
  return evaluateTest(condition, facts)
}

/** A test as a sentence, with the fact it met. */
export function testWords({ field, comparison, value }: Test, fact: readonly Operand[]): string {
  const wanted = Array.isArray(value) ? value.join(', ') : String(value)
  const present = fact.length === 0 ? 'it has no value' : `it is ${fact.join(', ')}`
  return `${field} ${comparison} ${wanted}: ${present}.`
}
