import type { Page } from '@playwright/test'
import { expect, test, visit } from './demo.ts'
import { body, openLetter, putField, saved } from './letterEditor.ts'

/* What the editor of a letter's body does with keys, a mouse and what is pasted. */

/** The browser tells of a moved cursor a moment later; no hand is quicker. */
async function pressSlowly(page: Page, ...keys: string[]) {
  for (const key of keys) {
    await page.keyboard.press(key)
    await page.waitForTimeout(60)
  }
}

test('the keyboard alone writes a letter, decides on a field and moves a section', async ({ page }) => {
  await visit(page, '/letters')
  await page.getByRole('button', { name: 'New letter' }).focus()
  await page.keyboard.press('Enter')
  await body(page).focus()
  await page.keyboard.type('Second. ')
  await putField(page, 'Last name')
  await page.keyboard.press('Enter')
  await page.keyboard.type('First.')
  // Beside the field, its choices open.
  await pressSlowly(page, 'ArrowUp', 'End', 'Control+Enter')
  await page.getByRole('menuitem', { name: /Leave the sentence out/ }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('tab', { name: /Problems \(1\)/ })).toBeVisible()
  // The paragraph below moves up, and is taken back.
  await body(page).focus()
  const paragraphs = body(page).locator('p')
  await expect(paragraphs).toHaveText(['Second. Last name', 'First.'])
  await pressSlowly(page, 'Control+Home', 'ArrowDown', 'Alt+ArrowUp')
  await expect(paragraphs).toHaveText(['First.', 'Second. Last name'])
  await page.keyboard.press('Control+Z')
  await expect(paragraphs).toHaveText(['Second. Last name', 'First.'])
  await saved(page)
})

test('a section is dragged to another place, and back by undo', async ({ page }) => {
  await openLetter(page, /What to wear/)
  const blocks = body(page).locator('[data-drag-handle]')
  const names = () =>
    blocks
      .locator('span')
      .filter({ hasText: /^(Passage|Booking|Signature)/ })
      .allTextContents()
  const before = ['Passage: What to wear', 'Passage: The way and the cars', 'Booking facts', 'Signature']
  expect(await names()).toEqual(before)
  await page
    .getByText('Booking facts', { exact: true })
    .dragTo(page.getByText('Hello', { exact: false }).first(), {
      targetPosition: { x: 4, y: 2 },
    })
  await expect
    .poll(names)
    .toEqual(['Booking facts', 'Passage: What to wear', 'Passage: The way and the cars', 'Signature'])
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect.poll(names).toEqual(before)
})

test('what is typed or pasted while a block is chosen goes behind it, never into its place', async ({
  page,
}) => {
  await openLetter(page, /What to wear/)
  await page.getByText('Passage: What to wear').click()
  await page.keyboard.type('Or a scarf.')
  await expect(page.getByText('Passage: What to wear')).toBeVisible()
  await expect(body(page).locator('p', { hasText: 'Or a scarf.' })).toBeVisible()
  await page.getByText('Booking facts', { exact: true }).click()
  await body(page).evaluate((editor) => {
    const clipboardData = new DataTransfer()
    clipboardData.setData('text/plain', 'And gloves.')
    editor.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
  })
  await expect(page.getByText('Booking facts', { exact: true })).toBeVisible()
  await expect(body(page).locator('p', { hasText: 'And gloves.' })).toBeVisible()
  // Chosen and deleted, it goes; undo brings it back. Two clicks at once would be a double click.
  await page.waitForTimeout(600)
  await page.getByText('Booking facts', { exact: true }).click()
  await page.keyboard.press('Delete')
  await expect(page.getByText('Booking facts', { exact: true })).toHaveCount(0)
  await page.keyboard.press('Control+Z')
  await expect(page.getByText('Booking facts', { exact: true })).toBeVisible()
})

test('a part is put behind the cursor, and a field is left by Escape and never typed over', async ({
  page,
}) => {
  await openLetter(page, /What to wear/)
  const names = () => body(page).locator('[data-name], [data-block]').allInnerTexts()
  // A block that is chosen stays: the new part goes behind it.
  await page.getByText('Passage: What to wear').click()
  await page.getByRole('button', { name: 'Add…' }).click()
  await page.getByRole('menuitem', { name: 'Divider' }).click()
  await page.keyboard.type('Behind the line.')
  await expect(page.getByText('Passage: What to wear')).toBeVisible()
  await expect(body(page).locator('p', { hasText: 'Behind the line.' })).toBeVisible()
  expect(await names()).not.toContain('')

  // In the middle of a sentence nothing is cut in two.
  const line = body(page).locator('p', { hasText: 'Behind the line.' })
  await line.click({ position: { x: 30, y: 8 } })
  await page.getByRole('button', { name: 'Add…' }).click()
  await page.getByRole('menuitem', { name: 'Heading' }).click()
  await page.keyboard.type('A heading of its own')
  await expect(line).toHaveText('Behind the line.')
  await expect(body(page).getByRole('heading', { name: 'A heading of its own' })).toBeVisible()

  // The first match by Enter; left without one, the list closes.
  await page.keyboard.press('ControlOrMeta+.')
  await page.getByRole('combobox', { name: 'Which field?' }).pressSequentially('old st')
  await page.keyboard.press('Enter')
  const chip = body(page).getByRole('heading').locator('[data-field="booking.oldTime"]')
  await expect(chip).toBeVisible()
  await page.keyboard.press('ControlOrMeta+.')
  await page.getByLabel('Internal name').click()
  await expect(page.getByRole('combobox', { name: 'Which field?' })).toHaveCount(0)

  // Its choices left by Escape, what is typed stands behind it.
  await chip.click()
  await expect(page.getByRole('menuitem', { name: 'Take the field out' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('menuitem', { name: 'Take the field out' })).toHaveCount(0)
  await page.keyboard.type(' sharp')
  await expect(chip).toBeVisible()
  await expect(body(page).getByRole('heading').last()).toContainText(/Old start time\s*sharp/)
})
