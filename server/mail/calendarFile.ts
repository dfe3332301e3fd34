import { TZDate } from '@date-fns/tz'
import ical, {
  ICalAttendeeRole,
  ICalAttendeeStatus,
  ICalCalendarMethod,
  ICalEventStatus,
  type ICalAttendeeData,
  type ICalCalendar,
} from 'ical-generator'
import { tzlib_get_ical_block as zoneBlocks, tzlib_get_timezones as zoneNames } from 'timezones-ical-library'
import type { Appointment } from '#core/letters/appointment.ts'
import { instantOfLocal, localAt } from '#core/time/localText.ts'
import { realZones } from '#core/time/realZones.ts'

/** Who an appointment is sent to. */
export interface Attendee {
  readonly name: string
  readonly address: string
}

/** What a calendar is to do with an appointment (RFC 5546, 3.2): nobody invited, it is only shown. */
export function methodOf({ state }: Appointment, attendee: Attendee | null): ICalCalendarMethod {
  if (state === 'cancelled') return ICalCalendarMethod.CANCEL
  return attendee === null ? ICalCalendarMethod.PUBLISH : ICalCalendarMethod.REQUEST
}

const statuses = {
  tentative: ICalEventStatus.TENTATIVE,
  confirmed: ICalEventStatus.CONFIRMED,
  cancelled: ICalEventStatus.CANCELLED,
} as const

const known: ReadonlySet<string> = new Set(zoneNames() as string[])

/** Whether the clock of a zone tells a moment from every other: not where it is put back over it, the second time. */
function isTold(zoneName: string, at: number): boolean {
  const zone = realZones.zone(zoneName)
  return instantOfLocal(zone, localAt(zone, at)) === at
}

/** The rules of the zone an appointment stands in, as a calendar reads them; null: its times stand in UTC. */
function zoneBlock({ zoneName, startAt, endAt }: Appointment): string | null {
  if (!known.has(zoneName) || !realZones.has(zoneName)) return null
  if (!isTold(zoneName, startAt) || !isTold(zoneName, endAt)) return null
  return (zoneBlocks(zoneName) as readonly string[])[0] ?? null
}

const attending = ({ name, address }: Attendee, { state }: Appointment): ICalAttendeeData => ({
  name,
  email: address,
  role: ICalAttendeeRole.REQ,
  // Who has booked comes: nothing has to be answered.
  status: state === 'confirmed' ? ICalAttendeeStatus.ACCEPTED : ICalAttendeeStatus.TENTATIVE,
  rsvp: false,
})

const program = { company: 'Vorfreude', product: 'Vorfreude' }

/** Puts an appointment into a calendar, on the clock of its place where a calendar can be told its rules. */
function addTo(calendar: ICalCalendar, appointment: Appointment, at: number, attendee: Attendee | null) {
  const { uid, url, state, startAt, endAt, zoneName, ...said } = appointment
  const isKnown = zoneBlock(appointment) !== null
  calendar.createEvent({
    ...said,
    id: uid,
    url: url || null,
    stamp: new Date(at),
    start: isKnown ? new TZDate(startAt, zoneName) : new Date(startAt),
    end: isKnown ? new TZDate(endAt, zoneName) : new Date(endAt),
    timezone: isKnown ? zoneName : null,
    status: statuses[state],
    attendees: attendee === null ? [] : [attending(attendee, appointment)],
  })
}

// RFC 5545, section 3.1: every line ends with CRLF, the last one too.
const written = (calendar: ICalCalendar) => `${calendar.toString().trimEnd()}\r\n`

/**
 * An appointment as an iCalendar file (RFC 5545, RFC 5546) that a calendar takes in and a later one replaces: the same
 * UID, a higher SEQUENCE. `attendee`: who it is sent to; null: it is only given out.
 */
export function calendarFile(appointment: Appointment, at: number, attendee: Attendee | null = null): string {
  const calendar = ical({ prodId: program, method: methodOf(appointment, attendee) })
  const block = zoneBlock(appointment)
  if (block !== null) calendar.timezone({ name: appointment.zoneName, generator: () => block })
  addTo(calendar, appointment, at, attendee)
  return written(calendar)
}

/** Appointments as a calendar that others only read, and ask for again about every hour. */
export function calendarFeed(name: string, appointments: readonly Appointment[], at: number): string {
  const calendar = ical({ prodId: program, method: ICalCalendarMethod.PUBLISH, name, ttl: 3600 })
  calendar.timezone({ name: null, generator: (zone) => (zoneBlocks(zone) as readonly string[])[0] ?? null })
  for (const one of appointments) addTo(calendar, one, at, null)
  return written(calendar)
}
