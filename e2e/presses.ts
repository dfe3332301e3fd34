import type { Locator, Page } from '@playwright/test'

/** Does a job as a person would, and counts: each press of the mouse or of a key is one, and so is each text typed. */
export function counting(page: Page) {
  let presses = 0
  const press = async (locator: Locator) => {
    presses += 1
    await locator.click()
  }
  const button = (name: string | RegExp) =>
    page.getByRole('button', { name, exact: typeof name === 'string' })
  return {
    count: () => presses,
    press,
    button: (name: string | RegExp) => press(button(name).last()),
    link: (name: string | RegExp) => press(page.getByRole('link', { name }).first()),
    menu: (name: string) => press(page.getByRole('menuitem', { name, exact: true })),
    async choose(label: string, option: string | RegExp) {
      await press(page.getByRole('combobox', { name: label, exact: true }).last())
      await press(page.getByRole('option', { name: option, exact: typeof option === 'string' }))
    },
    async type(locator: Locator, text: string) {
      presses += 1
      await locator.fill(text)
    },
    /** Types where the cursor is. */
    async write(text: string) {
      presses += 1
      await page.keyboard.type(text)
    },
    async key(name: string) {
      presses += 1
      await page.keyboard.press(name)
    },
  }
}
