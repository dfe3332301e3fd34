import { z } from 'zod'
import { personId } from '../model/business.ts'
import { instant } from '../model/values.ts'
import { ask, numberedPart } from './described.ts'
import { partOf } from './views.ts'

const changedFact = z.object({
  path: z.string(),
  before: z.string().nullable(),
  after: z.string().nullable(),
})

/** What somebody of the team did, as it is shown. */
export const actLine = z.object({
  id: z.string(),
  /** Real time, not business time. */
  at: instant,
  personId: z.string().nullable(),
  personName: z.string(),
  from: z.string(),
  sentence: z.string(),
  path: z.string(),
  things: z.array(
    z.object({ what: z.string(), id: z.string(), name: z.string(), facts: z.array(changedFact) }),
  ),
})
export type ActLine = z.infer<typeof actLine>

/** What acts are looked for by. */
export const actsAsked = z.object({ words: z.string().max(200).default(''), personId: personId.optional() })

/** The record of acts. */
export const actEndpoints = {
  acts: ask({
    path: '/api/acts',
    summary: 'What people of the team did, the newest first; a part of it',
    query: actsAsked.extend(numberedPart('An act has a number.')).strict(),
    answer: partOf(actLine),
    access: 'owner',
  }),
} as const
