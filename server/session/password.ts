import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'

/** What one guess costs (RFC 7914 2): stored with the hash, so that it can be raised for those to come. */
interface Cost {
  readonly N: number
  readonly r: number
  readonly p: number
}

/** About 32 MB of memory. */
const presentCost: Cost = { N: 2 ** 15, r: 8, p: 1 }
/** What hashes cost that do not say it. */
const firstCost = presentCost
const maxmem = 64 * 1024 * 1024
const keyLength = 32

function derive(password: string, salt: Buffer, cost: Cost): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    scrypt(password.normalize('NFKC'), salt, keyLength, { ...cost, maxmem }, (fault, key) =>
      fault ? reject(fault) : resolve(key),
    )
  })
}

/** A password's hash with its cost and salt, as it is stored. */
export async function hashPassword(password: string, cost = presentCost): Promise<string> {
  const salt = randomBytes(16)
  const hash = await derive(password, salt, cost)
  return ['scrypt', `${cost.N},${cost.r},${cost.p}`, salt.toString('base64'), hash.toString('base64')].join(
    '$',
  )
}

interface Stored {
  readonly cost: Cost
  readonly salt: Buffer
  readonly hash: Buffer
}

function read(stored: string): Stored {
  const [, ...parts] = stored.split('$')
  const [hash = '', salt = '', cost] = parts.toReversed()
  const [N = firstCost.N, r = firstCost.r, p = firstCost.p] = cost?.split(',').map(Number) ?? []
  return { cost: { N, r, p }, salt: Buffer.from(salt, 'base64'), hash: Buffer.from(hash, 'base64') }
}

/** Whether a password fits a stored hash. Takes as long for an unknown one (null) as for a wrong one. */
export async function passwordFits(password: string, stored: string | null): Promise<boolean> {
  const nobody = { cost: presentCost, salt: randomBytes(16), hash: randomBytes(keyLength) }
  const { cost, salt, hash } = stored === null ? nobody : read(stored)
  const derived = await derive(password, salt, cost)
  return hash.length === derived.length && timingSafeEqual(hash, derived)
}
