import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import nspell from 'nspell'
import type { Language } from '#core/model/values.ts'
import { withoutCompoundParts, type IsKnown } from '#core/letters/spelling.ts'

const require = createRequire(import.meta.url)

const packages: Readonly<Record<Language, readonly string[]>> = {
  en: ['dictionary-en', 'dictionary-en-gb'],
  de: ['dictionary-de'],
}

/** The real dictionaries, as the application ships them. */
export function knownIn(language: Language): IsKnown {
  const spellers = packages[language].map((name) => {
    const folder = dirname(require.resolve(name))
    const affixes = readFileSync(join(folder, 'index.aff'), 'utf8')
    const words = readFileSync(join(folder, 'index.dic'), 'utf8')
    return nspell(affixes, withoutCompoundParts(affixes, words))
  })
  return (word) => spellers.some((one) => one.correct(word))
}
