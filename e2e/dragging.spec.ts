import type { Page } from '@playwright/test'
import { expect, test, visit } from './demo.ts'
import { sentences } from './designing.ts'

const letters = async (page: Page) =>
  await sentences(page)
    .getByRole('button', { name: /^What:/ })
    .allInnerTexts()

const asDesigned = ['Your flight is booked', 'What to wear up there', 'The flight call']

test('steps are dragged in the sentences, by mouse and by keys, and undone', async ({ page }) => {
  await visit(page, '/sequences')
  await page.getByRole('link', { name: /Before a morning flight/ }).click()
  await expect.poll(() => letters(page)).toEqual(asDesigned)
  const last = page.getByRole('button', { name: 'Move step 3' })
  await last.scrollIntoViewIfNeeded()
  const from = await last.boundingBox()
  const to = await page.getByRole('button', { name: 'Move step 1' }).boundingBox()
  if (!from || !to) throw new Error('The steps are not there')
  await page.mouse.move(from.x + 6, from.y + 10)
  await page.mouse.down()
  await page.mouse.move(from.x + 8, from.y - 20, { steps: 5 })
  await page.mouse.move(to.x + 6, to.y + 2, { steps: 10 })
  await page.mouse.up()
  await expect
    .poll(() => letters(page))
    .toEqual(['The flight call', 'Your flight is booked', 'What to wear up there'])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(() => letters(page)).toEqual(asDesigned)

  // Space takes hold, an arrow moves, Space lets go; each is said to who does not see it.
  await last.focus()
  await page.keyboard.press('Space')
  const said = page.getByRole('status').filter({ hasText: /step/i })
  await expect(said.first()).toBeAttached()
  // Arrows count from when the places are measured, which is when its own place is said.
  await expect(page.getByText('It would be step 3.')).toBeAttached()
  await page.keyboard.press('ArrowUp')
  await expect(page.getByText('It would be step 2.')).toBeAttached()
  await page.keyboard.press('Space')
  await expect
    .poll(() => letters(page))
    .toEqual(['Your flight is booked', 'The flight call', 'What to wear up there'])
})
