import ICAL from 'ical.js'
import type { CalendarEntry } from '#core/booking/broughtIn.ts'
import { calendarLines, type CalendarFault } from '#core/booking/calendarLines.ts'
import { emailAddress } from '#core/model/values.ts'
import { realZones } from '#core/time/realZones.ts'
import { instantOf, type Zone } from '#core/time/zones.ts'
import { dayMs, epochDayOf } from '#core/time/calendar.ts'

/** So many entries, those of repeated ones counted each, are read from one file. */
export const mostEntries = 5000
/** Repeated entries are read so far ahead. */
const aheadMs = 730 * dayMs

export type ReadCalendar =
  | {
      readonly ok: true
      readonly entries: readonly CalendarEntry[]
      /** There are more than are read. */ readonly isCut: boolean
    }
  | { readonly ok: false; readonly fault: CalendarFault }

/** A calendar as its parser gives it (RFC 7265): name, properties, parts. */
type Part = [name: string, properties: unknown[], parts: Part[]]

/** What stands before and after a moment of reading. */
interface Reading {
  /** Times without a zone are on this clock. */
  readonly zone: Zone
  readonly now: number
}

class Unreadable extends Error {}

const two = (value: number) => String(value).padStart(2, '0')

/** A time of a file as an instant: by the rules we know of its zone, else by those the file brings along. */
function instantIn(time: ICAL.Time, zoneName: string | null, { zone }: Reading): number {
  if (time.isDate) throw new Unreadable('an all-day entry has no time at which a booking could begin.')
  const isUtc = time.zone.tzid === 'UTC'
  if (isUtc) return time.toJSDate().getTime()
  const isKnown = zoneName !== null && realZones.has(zoneName)
  if (zoneName !== null && !isKnown) {
    if (time.zone.tzid !== zoneName) {
      throw new Unreadable(`there is no time zone named ${zoneName}, and the file does not say what it is.`)
    }
    return time.toJSDate().getTime()
  }
  const { year, month, day, hour, minute, second } = time
  const msOfDay = ((hour * 60 + minute) * 60 + second) * 1000
  const date = `${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`
  return instantOf(isKnown ? realZones.zone(zoneName) : zone, { day: epochDayOf(date), msOfDay })
}

const zoneOf = (event: ICAL.Component, name: string): string | null => {
  const property = event.getFirstProperty(name)
  const given = property?.getParameter('tzid')
  return typeof given === 'string' ? given : null
}

const textOf = (event: ICAL.Component, name: string): string => {
  const value = event.getFirstPropertyValue(name)
  return typeof value === 'string' ? value.replace(/\s+/g, ' ').trim().slice(0, 120) : ''
}

function attendeesOf(event: ICAL.Component): CalendarEntry['attendees'] {
  return event.getAllProperties('attendee').flatMap((property) => {
    const email = String(property.getFirstValue() ?? '').replace(/^mailto:/i, '')
    const name = property.getParameter('cn')
    const plain = typeof name === 'string' ? name.replace(/\p{Cc}/gu, ' ').slice(0, 120) : ''
    return emailAddress.safeParse(email).success ? [{ name: plain, email }] : []
  })
}

const pad = (text: string) => text.slice(0, 300)

/** What calendars do not say. */
const plain = { serviceId: null, phone: '', partySize: 1 } as const

