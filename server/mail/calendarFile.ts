import ical, { ICalCalendarMethod, ICalEventStatus } from 'ical-generator'
import type { Appointment } from '#core/letters/appointment.ts'

/** An appointment as an iCalendar file (RFC 5545) that a calendar takes in and a later one replaces. */
export function calendarFile(appointment: Appointment, at: number): string {
  const { uid, url, isCancelled, startAt, endAt, ...said } = appointment
  const calendar = ical({
    prodId: { company: 'Vorfreude', product: 'Vorfreude' },
    method: isCancelled ? ICalCalendarMethod.CANCEL : ICalCalendarMethod.PUBLISH,
  })
  calendar.createEvent({
    ...said,
    id: uid,
    url: url || null,
    stamp: new Date(at),
    start: new Date(startAt),
    end: new Date(endAt),
    status: isCancelled ? ICalEventStatus.CANCELLED : ICalEventStatus.CONFIRMED,
  })
  // RFC 5545, section 3.1: every line ends with CRLF, the last one too.
  return `${calendar.toString().trimEnd()}\r\n`
}
