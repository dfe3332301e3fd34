import { z } from 'zod'
import { personId } from './business.ts'
import { folded } from './folded.ts'
import { idOf, oneLine, requiredLine } from './values.ts'

export const pipelineId = idOf('pl')
export const checklistLineId = idOf('ln')

/** What a stage means for the enquiries in it: there is still something to do, it became a booking, it came to nothing. */
export const stageMeaning = z.enum(['open', 'won', 'lost'])
export type StageMeaning = z.infer<typeof stageMeaning>

/** Something to be done in a stage. */
export const checklistLine = z
  .object({
    id: checklistLineId,
    words: requiredLine(200, 'A line needs its words.'),
    /** What the client is told once it is done; empty: it is for the business alone. */
    sentence: oneLine(300),
  })
  .strict()
export type ChecklistLine = z.infer<typeof checklistLine>

/** What a stage is called: sequences and conditions go by its name. */
export const stageName = requiredLine(60, 'A stage needs a name.')

export const stage = z
  .object({
    name: stageName,
    meaning: stageMeaning,
    /** Who takes an enquiry over as it enters; null: who had it keeps it. */
    personInChargeId: personId.nullable(),
    /** So many days after entering something is to have come of it; null: there is no such day. */
    deadlineDays: z
      .number()
      .int('Whole days.')
      .min(0, 'Not below 0 days.')
      .max(365, 'At most 365 days.')
      .nullable(),
    checklist: z.array(checklistLine).max(40, 'At most 40 lines.'),
  })
  .strict()
export type Stage = z.infer<typeof stage>

const hasTwins = (names: readonly string[]) => new Set(names.map(folded)).size !== names.length

export const stages = z
  .array(stage)
  .max(30, 'At most 30 stages.')
  .refine(
    (all) => all[0]?.meaning === 'open',
    'The first stage is where enquiries come in: it has to be open.',
  )
  .refine((all) => all.some(({ meaning }) => meaning === 'won'), 'Give a stage that means won.')
  .refine((all) => all.some(({ meaning }) => meaning === 'lost'), 'Give a stage that means lost.')
  .refine((all) => !hasTwins(all.map(({ name }) => name)), 'Two stages have the same name.')
  .refine((all) => {
    const ids = all.flatMap(({ checklist }) => checklist.map(({ id }) => id))
    return new Set(ids).size === ids.length
  }, 'Two lines have one id.')

/** The way of enquiries from the first question to a booking, stage by stage. */
export const pipeline = z
  .object({
    id: pipelineId,
    name: requiredLine(80, 'A pipeline needs a name.'),
    stages,
    isActive: z.boolean(),
    /** Grows with each change. */
    revision: z.number().int().min(1),
  })
  .strict()
export type Pipeline = z.infer<typeof pipeline>
