import type { Booking } from '../model/booking.ts'
import type { Business, Person, Service } from '../model/business.ts'
import type { Client } from '../model/client.ts'
import { startRule, step, type Sequence, type SequenceVersion, type Step } from '../model/sequence.ts'
import type { Settings } from '../planning/slice.ts'
import { starterLetters } from '../sequences/starters.ts'
import { epochDayOf, minuteOfDay } from '../time/calendar.ts'
import { instantAt, type ZoneTable } from '../time/zones.ts'

/** A small made-up business to try rules on: open for sending 08:00 to 20:00 every day, in Berlin. */
export const exampleBusiness: Business = {
  name: 'Kiteworks',
  zone: 'Europe/Berlin',
  postalAddress: 'Kiteworks, Dune Road 1, 00000 Sandby',
  phone: '+49 000 5550100',
  senderName: 'Kiteworks',
  senderAddress: 'hello@kiteworks.example',
  sendingHours: {
    weekly: Array.from({ length: 7 }, () => [{ from: '08:00', to: '20:00' }]),
    holidays: 'open',
    closedDates: [],
  },
  officeHours: {
    weekly: Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ from: '08:00', to: '17:00' }] : [])),
    holidays: 'closed',
    closedDates: [],
  },
  holidayRegion: { country: 'DE', subdivision: null },
  completesAfterHours: 12,
  settleMinutes: 2,
  leapDay: '28 February',
  promotionalPerDay: 1,
  promotionalGapHours: 24,
  moveThresholdMinutes: 15,
}

export const examplePerson: Person = {
  id: 'pe_ada',
  name: 'Ada Windermeer',
  email: 'ada@kiteworks.example',
  role: 'owner',
  isActive: true,
}

export const exampleService: Service = {
  id: 'sv_lesson',
  name: 'Kite lesson',
  place: 'South beach',
  placeZone: null,
  durationMinutes: 120,
  seats: 4,
  isActive: true,
}

export const exampleClient: Client = {
  id: 'cl_1',
  name: 'Enno Brackwater',
  zone: null,
  language: 'en',
  contacts: [
    {
      id: 'ct_1',
      firstName: 'Enno',
      lastName: 'Brackwater',
      email: 'enno@brackwater.example',
      phone: '',
      isPrimary: true,
    },
  ],
  namedDates: [],
  tags: [],
  takesPromotional: true,
  isActive: true,
  addedAt: 0,
  revision: 1,
}

/** A step with a purpose and a time; everything else as the purpose says. */
export function exampleStep(part: Pick<Step, 'id' | 'purpose' | 'timing'> & Partial<Step>): Step {
  return step.parse({ kind: 'mail', letterId: 'lt_starter-reminder', ...part })
}

export const exampleSteps: readonly Step[] = [
  exampleStep({
    id: 'st_confirm',
    purpose: 'confirmation',
    letterId: 'lt_starter-confirmation',
    timing: { kind: 'at once' },
  }),
  exampleStep({
    id: 'st_evening',
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

const exampleVersion = (steps: readonly Step[]): SequenceVersion => ({
  sequenceId: 'sq_1',
  version: 1,
  start: startRule.parse({ on: 'booking confirmed' }),
  steps: [...steps],
  stops: [],
})

const exampleSequence: Sequence = {
  id: 'sq_1',
  name: 'Before a lesson',
  state: 'live',
  liveSince: 0,
  currentVersion: 1,
}

/** The settings of the example business with one live sequence of the given steps. */
export function exampleSettings(zones: ZoneTable, steps: readonly Step[] = exampleSteps): Settings {
  return {
    business: exampleBusiness,
    people: [examplePerson],
    services: [exampleService],
    letters: starterLetters,
    sequences: [exampleSequence],
    sequenceVersions: [exampleVersion(steps)],
    zones,
    isHoliday: () => false,
    isSendingOn: true,
  }
}

/** An instant from a local reading such as `2026-05-16 05:20`. */
export function at(zones: ZoneTable, zoneName: string, local: string): number {
  return instantAt(zones.zone(zoneName), epochDayOf(local.slice(0, 10)), minuteOfDay(local.slice(11)))
}

/** A confirmed booking of the example client, made and last changed at the same moment. */
export function exampleBooking(startAt: number, madeAt: number): Booking {
  return {
    id: 'bk_1',
    clientId: exampleClient.id,
    serviceId: exampleService.id,
    personInChargeId: examplePerson.id,
    status: 'confirmed',
    startAt,
    endAt: startAt + 7_200_000,
    partySize: 2,
    sessions: [],
    madeAt,
    statusAt: { confirmed: madeAt },
    timesSetAt: madeAt,
    settling: null,
    revision: 1,
  }
}
