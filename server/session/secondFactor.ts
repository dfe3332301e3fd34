import { createHash, randomInt } from 'node:crypto'
import { Secret, TOTP } from 'otpauth'
import type { Statements } from '../db/statements.ts'
import { seal, unseal } from '../mail/sealed.ts'

/* A code of an authenticator besides the password: TOTP (RFC 6238) with the values every authenticator knows. */

const periodSeconds = 30
/** A clock may be a period behind or ahead (RFC 6238 5.2). */
const window = 1
const secretBytes = 20
const recoveryWordCount = 10

const signs = 'abcdefghjkmnpqrstuvwxyz23456789'
const group = () => Array.from({ length: 5 }, () => signs[randomInt(signs.length)]).join('')
const hashOf = (word: string) => createHash('sha256').update(word).digest('hex')

const generatorOf = (secret: string, issuer = '', label = '') =>
  new TOTP({ issuer, label, secret: Secret.fromBase32(secret), period: periodSeconds })

/** The period a code belongs to; null: it is none of now. */
export function periodOf(secret: string, code: string, now: number): number | null {
  const delta = generatorOf(secret).validate({ token: code, timestamp: now, window })
  return delta === null ? null : Math.floor(now / 1000 / periodSeconds) + delta
}

/** Where the second factors of the team are kept. */
export interface SecondFactors {
  readonly statements: Statements
  /** What their secrets are sealed with. */
  readonly key: string
}

interface Kept {
  readonly secret: string | null
  readonly isConfirmed: boolean
}

function readSecondFactor({ statements, key }: SecondFactors, personId: string): Kept | null {
  const row = statements.one('readSecondFactor', { personId })
  return row
    ? { secret: unseal(String(row['sealedSecret']), key), isConfirmed: row['confirmedAt'] !== null }
    : null
}

export const hasSecondFactor = (factors: SecondFactors, personId: string) =>
  readSecondFactor(factors, personId)?.isConfirmed ?? false

/** A new secret for somebody who has none in use, and its address for an authenticator; it counts once it is confirmed. */
export function beginSecondFactor(
  { statements, key }: SecondFactors,
  personId: string,
  { issuer, label }: { readonly issuer: string; readonly label: string },
) {
  const secret = new Secret({ size: secretBytes }).base32
  statements.run('beginSecondFactor', { personId, sealedSecret: seal(secret, key) })
  return { secret, uri: generatorOf(secret, issuer, label).toString() }
}

/** Takes a code for a period that none was taken for yet. */
function takesCode(factors: SecondFactors, personId: string, code: string, now: number): boolean {
  const { secret } = readSecondFactor(factors, personId) ?? {}
  const period = secret ? periodOf(secret, code.replace(/\s/g, ''), now) : null
  return period !== null && factors.statements.run('takePeriod', { personId, period }) > 0
}

/** Ten new words, each good once in place of a code; those before are good no more. */
function newRecoveryWords({ statements }: SecondFactors, personId: string): string[] {
  statements.run('forgetRecoveryWords', { personId })
  const words = Array.from({ length: recoveryWordCount }, () => `${group()}-${group()}`)
  words.forEach((word) => statements.run('insertRecoveryWord', { personId, wordHash: hashOf(word) }))
  return words
}

/** Confirms a secret by a code of it: the recovery words; null: the code is none of it. */
export function confirmSecondFactor(
  factors: SecondFactors,
  personId: string,
  code: string,
  now = Date.now(),
): string[] | null {
  if (readSecondFactor(factors, personId)?.isConfirmed !== false) return null
  if (!takesCode(factors, personId, code, now)) return null
  factors.statements.run('confirmSecondFactor', { personId, now })
  return newRecoveryWords(factors, personId)
}

/** Whether a code, or a recovery word, lets somebody in; it is used up. */
export function secondFactorFits(
  factors: SecondFactors,
  personId: string,
  code: string,
  now = Date.now(),
): boolean {
  if (takesCode(factors, personId, code, now)) return true
  const wordHash = hashOf(code.trim().toLowerCase())
  return factors.statements.run('useRecoveryWord', { personId, wordHash }) > 0
}

/** The password alone lets somebody in again. */
export function endSecondFactor({ statements }: SecondFactors, personId: string) {
  statements.run('endSecondFactor', { personId })
  statements.run('forgetRecoveryWords', { personId })
}
