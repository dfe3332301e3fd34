import type { Language } from '../model/values.ts'
import type { EpochDay } from '../time/calendar.ts'
import { datesInWords, type WrittenDate } from './datesInWords.ts'
import { intentRules, type Intent } from './intents.ts'
import { languageOf } from './language.ts'
import { ownWordsOf } from './ownWords.ts'

/** Where some words stand in what somebody wrote. */
export interface Mark {
  readonly from: number
  readonly to: number
}

/** What an answer says, as far as rules can tell. */
export interface AnswerRead {
  /** What they wrote themselves. */
  readonly text: string
  readonly intent: Intent
  /** The date it is about; null: it names none. */
  readonly date: WrittenDate | null
  /** Words that say so. */
  readonly marks: readonly Mark[]
  /** Other things it says as well, which may mean something else. */
  readonly also: readonly Intent[]
}

interface Sentence {
  readonly text: string
  readonly from: number
}

/** Sentences and the halves of those that turn with “but”. */
function sentencesOf(text: string): readonly Sentence[] {
  const ends = /(?<!\b\d{1,2})[.!?;]+(?=\s|$)|\n+|,\s*(?=(but|however|aber|sondern|jedoch|doch)\b)/giu
  const sentences: Sentence[] = []
  let from = 0
  for (const { index, 0: words } of text.matchAll(ends)) {
    sentences.push({ text: text.slice(from, index + words.length), from })
    from = index + words.length
  }
  sentences.push({ text: text.slice(from), from })
  return sentences.filter((one) => one.text.trim() !== '')
}

interface Found {
  readonly intent: Exclude<Intent, 'unknown'>
  readonly sentence: Sentence
  readonly mark: Mark
}

/** What a sentence says; a rule whose words stand in their opposite does not count. */
function foundIn(sentence: Sentence): readonly Found[] {
  return intentRules.flatMap(({ intent, words, unless }) => {
    const match = words.exec(sentence.text)
    if (!match || unless?.test(sentence.text)) return []
    const from = sentence.from + match.index
    return [{ intent, sentence, mark: { from, to: from + match[0].length } }]
  })
}

/** The first of these that is said is what counts; what may contradict it is told beside it. */
const order: readonly Exclude<Intent, 'unknown'>[] = [
  'stop writing',
  'move',
  'cancel',
  'no longer wanted',
  'later',
  'call',
  'agrees',
  'asks',
  'thanks',
]

/** Which other intents make one uncertain. The rest goes together, as a call and a thank you do. */
const contradicts: Readonly<Partial<Record<Intent, readonly Intent[]>>> = {
  agrees: ['asks'],
  cancel: ['agrees'],
  move: ['agrees'],
  'no longer wanted': ['agrees', 'later'],
  later: ['agrees'],
}

const isWithin = ({ index }: WrittenDate, { from, text }: Sentence) =>
  index >= from && index < from + text.length

/** Words before a date that is not the new one. */
const leftBehind =
  /\b(from|instead of|rather than|not|statt|anstatt|nicht|vom)\s+(on\s+|am\s+|den\s+|the\s+)?$/iu

/** The date of what is said: in its own sentence, behind the words that say it where there are several; else the first at all. */
function dateFor(found: Found, dates: readonly WrittenDate[]): WrittenDate | null {
  const isLeft = ({ index }: WrittenDate) =>
    leftBehind.test(found.sentence.text.slice(0, index - found.sentence.from))
  const own = dates.filter(
    (one) => isWithin(one, found.sentence) && !(found.intent === 'move' && isLeft(one)),
  )
  const behind = own.find(({ index }) => index >= found.mark.from)
  // “Move it from Friday to Sunday”: where to is what counts.
  const last = found.intent === 'move' ? own.at(-1) : undefined
  return last ?? behind ?? own[0] ?? dates[0] ?? null
}

/** What an answer says, seen from a day, in the language it is written in. */
export function readAnswer(mail: string, today: EpochDay, usual: Language): AnswerRead {
  const text = ownWordsOf(mail).slice(0, 4000)
  const dates = datesInWords(text, today, languageOf(text, usual))
  const sentences = sentencesOf(text)
  const questions = sentences.flatMap((sentence): Found[] => {
    const at = sentence.text.indexOf('?')
    const from = sentence.from + at
    return at < 0 ? [] : [{ intent: 'asks', sentence, mark: { from, to: from + 1 } }]
  })
  const all = [...sentences.flatMap(foundIn), ...questions]
  const said = order.find((intent) => all.some((one) => one.intent === intent))
  const found = all.find(({ intent }) => intent === said)
  if (!found) return { text, intent: 'unknown', date: dates[0] ?? null, marks: [], also: [] }
  const date = found.intent === 'thanks' ? null : dateFor(found, dates)
  const others = [...new Set(all.map(({ intent }) => intent))].filter((one) => one !== found.intent)
  return {
    text,
    intent: found.intent,
    date,
    marks: [found.mark, ...(date ? [{ from: date.index, to: date.index + date.text.length }] : [])],
    also: others.filter((one) => contradicts[found.intent]?.includes(one)),
  }
}

/** Words before a date that put it after that date. */
const behindIt = /\b(after|nach|since)\s+(the\s+|dem\s+|den\s+|der\s+)?$/iu

/** The first day that is meant by a date: of “after Whitsun” the one behind it. */
export function firstDayMeant({ text, date }: Pick<AnswerRead, 'text' | 'date'>): EpochDay | null {
  if (!date) return null
  return behindIt.test(text.slice(0, date.index)) ? date.to + 1 : date.from
}
