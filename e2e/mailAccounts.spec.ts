import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import { startTakingServer, type TakingServer } from '#server/testing/takingServer.ts'
import { owner, signIn, startKiteworks } from './kiteworks.ts'
import type { DemoServer } from './demoServer.ts'

let mail: TakingServer
let server: DemoServer

test.beforeAll(async ({ playwright }) => {
  mail = await startTakingServer({ disabledCommands: ['STARTTLS', 'AUTH'] })
  server = await startKiteworks(playwright.request, {
    VORFREUDE_SMTP_URL: `smtp://127.0.0.1:${mail.port}`,
    VORFREUDE_PUBLIC_URL: 'https://booking.kiteworks.example',
  })
})
test.afterAll(async () => {
  await server.stop()
  mail.close()
})

test('an account beside the main one is set up, tried, changed and taken away', async ({ page }) => {
  await signIn(page, server)
  await page.getByRole('link', { name: 'Set-up' }).click()
  await page.getByRole('link', { name: 'The mail account and your web address' }).click()
  await page.getByLabel('In a day').fill('400')
  await page.getByRole('button', { name: 'Keep this' }).click()
  await expect(page.getByText('Kept. It holds from now on.')).toBeVisible()

  await page.getByRole('link', { name: 'Another account' }).click()
  await page.getByRole('button', { name: 'Use this account' }).click()
  await expect(page.getByText('An account needs a name.')).toBeVisible()
  await page.getByLabel('What you call it').fill('Newsletter')
  await page.getByLabel('Server', { exact: true }).fill('127.0.0.1')
  await page.getByRole('combobox', { name: 'How the line is kept safe' }).click()
  await page.getByRole('option', { name: /no TLS/ }).click()
  await page.getByLabel('Port').fill(String(mail.port))
  await page.getByLabel('Its messages come from (e-mail address)').fill('news@kiteworks.example')
  await page.getByRole('button', { name: 'Use this account' }).click()
  await expect(page.getByText('Say what goes through it').first()).toBeVisible()
  await page.getByRole('checkbox', { name: 'promotional' }).check()
  await page.getByLabel('In an hour').fill('60')
  await page.getByRole('button', { name: 'Try it' }).click()
  await expect(page.getByRole('status', { name: 'What the server said' })).toContainText('It took the copy.')
  expect(mail.taken).toEqual([{ user: '', from: 'news@kiteworks.example', to: owner.email }])
  const { violations } = await new AxeBuilder({ page }).analyze()
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([])
  await page.getByRole('button', { name: 'Use this account' }).click()

  const beside = page.getByRole('region', { name: 'Accounts beside it' })
  await expect(beside).toContainText('Newsletter · 127.0.0.1 · messages of the purpose promotional')
  await beside.getByRole('link', { name: 'Newsletter' }).click()
  await page.getByRole('combobox', { name: 'What these people sign' }).click()
  await page.getByRole('option', { name: 'Ada Windermeer' }).click()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Keep the changes' }).click()
  await expect(beside).toContainText('what Ada Windermeer signs')

  await beside.getByRole('link', { name: 'Newsletter' }).click()
  await page.getByRole('button', { name: 'Take it away…' }).click()
  await page.getByRole('button', { name: 'Take the account away' }).click()
  await expect(page.getByRole('link', { name: 'Another account' })).toBeVisible()
  await expect(beside.getByRole('link', { name: 'Newsletter' })).toHaveCount(0)
})