/** The entries that one part of a file stands for: one, or each time of a repeated one. */
function entriesOf(event: ICAL.Component, line: number, reading: Reading): readonly CalendarEntry[] {
  const uid = pad(textOf(event, 'uid') || `line ${line}`)
  const said = {
    ...plain,
    line,
    title: textOf(event, 'summary'),
    attendees: attendeesOf(event),
    isCancelled: textOf(event, 'status').toUpperCase() === 'CANCELLED',
  }
  const read = new ICAL.Event(event)
  const zone = zoneOf(event, 'dtstart')
  if (!event.hasProperty('dtstart')) throw new Unreadable('it says no start.')
  const endZone = event.hasProperty('dtend') ? zoneOf(event, 'dtend') : zone
  const hasEnd = event.hasProperty('dtend') || event.hasProperty('duration')
  const times = (start: ICAL.Time, end: ICAL.Time) => ({
    startAt: instantIn(start, zone, reading),
    endAt: hasEnd ? instantIn(end, endZone, reading) : null,
  })
  const moved = event.getFirstPropertyValue('recurrence-id')
  if (!read.isRecurring()) {
    const key =
      moved instanceof ICAL.Time ? `${uid} ${instantIn(moved, zoneOf(event, 'recurrence-id'), reading)}` : uid
    return [{ ...said, key, ...times(read.startDate, read.endDate), fault: null }]
  }
  return repeated(read, times, reading).map((one) => ({
    ...said,
    key: `${uid} ${one.startAt}`,
    ...one,
    fault: null,
  }))
}

type Times = Pick<CalendarEntry, 'startAt' | 'endAt'>

/** The times of a repeated entry that are still ahead, as far as it is read. */
function repeated(
  read: ICAL.Event,
  times: (start: ICAL.Time, end: ICAL.Time) => Times,
  { now }: Reading,
): readonly Times[] {
  const found: Times[] = []
  const each = read.iterator()
  for (let count = 0; count < 20_000; count += 1) {
    const next = each.next() as ICAL.Time | null
    if (!next) break
    const { startDate, endDate } = read.getOccurrenceDetails(next)
    const one = times(startDate, endDate)
    if (one.startAt > now + aheadMs || found.length >= mostEntries) break
    if (one.startAt > now) found.push(one)
  }
  return found
}

const faultOf = (fault: unknown) => {
  if (fault instanceof Unreadable) return fault.message
  const why = fault instanceof Error ? fault.message.slice(0, 120) : 'it is no entry.'
  return `it cannot be read: ${why}`
}

/** One part of the file with the zones it may name, apart from all the others. */
function entriesOfPart(part: Part, zones: readonly Part[], line: number, reading: Reading) {
  const calendar = new ICAL.Component(['vcalendar', [], [...zones, part]])
  const event = calendar.getFirstSubcomponent('vevent')
  if (!event) return []
  try {
    return entriesOf(event, line, reading)
  } catch (fault) {
    const nothing = { ...plain, startAt: 0, endAt: null, attendees: [], isCancelled: false }
    const said = { line, key: `line ${line}`, title: textOf(event, 'summary') }
    return [{ ...nothing, ...said, fault: faultOf(fault) }]
  }
}

/** Single times of a repeated entry that were changed stand in the place of those they change. */
function withoutChanged(entries: readonly CalendarEntry[]): readonly CalendarEntry[] {
  const last = new Map(entries.map((entry, index) => [entry.key, index]))
  return entries.filter(
    (entry, index) => entry.fault !== null || last.get(entry.key) === index || !entry.key.includes(' '),
  )
}

/** The entries of an iCalendar file (RFC 5545); one that cannot be read says so and costs only itself. */
export function readCalendar(text: string, reading: Reading): ReadCalendar {
  const lines = calendarLines(text)
  if (!lines.ok) return lines
  let calendars: Part[]
  try {
    const parsed = ICAL.parse(text) as unknown as Part | Part[]
    calendars = typeof parsed[0] === 'string' ? [parsed as Part] : (parsed as Part[])
  } catch (fault) {
    return { ok: false, fault: { line: 1, sentence: `The file ${faultOf(fault)}` } }
  }
  const parts = calendars.flatMap(([, , all]) => {
    const zones = all.filter(([name]) => name === 'vtimezone')
    return all.filter(([name]) => name === 'vevent').map((part) => ({ part, zones }))
  })
  const found: CalendarEntry[] = []
  for (const [index, { part, zones }] of parts.entries()) {
    if (found.length > 2 * mostEntries) break
    found.push(...entriesOfPart(part, zones, lines.eventLines[index] ?? 1, reading))
  }
  const entries = withoutChanged(found)
  return { ok: true, entries: entries.slice(0, mostEntries), isCut: entries.length > mostEntries }
}
