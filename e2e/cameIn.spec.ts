import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { accessible } from './accessible.ts'
import { expect, test, visit } from './demo.ts'

async function expectAccessible(page: Page) {
  const { violations } = await new AxeBuilder({ page }).withTags([...accessible]).analyze()
  expect(violations).toEqual([])
}

const mailbox = `/mailbox/${encodeURIComponent('olena@kovalenko.example')}`

test('a client answers: the follow-up is dropped, one press does what is asked, and the answer is in its thread', async ({
  page,
}) => {
  await visit(page, mailbox)
  await page.getByText('Be this client:').click()
  await page.getByLabel('What they write').fill('Thank you for the pictures! Please call me on Monday at 10.')
  const send = page.getByRole('button', { name: 'Send', exact: true })
  await send.dblclick()
  await expect(page.getByText('✓ It came in')).toBeVisible()

  await visit(page, '/desk/decide')
  const mail = page.getByRole('article', { name: 'Mail from olena@kovalenko.example' })
  await expect(mail).toBeVisible()
  await expect(page.getByRole('region', { name: 'Came in' }).getByRole('listitem')).toHaveCount(1)
  await expect(mail.getByText(/“How was it\?” will not go: its condition no longer holds/)).toBeVisible()
  await expect(mail.locator('mark')).toHaveText(['Please call', 'on Monday at 10'])
  await expectAccessible(page)

  await mail.getByRole('button', { name: /^Set the task “Call Олена Коваленко at 10:00/ }).click()
  const act = mail.getByRole('group', { name: /^Set the task/ })
  await act.getByRole('button', { name: /^Set the task/ }).click()
  await expect(page.getByRole('region', { name: 'Came in' })).toHaveCount(0)
  await visit(page, '/desk/to-do')
  await page.getByRole('link', { name: /Call Олена Коваленко at 10:00/ }).click()
  await page.getByRole('link', { name: 'Олена Коваленко', exact: true }).click()

  // From the client's page to the mail, and the answer by key.
  await page.getByRole('link', { name: /Re: .*← Answer/ }).click()
  await expect(mail.getByRole('heading', { level: 2 })).toBeFocused()
  await page.keyboard.press('r')
  await mail.getByLabel('To olena@kovalenko.example').fill('Gladly. Talk to you on Monday!')
  await mail.getByRole('button', { name: 'Send answer' }).click()
  await expect(page.getByText('✓ sent')).toHaveCount(0)
  await visit(page, mailbox)
  await page.getByRole('link', { name: /^Re: / }).first().click()
  await page.getByRole('tab', { name: 'Source' }).click()
  await expect(page.getByText(/In-Reply-To: <[0-9a-f-]+@kovalenko\.example>/)).toBeVisible()
  await expect(page.getByText(/References: <sd_/)).toBeVisible()
  await expect(page.getByRole('tabpanel').getByText('> Thank you for the pictures!')).toBeVisible()
})

test('what came back for good is one entry, with all that waits because of it', async ({ page }) => {
  await visit(page, `/mailbox/${encodeURIComponent('tiberio@estevao.example')}`)
  await page.getByText('Be this client:').click()
  await page.getByLabel('What they do with it').selectOption({ label: 'Comes back: no such mailbox' })
  await page.getByRole('button', { name: 'Send', exact: true }).click()
  await expect(page.getByText('✓ It came in')).toBeVisible()
  await visit(page, '/desk/trouble')
  const mail = page.getByRole('article')
  await expect(mail.getByRole('heading', { name: 'Mail to tiberio@estevao.example' })).toBeVisible()
  await expect(mail.getByText(/bounced/)).toBeVisible()
  await expectAccessible(page)
  await mail.getByRole('button', { name: 'It works: send there again…' }).click()
  await mail.getByRole('button', { name: 'Send there again', exact: true }).click()
  await expect(mail.getByRole('region', { name: 'What waits because of it' })).toHaveCount(0)
})

test('is read and answered on a telephone', async ({ page }) => {
  await visit(page, `/mailbox/${encodeURIComponent('oona@siltanen.example')}`)
  await page.getByText('Be this client:').click()
  await page.getByLabel('What they write').fill('Where do we meet?')
  await page.getByRole('button', { name: 'Send', exact: true }).click()
  await expect(page.getByText('✓ It came in')).toBeVisible()
  await page.setViewportSize({ width: 390, height: 800 })
  await visit(page, '/desk/decide')
  await page.getByRole('link', { name: /Oona Siltanen.*← Answer/ }).click()
  await expect(page.getByText('It asks something: answer it.')).toBeVisible()
  const isWithin = () => page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)
  expect(await isWithin()).toBe(true)
  await page.getByRole('button', { name: /^Answer/ }).click()
  expect(await isWithin()).toBe(true)
  await expectAccessible(page)
})
