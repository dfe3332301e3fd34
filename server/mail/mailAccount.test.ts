import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals'
import { minuteMs } from '#core/time/calendar.ts'
import { createMailAccount } from './mailAccount.ts'
import type { SmtpSender } from './smtpSender.ts'
import type { AccountFault, Outcome } from './whoseFault.ts'

const away: AccountFault = { kind: 'account', what: 'away', answer: 'connect ECONNREFUSED' }
const refused: AccountFault = { kind: 'account', what: 'sign-in refused', answer: '535 5.7.8 wrong' }
const taken: Outcome = { kind: 'accepted', answer: '250 taken' }
const envelope = { from: 'a@kiteworks.example', to: 'b@mail.example' }

beforeEach(() => void jest.useFakeTimers())
afterEach(() => void jest.useRealTimers())

/** An account whose server answers as it is told to; how often it was asked. */
function accountThat() {
  const answers = {
    outcome: taken,
    check: null as AccountFault | null,
    checks: 0,
    perMinute: null as number | null,
  }
  const sender: SmtpSender = {
    size: 5,
    deliver: () => Promise.resolve(answers.outcome),
    deliverWhile: () => Promise.resolve(answers.outcome),
    check: () => {
      answers.checks += 1
      return Promise.resolve(answers.check)
    },
    renew: () => undefined,
    close: () => undefined,
  }
  const account = createMailAccount(sender, { onChange: () => undefined, perMinute: () => answers.perMinute })
  const fail = async (fault: AccountFault) => {
    Object.assign(answers, { outcome: fault, check: fault })
    return await account.deliver(envelope, Buffer.from(''))
  }
  return { answers, account, fail }
}

describe('a mail account', () => {
  test('that cannot be reached is on the Desk after ten minutes, and one that refuses us at once', async () => {
    const gone = accountThat()
    await gone.fail(away)
    await jest.advanceTimersByTimeAsync(9 * minuteMs)
    expect(gone.account.trouble()).toBeNull()
    await jest.advanceTimersByTimeAsync(2 * minuteMs)
    expect(gone.account.trouble()?.sentence).toContain('connect ECONNREFUSED')
    const other = accountThat()
    await other.fail(refused)
    expect(other.account.trouble()?.sentence).toContain('535 5.7.8 wrong')
  })

  test('with a pace takes so many in any minute, and the next ones once that is over', async () => {
    const { answers, account } = accountThat()
    answers.perMinute = 3
    expect(account.room()).toBe(3)
    await account.deliver(envelope, Buffer.from(''))
    await jest.advanceTimersByTimeAsync(minuteMs / 2)
    await account.deliver(envelope, Buffer.from(''))
    await account.deliver(envelope, Buffer.from(''))
    expect(account.room()).toBe(0)
    expect(account.trouble()).toBeNull()
    await jest.advanceTimersByTimeAsync(minuteMs / 2)
    expect(account.room()).toBe(1)
    await jest.advanceTimersByTimeAsync(minuteMs / 2)
    expect(account.room()).toBe(3)
    answers.perMinute = null
    expect(account.room()).toBe(Infinity)
  })

  test('with a wrong password is tried thirty times a day and not more', async () => {
    const { answers, account, fail } = accountThat()
    await fail(refused)
    await jest.advanceTimersByTimeAsync(24 * 60 * minuteMs)
    expect(answers.checks).toBeGreaterThan(20)
    expect(answers.checks).toBeLessThanOrEqual(30)
    expect(account.room()).toBe(0)
  })

  test('comes back by itself: one message first, and all of them once that was taken', async () => {
    const { answers, account, fail } = accountThat()
    expect(account.room()).toBe(Infinity)
    await fail(away)
    expect(account.room()).toBe(0)
    Object.assign(answers, { outcome: taken, check: null })
    await jest.advanceTimersByTimeAsync(1100)
    expect(account.room()).toBe(1)
    expect(await account.deliver(envelope, Buffer.from(''))).toEqual(taken)
    expect(account.room()).toBe(Infinity)
  })

  test('that lets us in and still takes nothing from this sender waits longer each time, and stays in Trouble', async () => {
    const { answers, account, fail } = accountThat()
    const sender: AccountFault = { kind: 'account', what: 'sender refused', answer: '550 not from you' }
    await fail(sender)
    Object.assign(answers, { check: null })
    await jest.advanceTimersByTimeAsync(1100)
    expect(account.room()).toBe(1)
    expect(account.trouble()?.sentence).toContain('550 not from you')
    await account.deliver(envelope, Buffer.from(''))
    await jest.advanceTimersByTimeAsync(5000)
    expect(account.room()).toBe(0)
    await jest.advanceTimersByTimeAsync(6000)
    expect(account.room()).toBe(1)
  })

  test('that is another one now has nothing against it', async () => {
    const { account, fail } = accountThat()
    await fail(refused)
    expect(account.room()).toBe(0)
    expect(account.trouble()).not.toBeNull()
    account.renew()
    expect(account.room()).toBe(Infinity)
    expect(account.trouble()).toBeNull()
  })

  test('through which others got meanwhile is not at fault: the message is', async () => {
    const { answers, account } = accountThat()
    let answer: (outcome: Outcome) => void = () => undefined
    const slow: SmtpSender = {
      size: 5,
      deliver: ({ to }) =>
        to === 'slow@mail.example'
          ? new Promise((resolve) => {
              answer = resolve
            })
          : Promise.resolve(taken),
      deliverWhile: () => Promise.resolve(taken),
      check: () => Promise.resolve(answers.check),
      renew: () => undefined,
      close: () => account.close(),
    }
    const own = createMailAccount(slow, { onChange: () => undefined })
    const first = own.deliver({ ...envelope, to: 'slow@mail.example' }, Buffer.from(''))
    await jest.advanceTimersByTimeAsync(1000)
    await own.deliver(envelope, Buffer.from(''))
    answer(away)
    expect(await first).toEqual({ kind: 'later', answer: away.answer })
    expect(own.room()).toBe(Infinity)
  })
})
