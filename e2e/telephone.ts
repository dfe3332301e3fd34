import type { Browser, Page } from '@playwright/test'
import { expect } from './demo.ts'

/* A client at the pages for clients, on a telephone. */

export async function telephone(browser: Browser, zone = 'Europe/Berlin'): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    timezoneId: zone,
    locale: 'en-GB',
    hasTouch: true,
  })
  return context.newPage()
}

export const origin = (page: Page) => new URL(page.url()).origin

/** A form is not looked at that comes back within two seconds. */
export const takeTime = (page: Page) => page.waitForTimeout(2300)

export async function chooseFirst(client: Page, address: string, service: string) {
  await client.goto(`${address}/book`)
  await client.getByRole('link', { name: `Choose a time: ${service}` }).click()
  await client.getByRole('table').getByRole('link').first().click()
  await client.locator('ul.times').getByRole('link').first().click()
  await expect(client.getByRole('heading', { name: 'Your details' })).toBeVisible()
}

export async function giveDetails(client: Page, email: string) {
  await client.getByLabel('First name').fill('Ottilie')
  await client.getByLabel('Last name').fill('Farnbusch')
  await client.getByLabel('E-mail').fill(email)
}

interface Mail {
  readonly id: number
  readonly subject: string
}

/** What lies in a made-up mailbox, the newest first. */
export const mailsIn = (page: Page, address: string) =>
  page.evaluate(
    async (path) => {
      const answer = await fetch(path)
      return ((await answer.json()) as { messages: Mail[] }).messages
    },
    `/api/mailboxes/${encodeURIComponent(address)}`,
  )

export const subjectsIn = async (page: Page, address: string) =>
  (await mailsIn(page, address)).map(({ subject }) => subject)
