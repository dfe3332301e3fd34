import ical, { ICalCalendarMethod, ICalEventStatus } from 'ical-generator'
import type { Appointment } from '#core/letters/appointment.ts'

/** An appointment as an iCalendar file (RFC 5545) that a calendar takes in and a later one replaces. */
export function calendarFile(appointment: Appointment, at: number): string {
  const { uid, sequence, startAt, endAt, summary, location, organizer, isCancelled } = appointment
  const calendar = ical({
    prodId: { company: 'Vorfreude', product: 'Vorfreude' },
    method: isCancelled ? ICalCalendarMethod.CANCEL : ICalCalendarMethod.PUBLISH,
  })
  calendar.createEvent({
    id: uid,
    sequence,
    stamp: new Date(at),
    start: new Date(startAt),
    end: new Date(endAt),
    summary,
    location,
    organizer,
    status: isCancelled ? ICalEventStatus.CANCELLED : ICalEventStatus.CONFIRMED,
  })
  return calendar.toString()
}
