import { describe, expect, test } from '@jest/globals'
import { isGermanCompound, misspelt, wordsToCheck } from '#core/letters/spelling.ts'
import { knownIn } from '../testing/dictionaries.ts'

const english = knownIn('en')
const german = knownIn('de')

describe('spelling', () => {
  test.each([
    ['The weather is fine, isn’t it?', []],
    ['The weahter is fine.', ['weahter']],
    ['Cancelled or canceled, in any colour or color', []],
    ['HELLO from NASA and mail@house.example, https://house.example/xyzzy, 3pm', []],
    ['Ada’s boat and Thistledow’s basket', ["Thistledow's"]],
    ['A kite, a kite and a kiet', ['kiet']],
  ])('English: %s', (text, expected) => {
    expect(misspelt(text, 'en', english, [])).toEqual(expected)
  })

  test('own words are right in any capitals, and with a genitive', () => {
    const own = ['Thistledown Aloft', 'kiting']
    expect(misspelt('Thistledown’s KITING, kiting and Kiting aloft', 'en', english, own)).toEqual([])
  })

  test.each([
    ['Die Ballonfahrt beginnt am Morgen.', []],
    ['Bitte lesen Sie die Sicherheitshinweise zur Morgenrundfahrt.', []],
    ['Das Weter ist schön.', ['Weter']],
    ['Wir gehen, fahren, schreiben, hoffen und bitten; Sie wollten etwas mitbringen.', []],
    ['Ballonfhart', ['Ballonfhart']],
  ])('German: %s', (text, expected) => {
    expect(misspelt(text, 'de', german, [])).toEqual(expected)
  })

  test('a compound needs known parts of some length', () => {
    const known = (word: string) => ['Ballon', 'Fahrt', 'Licht', 'Sicherheit', 'Hinweis'].includes(word)
    expect(isGermanCompound('Ballonfahrt', known)).toBe(true)
    expect(isGermanCompound('Sicherheitshinweis', known)).toBe(true)
    expect(isGermanCompound('Ballonlichtfahrt', known)).toBe(true)
    expect(isGermanCompound('Ballonxfahrt', known)).toBe(false)
    expect(isGermanCompound('Ballon', known)).toBe(false)
  })

  test('words are found whatever stands around them', () => {
    expect(wordsToCheck('„Grüße“, (sagt) er; er-sie!', 'de')).toEqual(['Grüße', 'sagt', 'er', 'sie'])
  })
})
