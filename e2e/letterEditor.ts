import { expect, type Page } from '@playwright/test'
import { visit } from './demo.ts'

/** The body of the letter that is open. */
export const body = (page: Page) => page.getByRole('textbox', { name: 'The letter' })

/** Puts a field in at the cursor, by keyboard: the first match. */
export async function putField(page: Page, name: string) {
  await page.keyboard.press('Control+.')
  const input = page.getByRole('combobox', { name: 'Which field?' })
  await input.fill(name)
  await page.keyboard.press('Enter')
  await expect(input).toBeHidden()
}

/** What was written last has been saved. */
export const saved = (page: Page) => expect(page.getByText('Saved', { exact: true })).toBeVisible()

/** Opens a letter of the list. */
export async function openLetter(page: Page, name: string | RegExp) {
  await visit(page, '/letters')
  await page.getByRole('link', { name }).click()
  await body(page).waitFor()
}
