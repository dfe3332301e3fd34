import { z } from 'zod'
import { apiKeyId, keyScope, newApiKey } from '../model/apiKey.ts'
import { personId } from '../model/business.ts'
import { instant } from '../model/values.ts'
import { ask, end, nothing, tell } from './described.ts'

/** A key as it is listed; times are real. */
export const apiKeyLine = z.object({
  id: apiKeyId,
  personId,
  personName: z.string(),
  name: z.string(),
  scope: keyScope,
  /** How it begins. */
  hint: z.string(),
  madeAt: instant,
  endsAt: instant.nullable(),
  usedAt: instant.nullable(),
  usedFrom: z.string().nullable(),
})
export type ApiKeyLine = z.infer<typeof apiKeyLine>

/** Keys by which other programs ask. They are made and taken back by people who are signed in, never by a key. */
export const keyEndpoints = {
  apiKeys: ask({
    path: '/api/keys',
    summary: 'The keys of the person who asks; those of the whole team for an owner',
    answer: z.object({ keys: z.array(apiKeyLine) }),
    byKey: false,
  }),
  makeApiKey: tell({
    path: '/api/keys',
    summary: 'Make a key for another program; it is told this once',
    body: z.object({ present: z.string().max(200), key: newApiKey }).strict(),
    answer: z.object({ id: apiKeyId, key: z.string() }),
    access: 'signed in',
    byKey: false,
  }),
  endApiKey: end({
    path: '/api/keys/:id',
    summary: 'Take a key back: nothing comes in by it any more',
    answer: nothing,
    access: 'signed in',
    byKey: false,
  }),
} as const
