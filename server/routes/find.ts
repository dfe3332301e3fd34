import { parse, de } from 'chrono-node'
import type { Router } from 'express'
import { endpoints } from '#core/api/endpoints.ts'
import type { FoundLine } from '#core/api/views.ts'
import { isoDate } from '#core/model/values.ts'
import { serviceOf } from '#core/planning/slice.ts'
import { dayMs, epochDayOf, isoDateOf } from '#core/time/calendar.ts'
import { dateAndTime } from '#core/time/format.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import { folded } from '#core/model/folded.ts'
import type { Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { businessZone } from './businessTime.ts'
import { serve } from './route.ts'

const most = 8

/** The local date somebody may have typed: ISO, or as people write it in English or German; null: it is none. */
export function typedDate(text: string, today: string): string | null {
  if (isoDate.safeParse(text).success) return text
  const reference = new Date(epochDayOf(today) * dayMs + dayMs / 2)
  const [found] = [...parse(text, reference), ...de.parse(text, reference)]
  // A word within a name, such as “may”, is no date: all of it has to be one.
  if (!found || found.text.length < text.trim().length || !found.start.isCertain('day')) return null
  const { start } = found
  const [year, month, day] = [start.get('year'), start.get('month'), start.get('day')]
  if (year === null || month === null || day === null) return null
  const two = (number: number) => String(number).padStart(2, '0')
  // Years far away and days there are not are numbers somebody typed, and no dates.
  const read = isoDate.safeParse(`${String(year).padStart(4, '0')}-${two(month)}-${two(day)}`)
  return read.success ? read.data : null
}

function bookings(application: Application, text: string, now: number): FoundLine[] {
  const zone = businessZone(application)
  const settings = application.settings.required()
  const date = typedDate(text, isoDateOf(dayAt(zone, now)))
  const day = date === null ? null : epochDayOf(date)
  const times = {
    from: day === null ? 0 : instantAt(zone, day, 0),
    to: day === null ? 0 : instantAt(zone, day + 1, 0),
  }
  const rows = application.store.statements.all('findBookings', {
    ...times,
    now,
    words: folded(text),
    most,
  })
  return rows.map((row) => ({
    kind: 'booking',
    id: String(row['id']),
    title: `${serviceOf(settings, String(row['serviceId'])).name}, ${dateAndTime(zone, Number(row['startAt']))}`,
    words: String(row['clientName']),
  }))
}

function named(
  kind: 'letter' | 'sequence',
  items: readonly { id: string; name: string }[],
  text: string,
): FoundLine[] {
  const wanted = folded(text)
  return items
    .filter(({ name }) => folded(name).includes(wanted))
    .slice(0, most)
    .map(({ id, name }) => ({ kind, id, title: name, words: '' }))
}

/** Finds clients by name and address, bookings by client and date, letters and sequences by name. */
export function findRoutes(router: Router, { application }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.find, ({ query }) => {
    const text = query.text.trim()
    if (text === '') return { found: [] }
    const { letters, sequences } = application.settings.required()
    const clients = statements.all('findClients', { words: folded(text), most }).map((row): FoundLine => ({
      kind: 'client',
      id: String(row['id']),
      title: String(row['name']),
      words: typeof row['email'] === 'string' ? row['email'] : 'no e-mail address',
    }))
    const enquiries = statements
      .all('findEnquiries', { words: folded(text), most })
      .map((row): FoundLine => ({
        kind: 'enquiry',
        id: String(row['id']),
        title: String(row['what']) || 'Enquiry',
        words: `${String(row['clientName'])} · ${String(row['stage'])}`,
      }))
    return {
      found: [
        ...clients,
        ...bookings(application, text, application.clock.now()),
        ...enquiries,
        ...named(
          'letter',
          letters.filter(({ isArchived }) => !isArchived),
          text,
        ),
        ...named('sequence', sequences, text),
      ],
    }
  })
}
