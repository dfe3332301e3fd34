import { describe, expect, jest, test } from '@jest/globals'
import { openStore } from '../db/database.ts'
import { testFolder, writeExampleBusiness } from '../testing/seed.ts'
import { hashPassword, passwordFits } from './password.ts'
import { closeSession, openSession, readSession, tokenIn } from './sessions.ts'

describe('a password', () => {
  test('fits its own hash and no other word does', async () => {
    const hash = await hashPassword('Blåbær på tur 7')
    expect(hash).not.toContain('Blåbær')
    expect(await passwordFits('Blåbær på tur 7', hash)).toBe(true)
    expect(await passwordFits('blåbær på tur 7', hash)).toBe(false)
  })

  test('is the same however its letters are composed', async () => {
    const hash = await hashPassword('caf\u00e9 au lait')
    expect(await passwordFits('cafe\u0301 au lait', hash)).toBe(true)
  })

  test('says what a guess costs, and fits at another cost and where none was said yet', async () => {
    const [kind, cost] = (await hashPassword('the same one')).split('$')
    expect([kind, cost]).toEqual(['scrypt', '32768,8,1'])
    const cheap = await hashPassword('the same one', { N: 1024, r: 8, p: 2 })
    expect(cheap).toContain('$1024,8,2$')
    expect(await passwordFits('the same one', cheap)).toBe(true)
    expect(await passwordFits('another one', cheap)).toBe(false)
    // As the first version of the program wrote it.
    const [, , salt, hash] = (await hashPassword('the same one')).split('$')
    expect(await passwordFits('the same one', `scrypt$${salt}$${hash}`)).toBe(true)
  })

  test('has another hash each time, and fits nothing where there is none', async () => {
    expect(await hashPassword('the same one')).not.toBe(await hashPassword('the same one'))
    expect(await passwordFits('anything', null)).toBe(false)
  })
})

describe('a session', () => {
  const store = openStore(testFolder())
  store.transaction(() => writeExampleBusiness(store.statements))
  const { statements } = store
  const ada = { personId: 'pe_ada', agent: 'A browser', isSecure: false }

  test('is found by its cookie; the table holds no token', () => {
    const cookie = openSession(statements, ada)
    const token = tokenIn(cookie)
    expect(readSession(statements, token)).toMatchObject({ personId: 'pe_ada' })
    expect(readSession(statements, `${token}x`)).toBeNull()
    expect(readSession(statements, null)).toBeNull()
  })

  test('lets nobody in from the moment on at which it is over', () => {
    const token = tokenIn(openSession(statements, ada))
    const begun = Date.now()
    const days = 24 * 60 * 60_000
    const over = [0.5, 1, 7, 14, 30, 31, 90, 400].find((some) => {
      jest.useFakeTimers({ now: begun + some * days })
      return readSession(statements, token) === null
    })
    jest.useRealTimers()
    // However long it lasts, it does not last for ever, and not only until the next morning.
    expect(over).toBeGreaterThan(1)
    expect(over).toBeLessThan(400)
    expect(readSession(statements, token)).not.toBeNull()
  })

  test('ends when it is closed', () => {
    const token = tokenIn(openSession(statements, ada))
    expect(closeSession(statements, readSession(statements, token))).toMatch(/Max-Age=0/)
    expect(readSession(statements, token)).toBeNull()
  })

  test('each has a token of its own against forged requests', () => {
    const one = readSession(statements, tokenIn(openSession(statements, ada)))
    const other = readSession(statements, tokenIn(openSession(statements, ada)))
    expect(one?.csrfToken).not.toBe(other?.csrfToken)
  })
})
