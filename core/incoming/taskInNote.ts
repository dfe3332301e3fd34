import type { Language } from '../model/values.ts'
import { isoDateOf, type EpochDay } from '../time/calendar.ts'
import { datesInWords, type WrittenDate } from './datesInWords.ts'
import { languageOf } from './language.ts'
import { firstDayMeant } from './readAnswer.ts'

/** What a note says is to be done, and the day it names for that. */
export interface NotedTask {
  readonly title: string
  /** ISO 8601. */
  readonly dueOn: string
}

const longestTitle = 200

/** The sentence or line of a text that some words of it stand in; a full stop within those ends none. */
function sentenceOf(text: string, { text: words, index }: Pick<WrittenDate, 'text' | 'index'>): string {
  const before =
    text
      .slice(0, index)
      .split(/(?<=[.!?])\s|\n/u)
      .at(-1) ?? ''
  const after = text.slice(index + words.length).split(/[.!?](?=\s|$)|\n/u)[0] ?? ''
  return `${before}${words}${after}`.trim()
}

/**
 * The task in a note such as “call next week”, by the same reading of dates as answers; null: it names no day that is
 * ahead. `usual`: the language notes are written in where nothing tells.
 */
export function taskInNote(text: string, today: EpochDay, usual: Language): NotedTask | null {
  const dates = datesInWords(text, today, languageOf(text, usual))
  const date = dates.find(({ to }) => to >= today)
  if (!date) return null
  const day = firstDayMeant({ text, date }) ?? date.from
  return {
    title: sentenceOf(text, date).slice(0, longestTitle).trim(),
    dueOn: isoDateOf(Math.max(today, day)),
  }
}
