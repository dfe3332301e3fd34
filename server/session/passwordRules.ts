/*
 * What NIST SP 800-63B 5.1.1.2 wants of a new password beyond its length: none that is commonly used, of one sign
 * repeated, or made of what stands around it. Nothing is asked about kinds of signs.
 */

let common: Promise<ReadonlySet<string>> | null = null

/** Those that are tried first, read when the first password is chosen: the list is long, and the start should not wait. */
function commonPasswords(): Promise<ReadonlySet<string>> {
  common ??= import('@zxcvbn-ts/language-common').then(
    ({ dictionary }) => new Set(dictionary['passwords-common']),
  )
  return common
}

/** With fewer different signs it is guessed in no time. */
const fewestSigns = 5
/** Words about the person shorter than this say nothing. */
const shortestWord = 4

const letters = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '')
/** What is left of a password without the digits and signs that are put behind a word: `password` of `Password2026!`. */
const bare = (password: string) => password.toLowerCase().replace(/[^\p{L}]+$/u, '')

/** Why a password is too easy to guess for somebody of whom some words are known; null: it is not. */
export async function passwordFault(password: string, about: readonly string[]): Promise<string | null> {
  if (new Set(password).size < fewestSigns) {
    return 'This repeats a few signs. Take several words that have nothing to do with each other.'
  }
  const tried = await commonPasswords()
  if (tried.has(password.toLowerCase()) || tried.has(bare(password))) {
    return 'This is one of the passwords that are tried first. Take several words that have nothing to do with each other.'
  }
  const known = about
    .flatMap((text) => [letters(text), ...text.split(/[^\p{L}\p{N}]+/u).map(letters)])
    .filter((word) => word.length >= shortestWord)
  const rest = known.reduce((left, word) => left.replaceAll(word, ''), letters(password))
  return rest.length < shortestWord && rest.length < letters(password).length
    ? 'This is made of your name, address or business, which anybody can guess.'
    : null
}
