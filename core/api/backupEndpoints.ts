import { z } from 'zod'
import { ask, tell } from './described.ts'

/** The backups there are, and whether they go well. */
export const backupState = z.object({
  /** Where they lie. */
  folder: z.string(),
  /** Whether only who knows some words can read what is taken now. */
  isSealed: z.boolean(),
  backups: z.array(z.object({ name: z.string(), at: z.number(), bytes: z.number() })),
  isUnderWay: z.boolean(),
  trouble: z.string().nullable(),
})

export const backupEndpoints = {
  backups: ask({
    path: '/api/backups',
    summary: 'The backups there are',
    answer: backupState,
    access: 'owner',
  }),
  takeBackup: tell({
    path: '/api/backups',
    summary: 'Take a backup now',
    answer: backupState,
    access: 'owner',
  }),
} as const
