import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto'

/** Cost of one guess: N = 2^15, r = 8 takes about 32 MB of memory. */
const parameters = { N: 2 ** 15, r: 8, p: 1, maxmem: 64 * 1024 * 1024 }
const keyLength = 32

function derive(password: string, salt: Buffer): Promise<Buffer> {
  return new Promise((resolve, reject) => {
    scrypt(password.normalize('NFKC'), salt, keyLength, parameters, (fault, key) =>
      fault ? reject(fault) : resolve(key),
    )
  })
}

/** A password's hash with its salt, as it is stored. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16)
  return `scrypt$${salt.toString('base64')}$${(await derive(password, salt)).toString('base64')}`
}

/** Whether a password fits a stored hash. Takes as long for an unknown one (null) as for a wrong one. */
export async function passwordFits(password: string, stored: string | null): Promise<boolean> {
  const [, salt = '', hash = ''] = (stored ?? '').split('$')
  const expected = stored === null ? randomBytes(keyLength) : Buffer.from(hash, 'base64')
  const derived = await derive(password, stored === null ? randomBytes(16) : Buffer.from(salt, 'base64'))
  return expected.length === derived.length && timingSafeEqual(expected, derived)
}
