import { workOf } from '../sequences/standIns.ts'
import type { ConditionFacts } from '../conditions/evaluate.ts'
import type { Booking } from '../model/booking.ts'
import type { Person } from '../model/business.ts'
import type { Client } from '../model/client.ts'
import type { Invoice } from '../model/dealings.ts'
import type { Enquiry } from '../model/enquiry.ts'
import type { Run } from '../model/sequence.ts'
import type { PlainStep } from '../model/step.ts'
import { rulesOf, type PurposeDefaults } from '../sequences/purposes.ts'
import type { Recipient, RecipientFacts } from '../sequences/recipients.ts'
import type { OpenTimes } from '../time/openTimes.ts'
import { clockTime, dateAndTime } from '../time/format.ts'
import { offsetAt, type Zone } from '../time/zones.ts'
import { aboutOf, serviceIdOf } from './about.ts'
import {
  calendarsOf,
  openTimesOfStep,
  sendingTimesFor,
  type ClientFacts,
  type Settings,
  type Slice,
  zoneFor,
} from './slice.ts'

/** What a run works for, with its facts. */
export interface RunFacts {
  readonly run: Run
  readonly settings: Settings
  readonly facts: ClientFacts
  readonly client: Client
  /** The booking it is about: its subject, or that of its invoice; null: none. */
  readonly booking: Booking | null
  readonly enquiry: Enquiry | null
  readonly invoice: Invoice | null
  readonly serviceId: string | null
  /** Who is in charge and still there; null: the business. */
  readonly personInCharge: Person | null
  /** Zone of event times, offsets, times of day and words: the place's, else the business's. */
  readonly zone: Zone
  /** Zone of the client's own dates: the client's, else the place's. */
  readonly clientZone: Zone
  readonly sendingHours: OpenTimes
  readonly officeHours: OpenTimes
}

/** One step of a run for one recipient, with all that the rules of time need to plan it. */
export interface StepFacts extends RunFacts {
  readonly step: PlainStep
  readonly recipient: Recipient
  /** Since when its own rules of time count: a new version, a variation, the arm of a branch. */
  readonly stepSince: number
  readonly rules: PurposeDefaults
  /** When it may go: within the hours it keeps to, on its days. */
  readonly openTimes: OpenTimes
  /** Zone of its time of day: the place's; that of a client's own dates is the client's. */
  readonly stepZone: Zone
  /** Where it stands among the steps of its sequence. */
  readonly index: number
}

/** When a step of a run may go. */
export function openTimesOf({ settings, clientZone }: RunFacts, step: PlainStep): OpenTimes {
  const { sendingHours } = rulesOf(step)
  const keepsTo =
    sendingHours === 'any day'
      ? 'waking hours'
      : sendingHours === 'ignore' || step.timing.kind === 'evening'
        ? 'no hours'
        : 'sending hours'
  return openTimesOfStep(settings, clientZone.name, keepsTo, step.onlyDays)
}

/** The facts of one step. Written out field by field: this runs for every message planned, and copying is slow. */
export function stepFacts(
  of: RunFacts,
  step: PlainStep,
  recipient: Recipient,
  stepSince: number,
  index: number,
): StepFacts {
  return {
    run: of.run,
    settings: of.settings,
    facts: of.facts,
    client: of.client,
    booking: of.booking,
    enquiry: of.enquiry,
    invoice: of.invoice,
    serviceId: of.serviceId,
    personInCharge: of.personInCharge,
    zone: of.zone,
    clientZone: of.clientZone,
    sendingHours: of.sendingHours,
    officeHours: of.officeHours,
    step,
    recipient,
    stepSince,
    rules: rulesOf(step),
    openTimes: openTimesOf(of, step),
    stepZone: step.timing.kind === 'yearly' ? of.clientZone : of.zone,
    index,
  }
}

/** The facts of a run, or null where its subject is gone. */
export function runFacts(run: Run, { settings, facts }: Slice): RunFacts | null {
  const { booking, enquiry, invoice, isThere } = aboutOf(run.subject, facts)
  if (!isThere) return null
  const serviceId = serviceIdOf({ booking, enquiry })
  const inChargeId = booking?.personInChargeId ?? enquiry?.personInChargeId ?? null
  const personInCharge = workOf(settings.people, inChargeId)
  const zone = zoneFor(settings, serviceId)
  const clientZone = facts.client.zone === null ? zone : settings.zones.zone(facts.client.zone)
  return {
    run,
    settings,
    facts,
    client: facts.client,
    booking,
    enquiry,
    invoice,
    serviceId,
    personInCharge,
    zone,
    clientZone,
    sendingHours: sendingTimesFor(settings, clientZone.name),
    officeHours: calendarsOf(settings).office,
  }
}

/** What the recipients of a run's messages are chosen from. */
export function recipientFacts({
  client,
  settings,
  personInCharge,
  booking,
  enquiry,
}: RunFacts): RecipientFacts {
  const { business, people } = settings
  const ofEnquiry = enquiry && { payerId: null, participantIds: enquiry.contactIds }
  return { client, business, people, personInCharge, named: booking?.people ?? ofEnquiry }
}

/** The facts of a run as conditions are asked about them. */
export function conditionFacts(of: RunFacts, now: number): ConditionFacts {
  const { client, booking, enquiry, invoice, run, facts, zone, officeHours } = of
  const { bookings, happenings } = facts
  const clock = { zone, officeHours }
  return { now, runStartedAt: run.startedAt, client, booking, enquiry, invoice, bookings, happenings, clock }
}

/** How traces name a time: on the clock of the business, and that of the place where it shows another time. */
export function inWords({ zone, sendingHours }: Pick<RunFacts, 'zone' | 'sendingHours'>, at: number): string {
  const words = dateAndTime(sendingHours.zone, at)
  if (offsetAt(zone, at) === offsetAt(sendingHours.zone, at)) return words
  const there = clockTime(zone, at)
  return there === clockTime(sendingHours.zone, at) ? words : `${words} (${there} at the place)`
}
