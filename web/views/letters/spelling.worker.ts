import nspell from 'nspell'
import type { Language } from '#core/model/values.ts'
import { misspelt, withoutCompoundParts } from '#core/letters/spelling.ts'

export interface SpellingQuestion {
  readonly asked: number
  readonly ownWords: readonly string[]
  readonly texts: readonly { readonly text: string; readonly language: Language }[]
}

export interface Misspelling {
  readonly word: string
  readonly suggestion: string | null
}

export interface SpellingAnswer {
  readonly asked: number
  /** What is amiss in each text, in their order; null: the dictionary could not be read. */
  readonly found: readonly (readonly Misspelling[])[] | null
}

interface Files {
  readonly affixes: URL
  readonly words: URL
}

/** English is right as it is written on either side of the ocean. */
const files: Readonly<Record<Language, readonly Files[]>> = {
  en: [
    {
      affixes: new URL('../../../node_modules/dictionary-en/index.aff', import.meta.url),
      words: new URL('../../../node_modules/dictionary-en/index.dic', import.meta.url),
    },
    {
      affixes: new URL('../../../node_modules/dictionary-en-gb/index.aff', import.meta.url),
      words: new URL('../../../node_modules/dictionary-en-gb/index.dic', import.meta.url),
    },
  ],
  de: [
    {
      affixes: new URL('../../../node_modules/dictionary-de/index.aff', import.meta.url),
      words: new URL('../../../node_modules/dictionary-de/index.dic', import.meta.url),
    },
  ],
}

const textAt = async (url: URL) => await (await fetch(url)).text()

async function read(language: Language) {
  return await Promise.all(
    files[language].map(async (one) => {
      const [affixes, words] = await Promise.all([textAt(one.affixes), textAt(one.words)])
      return nspell(affixes, withoutCompoundParts(affixes, words))
    }),
  )
}

const dictionaries = new Map<Language, ReturnType<typeof read>>()

function dictionary(language: Language): ReturnType<typeof read> {
  const known = dictionaries.get(language) ?? read(language)
  dictionaries.set(language, known)
  return known
}

/** Looking for suggestions takes long: so many words get one. */
const mostSuggestions = 8

async function answer({ asked, ownWords, texts }: SpellingQuestion): Promise<SpellingAnswer> {
  let left = mostSuggestions
  const found: Misspelling[][] = []
  for (const { text, language } of texts) {
    const spellers = await dictionary(language)
    const isKnown = (word: string) => spellers.some((one) => one.correct(word))
    const suggestion = (word: string) => spellers[0]?.suggest(word)[0] ?? null
    found.push(
      misspelt(text, language, isKnown, ownWords).map((word): Misspelling => {
        left -= 1
        return { word, suggestion: left >= 0 ? suggestion(word) : null }
      }),
    )
  }
  return { asked, found }
}

self.addEventListener('message', ({ data }: MessageEvent<SpellingQuestion>) => {
  answer(data).then(
    (found) => self.postMessage(found),
    () => {
      dictionaries.clear()
      const unread: SpellingAnswer = { asked: data.asked, found: null }
      self.postMessage(unread)
    },
  )
})
