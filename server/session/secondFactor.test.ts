import { describe, expect, test } from '@jest/globals'
import { Secret, TOTP } from 'otpauth'
import { openStore } from '../db/database.ts'
import { eda, testFolder, writeExampleBusiness } from '../testing/seed.ts'
import { addPerson } from '../db/settingsStore.ts'
import {
  beginSecondFactor,
  confirmSecondFactor,
  endSecondFactor,
  hasSecondFactor,
  periodOf,
  secondFactorFits,
  type SecondFactors,
} from './secondFactor.ts'

/* RFC 6238, appendix B: the seed of SHA-1, and what it gives at these seconds. Its codes have eight digits; six of them are
   the last six, as both are the same number modulo a power of ten (RFC 4226 5.3). */
const seed = Secret.fromLatin1('12345678901234567890').base32
const vectors = [
  [59, '94287082'],
  [1111111109, '07081804'],
  [1111111111, '14050471'],
  [1234567890, '89005924'],
  [2000000000, '69279037'],
  [20000000000, '65353130'],
] as const

describe('codes of an authenticator', () => {
  test.each(vectors)('RFC 6238 appendix B, at second %i: %s', (second, code) => {
    const six = code.slice(-6)
    expect(periodOf(seed, six, second * 1000)).toBe(Math.floor(second / 30))
    // A period earlier and later the clock may still be wrong; two are too many (5.2).
    expect(periodOf(seed, six, (second + 30) * 1000)).toBe(Math.floor(second / 30))
    expect(periodOf(seed, six, (second + 90) * 1000)).toBeNull()
  })

  test.each(['', '000000', '94287082', 'abcdef', '94 282', '287082x'])('“%s” is none', (code) => {
    expect(periodOf(seed, code, 59_000)).toBeNull()
  })
})

describe('a second factor', () => {
  const key = 'ab'.repeat(32)
  const store = openStore(testFolder())
  store.transaction(() => {
    writeExampleBusiness(store.statements)
    addPerson(store.statements, eda, null)
  })
  const factors: SecondFactors = { statements: store.statements, key }
  const begin = () => beginSecondFactor(factors, eda.id, { issuer: 'Kiteworks & Co', label: eda.email })
  const now = 1_234_567_890_000
  const codeAt = (secret: string, at: number) =>
    new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: at })

  test('counts once a code confirms it; each code is taken once; a recovery word once', () => {
    const { secret, uri } = begin()
    expect(uri).toContain('otpauth://totp/Kiteworks%20%26%20Co:')
    expect(hasSecondFactor(factors, eda.id)).toBe(false)
    expect(confirmSecondFactor(factors, eda.id, '000000', 0)).toBeNull()
    const code = codeAt(secret, now)
    const words = confirmSecondFactor(factors, eda.id, `${code.slice(0, 3)} ${code.slice(3)}`, now) ?? []
    expect(new Set(words).size).toBe(10)
    expect(hasSecondFactor(factors, eda.id)).toBe(true)
    expect(secondFactorFits(factors, eda.id, code, now)).toBe(false)
    const next = codeAt(secret, now + 30_000)
    expect(secondFactorFits(factors, eda.id, next, now + 30_000)).toBe(true)
    expect(secondFactorFits(factors, eda.id, next, now + 30_000)).toBe(false)
    // The one before is good no more once a later one was taken.
    expect(secondFactorFits(factors, eda.id, code, now + 30_000)).toBe(false)
    const [word = ''] = words
    expect(secondFactorFits(factors, 'pe_1', word, now)).toBe(false)
    expect(secondFactorFits(factors, eda.id, ` ${word.toUpperCase()} `, now)).toBe(true)
    expect(secondFactorFits(factors, eda.id, word, now)).toBe(false)
    // A secret in use is not changed by beginning anew.
    begin()
    expect(secondFactorFits(factors, eda.id, codeAt(secret, now + 300_000), now + 300_000)).toBe(true)
  })

  test('with another key file no code fits any more; the recovery words still do', () => {
    const others: SecondFactors = { ...factors, key: 'cd'.repeat(32) }
    expect(hasSecondFactor(others, eda.id)).toBe(true)
    expect(secondFactorFits(others, eda.id, '123456', now)).toBe(false)
    endSecondFactor(factors, eda.id)
    const { secret } = begin()
    const [word = ''] = confirmSecondFactor(factors, eda.id, codeAt(secret, now), now) ?? []
    expect(secondFactorFits(others, eda.id, word, now)).toBe(true)
    endSecondFactor(factors, eda.id)
    expect(hasSecondFactor(factors, eda.id)).toBe(false)
    expect(secondFactorFits(factors, eda.id, word, now)).toBe(false)
  })
})
