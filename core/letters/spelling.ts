import type { Inline } from '../model/letter.ts'
import type { Language } from '../model/values.ts'

/** Whether a word stands in a dictionary, as it is written. */
export type IsKnown = (word: string) => boolean

/** Parts of a German compound are at least so long; shorter ones would let nearly everything through. */
const shortestPart = 4
const linkingSounds = ['', 's', 'n', 'en', 'es', 'er', 'e']

const capitalised = (word: string) => word.charAt(0).toLocaleUpperCase('de') + word.slice(1)
const isKnownPart = (part: string, isKnown: IsKnown) => isKnown(capitalised(part)) || isKnown(part)

/**
 * Whether a German word is put together from known ones, with a linking sound between them: Ballon-fahrt,
 * Morgen-rund-fahrt, Sicherheit-s-hinweis. Only long words are taken apart.
 */
export function isGermanCompound(word: string, isKnown: IsKnown): boolean {
  const lower = word.toLocaleLowerCase('de')
  for (let at = shortestPart; at <= lower.length - shortestPart; at += 1) {
    const rest = lower.slice(at)
    if (!isKnownPart(rest, isKnown) && !isGermanCompound(rest, isKnown)) continue
    const first = lower.slice(0, at)
    const isFirst = linkingSounds.some(
      (sound) =>
        first.endsWith(sound) &&
        first.length - sound.length >= shortestPart - 1 &&
        isKnownPart(first.slice(0, first.length - sound.length), isKnown),
    )
    if (isFirst) return true
  }
  return false
}

/** Not words of a language: web and mail addresses, numbers, abbreviations in capitals. */
const notWords = /\S+@\S+|https?:\/\/\S+|\b\S+\.(?:example|com|org|net|de)\b|\p{Lu}{2,}\b|\S*\d\S*/gu

const segmenters = {
  en: new Intl.Segmenter('en', { granularity: 'word' }),
  de: new Intl.Segmenter('de', { granularity: 'word' }),
} as const

/** The words of a text whose spelling can be looked up, each once. */
export function wordsToCheck(text: string, language: Language): readonly string[] {
  const plain = text.replace(notWords, ' ').replaceAll('’', "'")
  const words = [...segmenters[language].segment(plain)]
    .filter(({ isWordLike }) => isWordLike)
    .map(({ segment }) => segment)
    .filter((word) => word.length > 1)
  return [...new Set(words)]
}

/** Typed words of a letter, with a gap where a field stands. */
export function typedText(lines: readonly (readonly Inline[])[]): string {
  return lines.map((line) => line.map((node) => (node.kind === 'text' ? node.text : ' ')).join('')).join('\n')
}

/**
 * The words a dictionary does not know. Own words (names, places, words of the trade) are right in any capitals, and
 * so is each word they are made of.
 */
export function misspelt(
  text: string,
  language: Language,
  isKnown: IsKnown,
  ownWords: readonly string[],
): readonly string[] {
  const own = new Set(ownWords.flatMap((one) => wordsToCheck(one, language)).map((one) => one.toLowerCase()))
  return wordsToCheck(text, language).filter((word) => {
    const withoutGenitive = word.replace(/'s$/u, '')
    if (own.has(word.toLowerCase()) || own.has(withoutGenitive.toLowerCase())) return false
    if (isKnown(word) || isKnown(withoutGenitive)) return false
    const lower = word.toLocaleLowerCase(language)
    if (word === capitalised(lower) && isKnown(lower)) return false
    return language !== 'de' || !isGermanCompound(word, isKnown)
  })
}

/**
 * A dictionary (Hunspell's .dic) without the entries that its affix file marks as parts of compounds only. nspell joins
 * them with the words of the same spelling and then takes neither: `lesen` would be unknown.
 */
export function withoutCompoundParts(affixes: string, dictionary: string): string {
  const mark = /^ONLYINCOMPOUND (\S)/m.exec(affixes)?.[1]
  if (mark === undefined) return dictionary
  return dictionary
    .split('\n')
    .filter((line) => !(line.split('/')[1] ?? '').split(/\s/)[0]?.includes(mark))
    .join('\n')
}
