import { z } from 'zod'
import { idOf, requiredLine } from './values.ts'

export const apiKeyId = idOf('ak')

/** How far a key reaches; never further than the person whose it is. */
export const keyScopes = ['look', 'work', 'everything'] as const
export const keyScope = z.enum(keyScopes)
export type KeyScope = z.infer<typeof keyScope>

export const keyScopeWords: Readonly<Record<KeyScope, string>> = {
  look: 'looks only',
  work: 'looks and does the team’s work',
  everything: 'everything its person may do',
}

/** For how many days a key can be good. */
export const keyDays = [30, 90, 365] as const

export const newApiKey = z
  .object({
    name: requiredLine(80, 'Say what the key is for, such as the program that uses it.'),
    scope: keyScope,
    /** Null: until it is taken back. */
    days: z.union(keyDays.map((days) => z.literal(days))).nullable(),
  })
  .strict()
export type NewApiKey = z.infer<typeof newApiKey>
