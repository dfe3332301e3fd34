import { longestMs, serviceNamed, type CalendarEntry } from '../booking/broughtIn.ts'
import { folded } from '../model/folded.ts'
import { emailAddress } from '../model/values.ts'
import { placeZone, type Settings } from '../planning/slice.ts'
import { minuteMs } from '../time/calendar.ts'
import { instantOfLocal } from '../time/localText.ts'
import type { Zone } from '../time/zones.ts'
import type { BookingField, BookingMatching } from './bookingFields.ts'
import type { TableRow } from './clientRows.ts'
import { readDate, type DateOrder } from './dates.ts'
import { cellsByField } from './matching.ts'

/** What rows of bookings are read by. */
export interface BookingReading {
  readonly matching: BookingMatching
  readonly dateOrder: DateOrder
  readonly settings: Settings
  /** The service of rows that name none. */
  readonly serviceId: string
}

type Cells = Readonly<Partial<Record<BookingField, string>>>

class Fault extends Error {}

/** A time of day as tables have it: 9:00, 09.00, 9:00:00, 9 am, 0900. Minutes of the day; null: it is none. */
export function readTime(text: string): number | null {
  const [, hour = '', minute = '00', half] =
    /^(\d{1,2})(?:[:.h](\d{2})(?:[:.]\d{2})?)?\s*([ap])?\.?(?:m\.?)?(?:\s*uhr)?$/i.exec(text.trim()) ??
    /^(\d{2})(\d{2})()$/.exec(text.trim()) ??
    []
  if (hour === '') return null
  const isAfternoon = half?.toLowerCase() === 'p'
  const isMorning = half?.toLowerCase() === 'a'
  if ((isAfternoon || isMorning) && (Number(hour) < 1 || Number(hour) > 12)) return null
  const hours = isAfternoon || isMorning ? (Number(hour) % 12) + (isAfternoon ? 12 : 0) : Number(hour)
  return hours > 23 || Number(minute) > 59 ? null : hours * 60 + Number(minute)
}

const two = (value: number) => String(value).padStart(2, '0')
const at = (zone: Zone, date: string, minutes: number) =>
  instantOfLocal(zone, `${date}T${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`)

const noDate = (text: string) => `“${text}” is no date. It looks like 2026-05-14 or 14.5.2026.`
const noTime = (text: string) => `“${text}” is no time of day. It looks like 09:30.`

/** What stands behind a date in its cell. */
const behindDate = (text: string) => /^\S+?[T ](.+)$/.exec(text)?.[1] ?? ''

/** A date with the time in its cell, or in one of its own, as an instant. */
function startIn({ date: text, time }: Cells, order: DateOrder, zone: Zone) {
  if (text === undefined) throw new Fault('There is no date.')
  const date = readDate(text, order)
  if (date === null) throw new Fault(noDate(text))
  const given = time ?? behindDate(text)
  if (given === '') throw new Fault('There is no time at which it begins.')
  const minutes = readTime(given)
  if (minutes === null) throw new Fault(noTime(given))
  return { date, startAt: at(zone, date, minutes) }
}

/** When it ends: as a time of the same day, as a date with a time, or so many minutes later; null: the row says none. */
function endIn(
  { end, minutes }: Cells,
  { date, startAt }: { date: string; startAt: number },
  order: DateOrder,
  zone: Zone,
): number | null {
  if (end !== undefined) {
    const ownDate = readDate(end, order)
    const time = readTime(ownDate === null ? end : behindDate(end))
    if (time === null) throw new Fault(noTime(end))
    return at(zone, ownDate ?? date, time)
  }
  if (minutes === undefined) return null
  if (!/^\d{1,5}$/.test(minutes) || Number(minutes) === 0 || Number(minutes) * minuteMs > longestMs) {
    throw new Fault(`“${minutes}” is no number of minutes that a booking can take.`)
  }
  return startAt + Number(minutes) * minuteMs
}

function partyIn({ partySize }: Cells): number {
  if (partySize === undefined) return 1
  if (!/^\d{1,6}$/.test(partySize) || Number(partySize) === 0) {
    throw new Fault(`“${partySize}” is no number of people.`)
  }
  return Number(partySize)
}

const confirmedWords: readonly string[] = ['confirmed', 'booked', 'ok', 'yes', 'bestatigt', 'gebucht', 'fest']
const cancelledWords: readonly string[] = ['cancelled', 'canceled', 'storniert', 'abgesagt']

function isCancelledIn({ status }: Cells): boolean {
  if (status === undefined) return false
  const word = folded(status)
  if (cancelledWords.includes(word)) return true
  if (confirmedWords.includes(word)) return false
  throw new Fault(`“${status}” is neither confirmed nor cancelled.`)
}

function serviceIn({ service }: Cells, { settings, serviceId }: BookingReading): string {
  if (service === undefined) return serviceId
  const named = serviceNamed(settings, service)
  if (named === null) throw new Fault(`There is no service “${service}”.`)
  return named
}

function whoIn({ name, email }: Cells): CalendarEntry['attendees'] {
  if (email !== undefined && !emailAddress.safeParse(email).success) {
    throw new Fault(`“${email}” is not an e-mail address.`)
  }
  if (name === undefined && email === undefined) throw new Fault('There is neither a name nor an address.')
  return email === undefined ? [] : [{ name: name ?? '', email }]
}

/** A row of a table as an entry that can become a booking, with all that is wrong with it. */
export function readBookingRow({ line, cells: all }: TableRow, reading: BookingReading): CalendarEntry {
  const cells = cellsByField(all, reading.matching)
  const faults: string[] = []
  const attempt = <Value>(read: () => Value, otherwise: Value): Value => {
    try {
      return read()
    } catch (fault) {
      if (!(fault instanceof Fault)) throw fault
      faults.push(fault.message)
      return otherwise
    }
  }
  const { settings, dateOrder } = reading
  const serviceId = attempt(() => serviceIn(cells, reading), reading.serviceId)
  const service = settings.services.find(({ id }) => id === serviceId)
  const zone = service ? placeZone(settings, service) : settings.zones.zone(settings.business.zone)
  const start = attempt(() => startIn(cells, dateOrder, zone), null)
  const endAt = start && attempt(() => endIn(cells, start, dateOrder, zone), null)
  const attendees = attempt(() => whoIn(cells), [])
  const partySize = attempt(() => partyIn(cells), 1)
  const isCancelled = attempt(() => isCancelledIn(cells), false)
  const who = folded(cells.email ?? cells.name ?? '')
  return {
    line,
    key:
      cells.number === undefined
        ? `row ${start?.startAt ?? line} ${who} ${serviceId}`
        : `row ${cells.number}`,
    title: cells.name ?? '',
    serviceId,
    startAt: start?.startAt ?? 0,
    endAt,
    attendees,
    phone: cells.phone ?? '',
    partySize,
    isCancelled,
    fault: faults.length === 0 ? null : faults.join(' '),
  }
}
