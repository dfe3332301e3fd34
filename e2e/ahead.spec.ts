import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import type { Page } from '@playwright/test'
import { fillWithSends } from '../server/testing/manySends.ts'
import { expect, test, visit } from './demo.ts'

const list = (page: Page) => page.getByRole('region', { name: 'Messages, day by day' })

test('filters stand in the address and can be handed on', async ({ page, context }) => {
  await visit(page, '/ahead')
  await page.getByRole('combobox', { name: 'Letter' }).click()
  await page.getByRole('option', { name: 'Three hours to go' }).click()
  await page.getByRole('combobox', { name: 'Service' }).click()
  await page.getByRole('option', { name: 'Evening flight' }).click()
  await expect(list(page).getByRole('button', { name: /The flight call/ })).toHaveCount(0)
  await expect(
    list(page)
      .getByRole('button', { name: /Three hours to go/ })
      .first(),
  ).toBeVisible()
  expect(page.url()).toMatch(/letter=.*service=|service=.*letter=/)
  const other = await context.newPage()
  await other.goto(page.url())
  await expect(
    list(other)
      .getByRole('button', { name: /Three hours to go/ })
      .first(),
  ).toBeVisible()
  await expect(list(other).getByRole('button', { name: /The flight call/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Show the next three weeks' }).click()
  await expect(
    list(page)
      .getByRole('button', { name: /The flight call/ })
      .first(),
  ).toBeVisible()
})

test('many at once: what it would do stands there first, then it is done', async ({ page }) => {
  await visit(page, '/ahead')
  await page.getByRole('checkbox', { name: 'Choose all of 2026-05-15' }).check()
  await expect(page.getByText('2 chosen')).toBeVisible()
  await page.getByRole('button', { name: 'Move…' }).click()
  const would = page.getByRole('region', { name: 'What it will do' })
  await would.getByLabel('To').fill('Fri 15 May 2026')
  await would.getByLabel('To').press('Tab')
  await would.getByLabel('at: hours').fill('19')
  await would.getByLabel('at: minutes').fill('30')
  await expect(would.getByText('Fri 15 May, 19:30').first()).toBeVisible()
  await would.getByRole('button', { name: 'Move these 2' }).click()
  await expect(page.getByText('2 messages: have another time.')).toBeVisible()
  await expect(list(page).getByRole('button', { name: /^19:30 The flight call/ })).toHaveCount(2)

  // A moment after the last useful one is refused for each, and nothing is done.
  await page.getByRole('checkbox', { name: 'Choose all of 2026-05-15' }).check()
  await page.getByRole('button', { name: 'Move…' }).click()
  await would.getByLabel('To').fill('Mon 1 Jun 2026')
  await would.getByLabel('To').press('Tab')
  await expect(would.getByText('That is after its last useful moment.')).toHaveCount(2)
  await expect(would.getByRole('button', { name: /Move these/ })).toBeDisabled()

  await page.getByRole('button', { name: 'Hold back', exact: true }).click()
  await page.getByRole('button', { name: 'Hold these 2 for approval' }).click()
  await expect(page.getByText('2 messages: wait for approval now.')).toBeVisible()
  await expect(list(page).getByRole('button', { name: /^19:30 The flight call.*waits for you/ })).toHaveCount(
    2,
  )
})

test('a month at a glance leads to its days', async ({ page }) => {
  await visit(page, '/ahead?view=month')
  await expect(page.getByRole('heading', { name: 'May 2026' })).toBeVisible()
  await page.getByRole('link', { name: /Friday 22 May 2026: 3 messages/ }).click()
  await expect(list(page).getByRole('heading', { name: /Friday 22 May 2026/ })).toBeVisible()
  await visit(page, '/ahead?view=month')
  await page.getByRole('button', { name: /the month after/ }).click()
  await expect(page.getByRole('heading', { name: 'June 2026' })).toBeVisible()
})

test('why not: the first thing in the way, the fact, and what would bring it', async ({ page }) => {
  await visit(page, '/clients')
  await page.getByRole('link', { name: /Ottokar Quendel/ }).click()
  await page.getByRole('button', { name: 'Why not?' }).click()
  await page.getByRole('combobox', { name: 'Letter' }).click()
  await page.getByRole('option', { name: 'The flight call' }).click()
  await expect(page.getByText('There is no e-mail address to send it to.')).toBeVisible()
  await expect(page.getByText('The recipient would need an address.')).toBeVisible()
  await expect(page.getByText('Then it comes: the planner has tried it.')).toBeVisible()
  const asked = page.url()
  await page.goto('about:blank')
  await page.goto(asked)
  await expect(page.getByText('There is no e-mail address to send it to.')).toBeVisible()
})

test('anything is found by name, address or date; ? lists the keys of the screen', async ({ page }) => {
  await visit(page, '/desk/decide')
  await page.keyboard.press('Control+k')
  const find = page.getByPlaceholder('Name, address, date or section')
  await find.fill('leonie@abendroth')
  await expect(page.getByRole('button', { name: /Familie Abendroth.*client/ })).toBeVisible()
  await find.fill('25 May')
  await page.getByRole('button', { name: /Private basket, Mon 25 May 2026, 05:20/ }).click()
  await expect(page.getByRole('heading', { name: /Private basket/ })).toBeVisible()
  await page.keyboard.press('Control+k')
  await find.fill('sequences')
  await expect(page.getByRole('button', { name: 'Sequences section' })).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Sequences', level: 1 })).toBeVisible()
  await page.keyboard.press('Control+k')
  await find.fill('%')
  await expect(page.getByText('Nothing of that name, address or date.')).toBeVisible()
  await page.keyboard.press('Escape')
  await visit(page, '/desk/decide')
  await page.keyboard.press('Shift+?')
  await expect(page.getByRole('dialog').getByText('approve: it goes at its time')).toBeVisible()
})

test('a message as it went is kept as a file, and all of a client as one', async ({ page }) => {
  await visit(page, '/clients')
  await page.getByRole('link', { name: /Familie Abendroth/ }).click()
  await page
    .getByRole('button', { name: /The flight call.* sent/ })
    .first()
    .click()
  await page.getByText(/The message as it went/).click()
  const [eml] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /\.eml/ }).click(),
  ])
  expect(eml.suggestedFilename()).toMatch(/\.eml$/)
  const [mbox] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: /mbox/ }).click(),
  ])
  expect(mbox.suggestedFilename()).toBe('Familie-Abendroth.mbox')
})

