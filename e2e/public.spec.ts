import AxeBuilder from '@axe-core/playwright'
import { expect, test } from './demo.ts'
import { chooseFirst, giveDetails, origin, takeTime, telephone } from './telephone.ts'

/*
 * The pages for clients, on a telephone.
 */

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
