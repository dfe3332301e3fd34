import { createHash } from 'node:crypto'
import type { Router } from 'express'
import { z } from 'zod'
import { endpoints } from '#core/api/endpoints.ts'
import { teamEntry } from '#core/booking/teamCalendar.ts'
import { bookingStatus } from '#core/model/booking.ts'
import { instant } from '#core/model/values.ts'
import { dayMs } from '#core/time/calendar.ts'
import { readRows } from '../db/unreadable.ts'
import { feedByToken, feedsFor, type Feed } from '../engine/calendarFeeds.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { calendarFeed } from '../mail/calendarFile.ts'
import { serve, valueOf } from './route.ts'

/** So much of the past stands in a calendar. */
const backMs = 90 * dayMs

const teamBooking = z.object({
  id: z.string(),
  serviceId: z.string(),
  status: bookingStatus,
  ownStatus: z.string().nullable(),
  startAt: instant,
  endAt: instant,
  partySize: z.number().int(),
  revision: z.number().int(),
  clientName: z.string(),
  email: z.string().nullable(),
  phone: z.string().nullable(),
})

function calendarOf({ application, publicUrl }: RunningApplication, { name, personId }: Feed): string {
  const { statements } = application.store
  const settings = application.settings.required()
  const from = application.clock.now() - backMs
  const rows = statements.all('bookingsOfTeam', { from, personId })
  const bookings = readRows(statements, 'booking', rows, (row) => teamBooking.parse(row))
  // The same bookings are the same file, so that it is only sent again where something has changed.
  const stamp = Math.floor(from / dayMs) * dayMs
  const entries = bookings.map((one) => teamEntry(settings, one, `${publicUrl()}/booking/${one.id}`))
  return calendarFeed(name, entries, stamp)
}

/** The calendars of the team, for programs that only read them. */
export function feedRoutes(router: Router, running: RunningApplication) {
  const { application, commands, publicUrl } = running
  const { statements } = application.store
  const readable = (personId: string | null) => {
    const person = application.settings.required().people.find(({ id }) => id === personId)
    return person ? feedsFor(application, person, publicUrl()) : []
  }
  serve(router, statements, endpoints.calendarFeeds, ({ personId }) => ({ feeds: [...readable(personId)] }))
  serve(router, statements, endpoints.renewCalendarFeed, ({ parameters: { id }, personId, called }) => {
    const feed = readable(personId).find((one) => one.id === id)
    if (!feed) throw new Refusal('forbidden', 'Only the owner renews the calendar address of somebody else.')
    return valueOf(commands.renewCalendarFeed(called('renewCalendarFeed'), id, feed.name))
  })
  router.get('/feed/:token/bookings.ics', (request, response) => {
    const feed = feedByToken(application, request.params.token)
    if (!feed) {
      response.status(404).type('text/plain').send('There is no calendar at this address, or not any more.\n')
      return
    }
    const file = calendarOf(running, feed)
    response
      .set('Cache-Control', 'private, no-cache')
      .set('ETag', `"${createHash('sha256').update(file).digest('base64url').slice(0, 32)}"`)
      .attachment('bookings.ics')
      .type('text/calendar')
      .send(file)
  })
}
