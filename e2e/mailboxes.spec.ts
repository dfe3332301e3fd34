import { join } from 'node:path'
import AxeBuilder from '@axe-core/playwright'
import { expect, test } from '@playwright/test'
import {
  listenForReaders,
  mailboxPassword,
  type ListeningMailboxes,
} from '#server/standins/postOffice/mailboxes.ts'
import { openPostOfficeFile, type PostOfficeFile } from '#server/standins/postOffice/file.ts'
import { mailOf } from '#server/testing/mails.ts'
import { testFolder } from '#server/testing/seed.ts'
import { accessible } from './accessible.ts'
import type { DemoServer } from './demoServer.ts'
import { signIn, startKiteworks } from './kiteworks.ts'

const user = 'front-desk@kiteworks.example'

let file: PostOfficeFile
let mailboxes: ListeningMailboxes
let server: DemoServer

test.beforeAll(async ({ playwright }) => {
  file = openPostOfficeFile(join(testFolder(), 'mail.db'))
  mailboxes = await listenForReaders(file)
  server = await startKiteworks(playwright.request, {})
})
test.afterAll(async () => {
  await server.stop()
  await mailboxes.close()
  file.close()
})

test('a mailbox is tried, read, looked into, and read no more', async ({ page }) => {
  file.keep([user], Date.now(), '', mailOf({ subject: 'Older than us' }))
  await signIn(page, server)
  await page.getByRole('link', { name: 'Set-up' }).click()
  await page.getByRole('link', { name: 'What comes back' }).click()
  await expect(page.getByText('No mailbox is read yet')).toBeVisible()
  await page.getByRole('link', { name: 'Read a mailbox' }).click()

  await page.getByRole('button', { name: 'Read this mailbox' }).click()
  await expect(page.getByText('The mailbox needs a name.')).toBeVisible()
  await page.getByLabel('What you call it').fill('Front desk')
  await page.getByLabel('Server', { exact: true }).fill('127.0.0.1')
  await page.getByRole('combobox', { name: 'How the line is kept safe' }).click()
  await page.getByRole('option', { name: /no TLS/ }).click()
  await page.getByLabel('Port').fill(String(mailboxes.port))
  await page.getByLabel('User').fill(user)
  await page.getByLabel('Password', { exact: true }).fill('not this one')
  await page.getByRole('button', { name: 'Try it' }).click()
  const said = page.getByRole('status', { name: 'What the server said' })
  await expect(said).toContainText('It refuses the user or the password.')
  await expect(said).toContainText('That is not the password')
  await page.getByLabel('Password', { exact: true }).fill(mailboxPassword)
  await page.getByRole('button', { name: 'Try it' }).click()
  await expect(said).toContainText(
    'One mail lies in it. They stay as they are, and nothing follows from them.',
  )
  const { violations } = await new AxeBuilder({ page }).withTags([...accessible]).analyze()
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([])
  await page.getByRole('button', { name: 'Read this mailbox' }).click()

  const read = page.getByRole('region', { name: 'Mailboxes that are read' })
  await expect(read).toContainText(`Front desk · ${user} · INBOX`)
  await expect(read).toContainText('Read to the end. The mail server says when something comes.')
  file.keep(
    [user],
    Date.now(),
    '',
    mailOf({ from: 'Somebody <who@brackwater.example>', subject: 'A question' }),
  )
  await read.getByRole('button', { name: 'Look now' }).click()
  await expect(read.getByRole('status')).toHaveText('One mail came in.')

  await page.goto(`${server.url}desk/decide`)
  await expect(page.getByRole('article', { name: /^Mail from/ })).toContainText('A question')

  await page.goto(`${server.url}set-up/answers`)
  await page.getByRole('link', { name: 'Front desk' }).click()
  await page.getByRole('button', { name: 'Take it away…' }).click()
  await page.getByRole('button', { name: 'Take the mailbox away' }).click()
  await expect(page.getByText('No mailbox is read yet')).toBeVisible()
})

test('what is noticed is said in Set-up and holds at 390 px', async ({ page }) => {
  await signIn(page, server)
  await expect(page.getByRole('link', { name: 'Set-up' })).toBeVisible()
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${server.url}set-up/answers`)
  const links = page.getByRole('checkbox', { name: 'Links that are followed' })
  await expect(links).toBeChecked()
  await links.click()
  await expect(links).not.toBeChecked()
  await page.reload()
  await expect(links).not.toBeChecked()
  await page.getByRole('checkbox', { name: 'Put a mark of the message' }).click()
  await expect(page.getByRole('checkbox', { name: 'Put a mark of the message' })).toBeChecked()
  await page.reload()
  await expect(page.getByRole('checkbox', { name: 'Put a mark of the message' })).toBeChecked()
  const { scrollWidth, clientWidth } = await page.evaluate(() => {
    const { scrollWidth, clientWidth } = document.documentElement
    return { scrollWidth, clientWidth }
  })
  expect(scrollWidth).toBeLessThanOrEqual(clientWidth)
})
