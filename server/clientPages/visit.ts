import type { Request } from 'express'
import { z } from 'zod'
import { isoDate, type Language } from '#core/model/values.ts'
import type { Settings } from '#core/planning/slice.ts'
import type { Zone } from '#core/time/zones.ts'
import type { Application } from '../engine/application.ts'
import type { Shown } from './times.ts'

/** What the address of a page, or a form, says. What makes no sense is as if it were not there. */
export const asked = z.object({
  people: z.coerce.number().int().min(1).max(500).catch(1),
  month: z
    .string()
    .regex(/^\d{4}-(0[1-9]|1[0-2])$/)
    .optional()
    .catch(undefined),
  day: isoDate.optional().catch(undefined),
  at: z.coerce.number().int().min(0).max(8.64e15).optional().catch(undefined),
  zone: z.string().max(60).optional().catch(undefined),
  lang: z.enum(['en', 'de']).optional().catch(undefined),
})
export type Asked = z.output<typeof asked>

/** A request for a page, with everything it needs. */
export interface Visit {
  readonly asked: Asked
  readonly language: Language
  readonly settings: Settings
  readonly now: number
}

/** The language a reader wants, of those there are. */
export const readerLanguage = (request: Request): Language =>
  request.acceptsLanguages('en', 'de') === 'de' ? 'de' : 'en'

export function visitOf({ settings, clock }: Application, request: Request): Visit {
  const parsed = asked.parse(request.query)
  const language = parsed.lang ?? readerLanguage(request)
  return { asked: parsed, language, settings: settings.required(), now: clock.now() }
}

type Parameters = Readonly<Record<string, string | undefined>>

/** The address of a page with some parameters, of which some are changed; empty ones are left out. */
export const addressWith = (path: string, present: Parameters) => (changed: Parameters) => {
  const given = Object.entries({ ...present, ...changed }).filter((pair): pair is [string, string] =>
    Boolean(pair[1]),
  )
  return `${path}?${new URLSearchParams(given).toString()}`
}

/** An address of the public page with the same parameters but those that are changed. */
export const address = (path: string, { asked: { people, at, ...others } }: Visit) =>
  addressWith(path, { ...others, people: String(people), at: at?.toString() })

/** How times are shown to a visitor, for a place. */
export function shownAt(visit: Visit, zone: Zone, href: Shown['href']): Shown {
  const {
    asked: { zone: name },
    settings: { zones },
    language,
  } = visit
  const readerZone = name !== undefined && zones.has(name) ? zones.zone(name) : null
  return { language, zone, readerZone, href }
}
