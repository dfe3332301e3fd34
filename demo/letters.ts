import type { Letter } from '#core/model/letter.ts'
import { fromTheDayOn } from './letters/fromTheDayOn.ts'
import { untilTheDay } from './letters/untilTheDay.ts'

/** The letters of the demo. */
export const letters: readonly Letter[] = [...untilTheDay, ...fromTheDayOn]
