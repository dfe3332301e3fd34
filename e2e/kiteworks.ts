import { expect, type APIRequest, type Page } from '@playwright/test'
import { startServer, type DemoServer } from './demoServer.ts'

export const owner = { email: 'ada@kiteworks.example', password: 'a long enough one' }

/** A real house that was set up just now, with one owner and one service. */
export async function startKiteworks(
  request: APIRequest,
  environment: Readonly<Record<string, string>> = {},
): Promise<DemoServer> {
  const server = await startServer('server/main', undefined, environment)
  const api = await request.newContext({ baseURL: server.url })
  const answer = await api.post('/api/first-run', {
    data: {
      word: server.word,
      businessName: 'Kiteworks',
      zone: 'Europe/Berlin',
      senderAddress: 'hello@kiteworks.example',
      postalAddress: 'Dune Road 1, 00000 Sandby',
      phone: '',
      personName: 'Ada Windermeer',
      personEmail: owner.email,
      password: owner.password,
      service: { name: 'Kite lesson', place: '', durationMinutes: 60, seats: 1 },
    },
  })
  expect(answer.status()).toBe(200)
  await api.dispose()
  return server
}

export async function signIn(page: Page, { url }: DemoServer, { email, password } = owner) {
  await page.goto(url)
  await page.getByLabel('E-mail address').fill(email)
  await page.getByRole('textbox', { name: 'Password' }).fill(password)
  await page.getByRole('button', { name: 'Sign in' }).click()
}
