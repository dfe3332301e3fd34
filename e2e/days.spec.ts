import type { Page } from '@playwright/test'
import { makeBooking } from './booking.ts'
import { expect, test, visit } from './demo.ts'
import { choose, closePart, kept, preview, sentences } from './designing.ts'
import { presser } from './keyboard.ts'

/** Opens the days of a step, which has none yet, of a live sequence. */
async function openDays(page: Page, step: string) {
  await visit(page, '/sequences')
  await page.getByRole('link', { name: /Before a morning flight/ }).click()
  await expect(preview(page).getByText('What to wear up there').first()).toBeVisible()
  await page.getByRole('button', { name: `More about ${step}` }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: 'Days: on any day' }).focus()
  await page.keyboard.press('Enter')
}

const wear = (page: Page) => preview(page).getByRole('listitem').filter({ hasText: 'What to wear' }).first()

test('a step goes on some days only: sentence, pin, preview and the message itself say so', async ({
  page,
}) => {
  // Its pin keeps to 18:00 three days before.
  await openDays(page, 'step 2')
  await choose(page, 'Days', 'only on certain weekdays')
  for (const day of ['Tuesday', 'Wednesday', 'Thursday', 'Friday']) {
    await page.getByRole('checkbox', { name: day }).uncheck({ force: true })
  }
  // The last one stays: a step that goes on no day would be one that is switched off.
  await page.getByRole('checkbox', { name: 'Monday' }).click({ force: true })
  await expect(page.getByRole('checkbox', { name: 'Monday' })).toBeChecked()
  await closePart(page)
  await expect(sentences(page).getByRole('button', { name: /only on Mondays/ })).toBeVisible()
  await expect(page.getByText('3 d · 18:00 · Mon')).toBeVisible()
  await expect(wear(page)).toContainText('is on a day on which this step does not go')
  await expect(wear(page)).toContainText(/Mon \d+ \w+, /)
  await kept(page)

  await page.getByRole('button', { name: 'See what the changes do' }).click()
  const effect = page.getByRole('region', { name: 'Put the changes into effect' })
  await expect(effect.getByText(/No message that is planned now/)).toBeVisible({ timeout: 60_000 })
  await effect.getByRole('button', { name: /^Put them into effect/ }).click()
  await expect(page.getByText('changes not in effect yet')).toBeHidden()

  await makeBooking(page, 'Pembertone', 'Sun 12 Jul 2026', '5:40', 'Sunrise flight')
  const row = page
    .getByRole('list')
    .first()
    .getByRole('button')
    .filter({ hasText: /Mon 6 Jul, .*What to wear/ })
    .first()
  await row.click()
  await expect(page.getByText('is on a day on which this step does not go').first()).toBeVisible()
})

test('the days of a step by keyboard alone', async ({ page }) => {
  const press = presser(page)
  await openDays(page, 'step 1')
  const days = page.getByRole('combobox', { name: 'Days', exact: true })
  const highlighted = page.locator('[role=option][data-combobox-selected]')
  const pick = async (option: string, key: 'ArrowDown' | 'ArrowUp') => {
    await days.focus()
    await press('ArrowDown')
    for (let presses = 0; presses < 4; presses += 1) {
      if ((await highlighted.allInnerTexts()).includes(option)) break
      await press(key)
    }
    await press('Enter')
    await expect(days).toHaveValue(option)
  }
  await pick('only on certain weekdays', 'ArrowDown')
  await page.getByRole('checkbox', { name: 'Friday' }).focus()
  await press('Space')
  await expect(page.getByRole('checkbox', { name: 'Friday' })).not.toBeChecked()
  await page.getByRole('button', { name: 'Done' }).last().focus()
  await press('Enter')
  const said = sentences(page).getByRole('button', { name: /only from Monday to Thursday/ })
  await expect(said).toBeVisible()
  // The sentence leads back to the days, and nothing of them is left when they are taken away.
  await said.focus()
  await press('Enter')
  await pick('on any day', 'ArrowUp')
  await expect(said).toBeHidden()
})
