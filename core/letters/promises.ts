import type { Sending } from './sendings.ts'

const counts: Readonly<Record<string, number>> = {
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  zwei: 2,
  drei: 3,
  vier: 4,
}

/** How many days ahead a typed time word points; null: that cannot be told. */
export function daysMeant(word: string): number | null {
  const lower = word.toLowerCase()
  if (['today', 'tonight', 'heute'].includes(lower)) return 0
  if (['tomorrow', 'morgen'].includes(lower)) return 1
  if (['yesterday', 'gestern'].includes(lower)) return -1
  const span = /^in (\S+) (day|tag|week|woche)/.exec(lower)
  if (!span) return null
  const count = counts[span[1] ?? ''] ?? Number(span[1])
  return count * (span[2] === 'week' || span[2] === 'woche' ? 7 : 1)
}

/** The sending for which a typed time word is wrong, as a sentence; null: as far as can be told it is right for all. */
export function wrongSending(word: string, sendings: readonly Sending[]): string | null {
  const meant = daysMeant(word)
  if (meant === null) return null
  const wrong = sendings.find(({ daysAhead }) => daysAhead !== null && daysAhead !== meant)
  return wrong ? `“${word}” is wrong where “${wrong.sequenceName}” sends it ${wrong.when}.` : null
}

const calling =
  /\b(?:call|calls|phone|telephone|ring|reach|office|rufen|ruf|anrufen|telefon|erreichen|erreichbar|büro)\b/i
const soon = /\b(?:now|right away|straight away|today|until|till|jetzt|gleich|sofort|heute|bis)\b/i

/** Sentences that promise somebody is there now: "call us now", "you reach us until 17:00". */
export function promisesIn(text: string): readonly string[] {
  return text
    .split(/(?<=[.!?])\s+/u)
    .map((sentence) => sentence.trim())
    .filter((sentence) => calling.test(sentence) && soon.test(sentence))
}

/** Why a promise that somebody is there does not hold for every sending; null: it does. */
export function brokenPromise(sendings: readonly Sending[]): string | null {
  const broken = sendings.find(({ officeOpen }) => officeOpen !== 'always')
  if (!broken) return null
  const often = broken.officeOpen === 'never' ? 'is closed then' : 'is closed then on some days or hours'
  return `“${broken.sequenceName}” sends it ${broken.when}: the office ${often}.`
}
