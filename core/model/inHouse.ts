import { z } from 'zod'
import { ownStatusName } from './ownStatus.ts'
import { oneLine, requiredLine } from './values.ts'

/*
 * What is changed within the house, by a step of a sequence at its time or by a one-press move: the parts of each that
 * both have.
 */

/** What can be made of any booking's status. */
export const statusesByHand = ['confirmed', 'cancelled', 'missed'] as const
export const isStatusByHand = (status: string): status is (typeof statusesByHand)[number] =>
  statusesByHand.some((one) => one === status)

export const taskAsked = {
  title: requiredLine(200, 'The task needs a title.'),
  /** Days from that moment until it is to be done. */
  dueInDays: z
    .number('Give a number of days.')
    .int('Whole days.')
    .min(0, 'Not below 0 days.')
    .max(1000, 'At most 1000 days.')
    .default(0),
}

export const tagGiven = { tag: requiredLine(40, 'A tag needs a word.'), adds: z.boolean().default(true) }

export const stageGiven = {
  stage: requiredLine(60, 'Which stage?'),
  /** Why it came to nothing, where the stage means that; empty: nobody says. */
  reason: oneLine(200).default(''),
}

export const statusGiven = {
  /** One that every booking knows, or one of the business's own by name. */
  status: requiredLine(40, 'Which status?').refine(
    (status) => isStatusByHand(status) || ownStatusName.safeParse(status).success,
    'A booking can be confirmed, cancelled, marked as missed, or given a status of your own this way.',
  ),
}

export const dateStamped = { label: requiredLine(60, 'Which date?') }
