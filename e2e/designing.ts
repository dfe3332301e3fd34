import { expect, type Page } from '@playwright/test'

/** Chooses an option of a select by mouse. */
export async function choose(page: Page, label: string, option: string | RegExp) {
  await page.getByRole('combobox', { name: label, exact: true }).click()
  await page.getByRole('option', { name: option, exact: typeof option === 'string' }).click()
}

/** Adds a step that sends a letter. */
export async function addLetter(page: Page, purpose: string, letter: string) {
  await page.getByRole('button', { name: 'Add a step' }).click()
  const form = page.getByRole('form', { name: 'A new step' })
  await choose(page, 'Purpose', purpose)
  await choose(page, 'Letter', letter)
  await form.getByRole('button', { name: 'Add it' }).click()
}

export const sentences = (page: Page) => page.getByRole('region', { name: 'In sentences' })
export const preview = (page: Page) => page.getByRole('region', { name: 'Preview with a real booking' })
/** Closes the part of a sentence that is open. */
export const closePart = (page: Page) => page.getByRole('button', { name: 'Done' }).last().click()

/** Waits until the design is kept on the server. */
export async function kept(page: Page) {
  await expect(page.getByText('· saved')).toBeVisible()
}
