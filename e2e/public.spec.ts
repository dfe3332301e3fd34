import AxeBuilder from '@axe-core/playwright'
import type { Browser, Page } from '@playwright/test'
import { expect, moveClockTo, test, visit } from './demo.ts'

/*
 * Both sides: a client on a telephone who books, moves and cancels alone, and the business that sees it.
 */

async function telephone(browser: Browser, zone = 'Europe/Berlin'): Promise<Page> {
  const context = await browser.newContext({
    viewport: { width: 390, height: 844 },
    timezoneId: zone,
    locale: 'en-GB',
    hasTouch: true,
  })
  return context.newPage()
}

const origin = (page: Page) => new URL(page.url()).origin
/** A form is not looked at that comes back within two seconds. */
const takeTime = (page: Page) => page.waitForTimeout(2300)

async function chooseFirst(client: Page, address: string, service: string) {
  await client.goto(`${address}/book`)
  await client.getByRole('link', { name: `Choose a time: ${service}` }).click()
  await client.getByRole('table').getByRole('link').first().click()
  await client.locator('ul.times').getByRole('link').first().click()
  await expect(client.getByRole('heading', { name: 'Your details' })).toBeVisible()
}

async function giveDetails(client: Page, email: string) {
  await client.getByLabel('First name').fill('Ottilie')
  await client.getByLabel('Last name').fill('Farnbusch')
  await client.getByLabel('E-mail').fill(email)
}

interface Mail {
  readonly subject: string
}

/** What lies in a made-up mailbox, the newest first. */
const mails = (page: Page, address: string) =>
  page.evaluate(
    async (path) => {
      const answer = await fetch(path)
      return ((await answer.json()) as { messages: Mail[] }).messages.map(({ subject }) => subject)
    },
    `/api/mailboxes/${encodeURIComponent(address)}`,
  )

test('a client books on a telephone, moves twice, cancels and books again; each is told once', async ({
  page,
  browser,
}) => {
  const client = await telephone(browser)
  const address = 'ottilie@farnbusch.example'
  await chooseFirst(client, origin(page), 'Evening on the ground')
  await giveDetails(client, address)
  await takeTime(client)
  await client.getByRole('button', { name: 'Book now' }).click()
  await expect(client.getByText('Your booking is confirmed.')).toBeVisible()
  const own = client.url()
  await expect.poll(() => mails(page, address), { timeout: 30_000 }).toHaveLength(1)

  for (const [index, date] of ['Fri 15 May 2026', 'Sat 16 May 2026'].entries()) {
    await client.getByRole('link', { name: 'Move the booking…' }).click()
    await expect(client.getByRole('heading', { name: 'Move your booking' })).toBeVisible()
    await client.getByRole('link', { name: /Month after/ }).click()
    await client.getByRole('table').getByRole('link').nth(index).click()
    await client.locator('ul.times').getByRole('link').first().click()
    await expect(client.getByText('Nothing has changed yet.')).toBeVisible()
    await client.getByRole('button', { name: 'Move it' }).click()
    await expect(client.getByRole('status')).toContainText('Moved.')
    // What is left of it is told when it has settled.
    await moveClockTo(page, date, '09:00', date.slice(0, 10))
    await expect.poll(() => mails(page, address), { timeout: 30_000 }).toHaveLength(2 + index)
  }

  await client.goto(own)
  await client.getByRole('link', { name: 'Cancel the booking…' }).click()
  await client.getByLabel('Why, if you like to say').fill('We have to travel.')
  await client.getByRole('button', { name: 'Yes, cancel it' }).click()
  await expect(client.getByText('This booking is cancelled.')).toBeVisible()
  await moveClockTo(page, 'Sun 17 May 2026', '09:00', 'Sun 17 May')
  await expect.poll(() => mails(page, address), { timeout: 30_000 }).toHaveLength(4)

  await client.getByRole('link', { name: 'Book again' }).click()
  await client.getByRole('table').getByRole('link').first().click()
  await client.locator('ul.times').getByRole('link').first().click()
  await giveDetails(client, address)
  await takeTime(client)
  await client.getByRole('button', { name: 'Book now' }).click()
  await expect(client.getByText('Your booking is confirmed.')).toBeVisible()
  await expect.poll(() => mails(page, address), { timeout: 30_000 }).toHaveLength(5)
  const told = (await mails(page, address)).toReversed()
  expect(told[0]).toBe(told[4])
  expect(new Set(told).size).toBeGreaterThanOrEqual(3)

  // One client, whose two bookings the business sees, with the reason.
  await visit(page, '/clients')
  await page.getByRole('textbox', { name: /Find/ }).first().fill('Farnbusch')
  await expect(page.getByRole('link', { name: /Farnbusch/ })).toHaveCount(1)
  await page.getByRole('link', { name: /Farnbusch/ }).click()
  await expect(page.getByText(/cancelled by the client.*We have to travel/).first()).toBeVisible()
})

