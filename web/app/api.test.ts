import { afterEach, describe, expect, jest, test } from '@jest/globals'
import { ApiProblem, call, consider, isChangedHere, rememberCsrfToken, whenActed } from './api.ts'

interface Sent {
  readonly url: string
  readonly init: RequestInit
}

const addressOf = (url: Parameters<typeof fetch>[0]) => (url instanceof Request ? url.url : url.toString())

/** A server that gives these answers in turn, and what it was asked. */
function server(...answers: readonly (Response | Error)[]): Sent[] {
  const sent: Sent[] = []
  const left = [...answers]
  jest.spyOn(globalThis, 'fetch').mockImplementation((url, init = {}) => {
    sent.push({ url: addressOf(url), init })
    const next = left.shift() ?? new Error('asked too often')
    return next instanceof Error ? Promise.reject(next) : Promise.resolve(next)
  })
  return sent
}
const json = (body: unknown, status = 200) => new Response(JSON.stringify(body), { status })
const bodyOf = (sent: Sent | undefined) => JSON.parse(sent?.init.body as string) as Record<string, unknown>

async function problemOf(asking: Promise<unknown>): Promise<ApiProblem> {
  const problem = await asking.catch((fault: unknown) => fault)
  if (!(problem instanceof ApiProblem)) throw new Error('There was no problem')
  return problem
}

afterEach(() => {
  jest.restoreAllMocks()
  rememberCsrfToken(null)
})

describe('a question', () => {
  test('goes to its path with its parameters encoded, and without what is not asked', async () => {
    const sent = server(json({ lines: [], next: null, isAny: true }), json({ mails: [] }))
    await call('clients', { query: { words: 'a&b', after: undefined } })
    await call('mailbox', { parameters: { address: 'o/o na@mail.example' } })
    expect(sent.map(({ url }) => url)).toEqual([
      '/api/clients?words=a%26b',
      '/api/mailboxes/o%2Fo%20na%40mail.example',
    ])
    expect(sent[0]?.init).toMatchObject({ method: 'GET', headers: {} })
    expect(sent[0]?.init.body).toBeUndefined()
  })

  test('that nobody answers is no connection, and one refused says why', async () => {
    server(new TypeError('fetch failed'))
    expect((await problemOf(call('overview'))).details).toMatchObject({ status: 0, code: 'unreachable' })
    const told = {
      type: 'x',
      title: 'Not found',
      status: 404,
      code: 'not found',
      detail: 'There is no such client.',
    }
    server(json(told, 404))
    const problem = await problemOf(call('client', { parameters: { id: 'cl_1' } }))
    expect(problem.message).toBe('There is no such client.')
    expect(problem.details).toEqual(told)
  })

  test.each([
    ['a page of something in between', new Response('<h1>Bad gateway</h1>', { status: 502 })],
    ['another JSON', json({ error: 'no' }, 503)],
    ['nothing', new Response(null, { status: 500 })],
  ])('answered by %s is no connection either, with the status kept', async (_, answer) => {
    const { status } = answer
    server(answer)
    expect((await problemOf(call('overview'))).details).toMatchObject({ status, code: 'unreachable' })
  })
})

describe('an act', () => {
  test('carries the session’s token, and arrives although the page is left', async () => {
    rememberCsrfToken('token')
    const sent = server(json({ isOn: true, missed: 0 }))
    await call('setSending', { body: { commandId: 'a-command', isOn: true } })
    expect(sent[0]?.init).toMatchObject({
      method: 'POST',
      keepalive: true,
      headers: { 'Content-Type': 'application/json', 'X-CSRF-Token': 'token' },
    })
  })

  test('too large for that is sent all the same', async () => {
    const sent = server(json({ id: 'cl_1' }))
    await call('writeNote', {
      parameters: { id: 'cl_1' },
      body: { commandId: 'a-command', text: 'x'.repeat(20_000) },
    })
    expect(sent[0]?.init.keepalive).toBe(false)
  })

  test('acts on one thing go one after the other, each on what the one before made of it', async () => {
    const waiting: ((response: Response) => void)[] = []
    const sent: Sent[] = []
    jest.spyOn(globalThis, 'fetch').mockImplementation((url, init = {}) => {
      sent.push({ url: addressOf(url), init })
      return new Promise((resolve) => waiting.push(resolve))
    })
    const parameters = { id: 'sd_one' }
    const line = (text: string) =>
      call('writePersonalLine', {
        parameters,
        body: { commandId: `c-${text}-12345`, revision: 3, line: text },
      })
    const first = line('first')
    const second = line('second')
    await Promise.resolve()
    expect(sent).toHaveLength(1)
    waiting[0]?.(json({ id: 'sd_one', revision: 4 }))
    await first
    expect(isChangedHere('sd_one', 3)).toBe(true)
    await Promise.resolve()
    expect(sent).toHaveLength(2)
    expect(bodyOf(sent[1])).toMatchObject({ line: 'second', revision: 4 })
    waiting[1]?.(json({ id: 'sd_one', revision: 5 }))
    await second
    await whenActed('sd_one')
    expect(isChangedHere('sd_one', 5)).toBe(false)
  })

  test('one refused stops none after it', async () => {
    server(json({ code: 'invalid', detail: 'No.', status: 422 }, 422), json({ id: 'sd_two', revision: 2 }))
    const asked = (commandId: string) =>
      call('writePersonalLine', {
        parameters: { id: 'sd_two' },
        body: { commandId, revision: 1, line: '' },
      })
    const [first, second] = await Promise.allSettled([asked('command-1'), asked('command-2')])
    expect(first.status).toBe('rejected')
    expect(second).toMatchObject({ status: 'fulfilled', value: { revision: 2 } })
  })

  test('is only asked about where that is what is wanted', async () => {
    const sent = server(json({ announcementId: 'an', clients: 0, lines: [] }))
    await consider('setSending', { body: { isOn: false } })
    expect(bodyOf(sent[0])).toMatchObject({ isOn: false, onlyAsks: true })
    expect(String(bodyOf(sent[0])['commandId'])).toMatch(/^[0-9a-f-]{36}$/)
  })
})
