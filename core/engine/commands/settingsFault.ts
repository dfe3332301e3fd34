import { refused } from '../../model/problem.ts'

/** Decided on a revision that is no more. */
export const elsewhere = <Value>() =>
  refused<Value>('changed meanwhile', 'Somebody has changed this meanwhile. Look at it again, then decide.')

/** What is wrong with settings, and in which field. */
export type SettingsFault = readonly [path: string, sentence: string]
