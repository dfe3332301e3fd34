import { createHash } from 'node:crypto'
import { setImmediate as breathe } from 'node:timers/promises'
import express, { type Router } from 'express'
import { z } from 'zod'
import { endpoints } from '#core/api/endpoints.ts'
import { longestMs, lookAt, type CalendarEntry, type LookedAt } from '#core/booking/broughtIn.ts'
import { instant } from '#core/model/values.ts'
import { callOf, type Application } from '../engine/application.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { Refusal } from '../http/problems.ts'
import { readCalendar } from '../mail/readCalendar.ts'
import { serve } from './route.ts'

const standing = z.object({
  broughtInAs: z.string().nullable(),
  clientName: z.string(),
  serviceId: z.string(),
  startAt: instant,
  endAt: instant,
  partySize: z.number().int(),
})

/** What entries would become, those that say no service of the one that is named. Nothing is done. */
export function lookAtEntries(
  { store, settings: source, clock }: Application,
  entries: readonly CalendarEntry[],
  serviceId: string,
): readonly LookedAt[] {
  const settings = source.required()
  if (!settings.services.some(({ id, isActive }) => id === serviceId && isActive)) {
    const detail = 'There is no such service.'
    throw new Refusal('not found', detail, [{ path: 'serviceId', detail }])
  }
  const now = clock.now()
  const rows = store.statements.all('bookingsStanding', { since: now - longestMs, now })
  return lookAt(entries, { settings, serviceId, standing: standing.array().parse(rows), now })
}

/** Calendars of other programs: looked at, then brought in. */
export function calendarRoutes(router: Router, { application, commands }: RunningApplication) {
  const { statements } = application.store
  serve(router, statements, endpoints.lookAtCalendar, ({ body: { file, serviceId } }) => {
    const settings = application.settings.required()
    const now = application.clock.now()
    const read = readCalendar(file, { zone: settings.zones.zone(settings.business.zone), now })
    if (!read.ok)
      throw new Refusal('invalid', read.fault.sentence, [{ path: 'file', detail: read.fault.sentence }])
    const looked = lookAtEntries(application, read.entries, serviceId)
    return { entries: [...looked], isCut: read.isCut }
  })
  serve(router, statements, endpoints.bringIn, async ({ body: { entries }, personId }) => {
    const refused: { key: string; name: string; sentence: string }[] = []
    for (const entry of entries) {
      // Each for itself, and brought in twice it is one booking.
      const id = createHash('sha256').update(`bring in ${entry.key}`).digest('hex')
      const result = commands.bringIn(callOf('bringIn', id, personId), entry)
      if (!result.ok) refused.push({ key: entry.key, name: entry.name, sentence: result.problem.sentence })
      await breathe()
    }
    return { done: entries.length - refused.length, refused }
  })
}

/** A calendar of years is longer than anything else that is sent. */
export const calendarBody = express.json({ limit: '8mb' })
