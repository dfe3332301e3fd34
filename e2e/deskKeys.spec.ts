import type { Page } from '@playwright/test'
import { expect, test, visit } from './demo.ts'

const message = (page: Page) => page.getByRole('article')
const list = (page: Page) => page.getByRole('region', { name: 'Desk' })
const words = (page: Page) => page.getByRole('group', { name: 'Words for this copy only' })
const heading = (page: Page) => message(page).getByRole('heading', { level: 2 }).first()

test('in ordinary use nothing stands in the console', async ({ page }) => {
  const said: string[] = []
  page.on('console', (line) => {
    if (line.type() === 'error') said.push(line.text())
  })
  for (const path of ['/desk', '/ahead', '/bookings', '/clients', '/sequences', '/letters', '/set-up']) {
    await visit(page, path)
    await expect(page.getByRole('heading', { level: 1 }).first()).toBeAttached()
  }
  await visit(page, '/desk/trouble')
  for (const entry of await list(page)
    .getByRole('link', { name: /blocked|missed|failed/ })
    .all()) {
    await entry.click()
    await expect(message(page).getByRole('button', { name: /Let it go/ })).toBeVisible()
  }
  await page.getByRole('button', { name: /looks and signing out/ }).click()
  await page.getByRole('menuitem', { name: 'Sign out' }).click()
  await expect(page.getByRole('button', { name: 'Come in as Ilse Thornquist' })).toBeVisible()
  await page.reload()
  await expect(page.getByRole('button', { name: 'Come in as Ilse Thornquist' })).toBeVisible()
  expect(said).toEqual([])
})

test('E opens and closes editing, Escape leaves a field, and what was typed is still there', async ({
  page,
}) => {
  await visit(page, '/desk')
  await expect(heading(page)).toBeFocused()
  await page.keyboard.press('e')
  await words(page).getByRole('textbox', { name: 'Subject' }).click()
  await page.keyboard.press('End')
  await page.keyboard.type(' (see it)')
  await page.keyboard.press('Escape')
  await expect(heading(page)).toBeFocused()
  await page.keyboard.press('e')
  await expect(words(page)).toHaveCount(0)
  await expect(page.getByText('Approved now, it goes without them.')).toBeVisible()
  await page.keyboard.press('e')
  await expect(words(page).getByRole('textbox', { name: 'Subject' })).toContainText('(see it)')
  await words(page).getByRole('button', { name: 'Cancel' }).click()
  const line = message(page).getByLabel('A line for this copy only, after the greeting')
  await line.focus()
  await page.keyboard.press('Escape')
  await expect(line).not.toBeFocused()
})

test('trouble: what still helps stands first, the message stays in sight, keys and many at once', async ({
  page,
}) => {
  await page.setViewportSize({ width: 1280, height: 480 })
  await visit(page, '/desk/trouble')
  await expect(list(page).getByRole('checkbox', { name: /Choose all/ })).toBeVisible()
  const parts = await list(page).getByRole('heading', { level: 2 }).allInnerTexts()
  const firstTooLate = parts.findIndex((text) => text.startsWith('Too late'))
  expect(firstTooLate).toBeGreaterThan(0)
  expect(parts.slice(0, firstTooLate).every((text) => text.startsWith('Useful'))).toBe(true)
  expect(parts.slice(firstTooLate).every((text) => text.startsWith('Too late'))).toBe(true)

  await list(page).getByRole('link').last().scrollIntoViewIfNeeded()
  await list(page)
    .getByRole('link', { name: /Too late|missed|stale|blocked|failed/ })
    .last()
    .click()
  await expect(heading(page)).toBeInViewport()

  await page.keyboard.press('?')
  await expect(page.getByRole('dialog').getByText('let it go')).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await page.keyboard.press('k')
  await expect(page.getByText(/^Let go: /)).toBeVisible()
  await page.getByRole('button', { name: 'Take back' }).click()

  await list(page)
    .getByRole('checkbox', { name: /Choose all/ })
    .check()
  const count = await list(page)
    .getByRole('checkbox', { name: /^Choose .* to / })
    .count()
  await page.getByRole('button', { name: 'Send now', exact: true }).click()
  const would = page.getByRole('region', { name: 'What it will do' })
  await expect(would.getByText(/Nobody knows whether it has gone/)).toBeVisible()
  await would.getByRole('button', { name: 'Cancel' }).click()
  await letAllGo(page, count)
})

/** Lets go of all that is in trouble, with what is chosen at one press. */
async function letAllGo(page: Page, count: number) {
  await page.getByRole('button', { name: 'Let go', exact: true }).click()
  await page
    .getByRole('region', { name: 'What it will do' })
    .getByRole('button', { name: `Let these ${count} go` })
    .click()
  await expect(page.getByText('No trouble.')).toBeVisible()
}

test('where nothing needs anybody the Desk says what went last and what goes next', async ({ page }) => {
  await visit(page, '/desk/trouble')
  const all = list(page).getByRole('checkbox', { name: /Choose all/ })
  await expect(all.or(page.getByText('No trouble.'))).toBeVisible()
  if (await all.isVisible()) {
    await all.check()
    await letAllGo(
      page,
      await list(page)
        .getByRole('checkbox', { name: /^Choose .* to / })
        .count(),
    )
  }
  // What is due needs somebody, too: it sleeps from here on.
  await visit(page, '/pipeline?late=1')
  await page.getByRole('checkbox', { name: 'Choose Bjarne Sommerfeldt' }).click()
  await page.getByRole('checkbox', { name: 'Choose Balthasar Ullmannsdorf' }).click()
  await page.getByRole('button', { name: 'Into another stage…' }).click()
  await page.getByRole('combobox', { name: 'Stage' }).click()
  await page.getByRole('option', { name: 'asleep' }).click()
  await page.getByRole('button', { name: 'Move them' }).click()
  await expect(page.getByText('2 enquiries: now in “asleep”.')).toBeVisible()
  await visit(page, '/desk/decide')
  await expect(list(page).getByRole('listitem').first()).toBeVisible()
  for (let left = await list(page).getByRole('listitem').count(); left > 0; left -= 1) {
    await expect(heading(page)).toBeFocused()
    await page.keyboard.press('a')
    await expect(list(page).getByRole('listitem')).toHaveCount(left - 1)
  }
  const nothing = page.getByRole('article', { name: 'Nothing needs you now' })
  await expect(nothing.getByText('goes next')).toBeVisible()
  await expect(nothing.getByText(/The flight call|Your photos are there|How was it/).first()).toBeVisible()
  await expect(nothing.getByRole('link', { name: 'All that is ahead' })).toBeVisible()
})