/** Scrolls through the list and counts the frames in which its middle shows no line. */
const blankFrames = (page: Page, pixels: number, steps: number) =>
  list(page).evaluate(
    async (scroller, [by, times]) => {
      const { left, top, width, height } = scroller.getBoundingClientRect()
      const isLine = (part: number) => {
        const found = document.elementFromPoint(left + width / 2, top + height * part)
        return found !== null && found.closest('li') !== null
      }
      let blank = 0
      for (let step = 0; step < times; step += 1) {
        scroller.scrollTop += by
        await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)))
        if (![0.1, 0.5, 0.9].every(isLine)) blank += 1
      }
      return blank
    },
    [pixels, steps] as const,
  )

test('with 100,000 messages it opens, scrolls without blank stretches, and knows every line', async ({
  page,
  demos,
}, { file }) => {
  const { folder } = await demos.for(file)
  const database = new Sqlite(join(folder, 'vorfreude.db'))
  fillWithSends(database, 100_000, Date.UTC(2026, 5, 10, 6, 0))
  database.close()
  await visit(page, '/ahead?from=2026-06-10&to=2027-06-30&state=planned')
  await expect(
    list(page).getByRole('heading', { name: /Wednesday 10 June 2026.*4\d\d messages/ }),
  ).toBeVisible()
  await expect(list(page).getByText('…')).toHaveCount(0)
  expect(await blankFrames(page, 600, 150)).toBe(0)
  await expect(list(page).getByText('…')).toHaveCount(0)
  // To the very end at once: everything there is known, too.
  await list(page).evaluate((scroller) => scroller.scrollTo(0, scroller.scrollHeight))
  await expect(list(page).getByRole('button').last()).toBeVisible()
  await expect(list(page).getByText('…')).toHaveCount(0)
})

test('of two quick choices both count', async ({ page }) => {
  await visit(page, '/ahead')
  await expect(page.getByRole('combobox', { name: 'Client' })).toBeVisible()
  // Both within one turn: the page is not drawn anew between them.
  await page.evaluate(() => {
    const radio = (value: string) =>
      document.querySelector<HTMLInputElement>(`input[type=radio][value="${value}"]`)
    radio('month')?.click()
    radio('why-not')?.click()
  })
  await expect(page.getByText('Choose a client, and a letter or a sequence.')).toBeVisible()
  await page.evaluate(() => {
    document.querySelector<HTMLInputElement>('input[type=radio][value="sequence"]')?.click()
    document.querySelector<HTMLInputElement>('input[type=radio][value="month"]')?.click()
  })
  await expect(page.getByRole('table')).toBeVisible()
  expect(new URL(page.url()).searchParams.get('view')).toBe('month')
  expect(new URL(page.url()).searchParams.get('of')).toBe('sequence')
})
