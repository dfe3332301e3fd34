import { z } from 'zod'
import { businessInput, settingsChange } from '../engine/commands/settingsCommands.ts'
import { personId } from '../model/business.ts'
import { ask, command, end, made, tell } from './described.ts'
import { sequenceAnswer, rolloutProgress } from './sequenceEndpoints.ts'

/** What depends on a service or a status. */
export const uses = z.object({
  bookingsAhead: z.number().int(),
  /** Each kind of thing in words, with its number or its name. */
  names: z.array(z.string()),
})
export type Uses = z.infer<typeof uses>

/** The business as Set-up shows it. */
export const businessSettings = z.object({
  business: businessInput,
  zone: z.string(),
  revision: z.number().int(),
  /** Countries and their subdivisions whose public holidays are known. */
  regions: z.array(
    z.object({
      country: z.string(),
      name: z.string(),
      subdivisions: z.array(z.object({ code: z.string(), name: z.string() })),
    }),
  ),
  /** Settings that are going into effect client by client; null: none are. */
  rollout: rolloutProgress.nullable(),
})
export type BusinessSettings = z.infer<typeof businessSettings>

/** A calendar that other programs read by an address nobody can guess. */
const calendarFeedLine = z.object({
  /** A person of the team, or `all`. */
  id: personId.or(z.literal('all')),
  name: z.string(),
  url: z.string(),
})
export type CalendarFeedLine = z.infer<typeof calendarFeedLine>

/** What holds for everybody: the business, its hours and its services. */
export const settingsEndpoints = {
  businessSettings: ask({
    path: '/api/settings/business',
    summary: 'Facts, hours and limits of the business',
    answer: businessSettings,
  }),
  startSettingsDifference: tell({
    path: '/api/settings/difference',
    summary: 'Begin to work out what changed settings would do, for everybody',
    body: z.object({ change: settingsChange }).strict(),
    answer: z.object({ jobId: z.string() }),
    isRecorded: false,
  }),
  changeSettings: tell({
    path: '/api/settings/change',
    summary: 'Change settings, as it was announced',
    body: z.object({ ...command, change: settingsChange, announcementId: z.string().max(64) }).strict(),
    answer: sequenceAnswer,
    access: 'owner',
  }),
  usesOfService: ask({
    path: '/api/services/:id/uses',
    summary: 'What depends on a service',
    answer: uses,
  }),
  removeService: end({
    path: '/api/services/:id',
    summary: 'Delete a service that nothing depends on',
    body: z.object(command).strict(),
    answer: made,
    access: 'owner',
  }),
  calendarFeeds: ask({
    path: '/api/feeds',
    summary: 'The calendars that who asks may read by an address, and those addresses',
    answer: z.object({ feeds: z.array(calendarFeedLine) }),
  }),
  renewCalendarFeed: tell({
    path: '/api/feeds/:id/renew',
    summary: 'Give a calendar another address: the one before leads nowhere any more',
    body: z.object(command).strict(),
    answer: made,
  }),
  usesOfOwnStatus: ask({
    path: '/api/statuses/:id/uses',
    summary: "What depends on a status of the business's own",
    answer: uses,
  }),
  removeOwnStatus: end({
    path: '/api/statuses/:id',
    summary: "Delete a status of the business's own that nothing depends on",
    body: z.object(command).strict(),
    answer: made,
    access: 'owner',
  }),
} as const