test('two want the last place: the other is told at once, keeps what was typed, and takes another time', async ({
  page,
  browser,
}) => {
  const [first, second] = [await telephone(browser), await telephone(browser)]
  await chooseFirst(first, origin(page), 'Private basket')
  await second.goto(first.url())
  for (const client of [first, second]) {
    await giveDetails(client, client === first ? 'one@farnbusch.example' : 'two@farnbusch.example')
    await client.getByLabel(/^Weight/).fill('150')
  }
  await takeTime(first)
  await first.getByRole('button', { name: 'Send the request' }).click()
  await expect(first.getByText('We have your request')).toBeVisible()
  await second.getByRole('button', { name: 'Send the request' }).click()
  await expect(second.getByRole('alert')).toContainText('has just been taken')
  await expect(second.getByLabel(/^Weight/)).toHaveValue('150')
  await expect(second.getByRole('radio')).toHaveCount(4)
  await second.getByRole('radio').nth(1).check()
  await takeTime(second)
  await second.getByRole('button', { name: 'Send the request' }).click()
  await expect(second.getByText('We have your request')).toBeVisible()
})

test('the whole booking by keyboard, on the reader’s clock where it is another one', async ({
  page,
  browser,
}) => {
  const client = await telephone(browser, 'Atlantic/Azores')
  await client.goto(`${origin(page)}/book`)
  const enter = async (name: string | RegExp) => {
    const link = client.getByRole('link', { name }).first()
    await link.focus()
    await client.keyboard.press('Enter')
  }
  await enter('Choose a time: Sunrise flight')
  await expect(client.getByText('behind them on yours, Atlantic/Azores')).toBeVisible()
  await enter(/^\w+day \d+ \w+ 2026, 1 time$/)
  await enter(/your time/)
  await client.getByLabel('First name').focus()
  for (const text of ['Ottilie', 'Farnbusch', 'keys@farnbusch.example', '', '70']) {
    await client.keyboard.type(text)
    await client.keyboard.press('Tab')
  }
  await takeTime(client)
  await client.getByRole('button', { name: 'Send the request' }).focus()
  await client.keyboard.press('Enter')
  await expect(client.getByText('We have your request')).toBeVisible()
})

test('the pages for clients can be read and used by everybody, light and dark', async ({ page, browser }) => {
  const client = await telephone(browser)
  const address = origin(page)
  await chooseFirst(client, address, 'Evening on the ground')
  const details = client.url()
  await giveDetails(client, 'looks@farnbusch.example')
  await takeTime(client)
  await client.getByRole('button', { name: 'Book now' }).click()
  await client.getByText('Your booking is confirmed.').waitFor()
  const own = client.url()
  const service = new URL(details).pathname.replace('/details', '')
  for (const url of [
    `${address}/book`,
    `${address}${service}`,
    details,
    own,
    `${own}/move`,
    `${own}/cancel`,
  ]) {
    for (const colorScheme of ['light', 'dark'] as const) {
      await client.emulateMedia({ colorScheme })
      await client.goto(url)
      const { violations } = await new AxeBuilder({ page: client })
        .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
        .analyze()
      expect([url, violations.map(({ id, nodes }) => [id, nodes[0]?.html])]).toEqual([url, []])
      const overflow = await client.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
      expect([url, overflow]).toEqual([url, 0])
    }
  }
})
