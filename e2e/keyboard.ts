import type { Page } from '@playwright/test'

/** Presses keys one after the other, no quicker than a hand does. */
export const presser =
  (page: Page) =>
  async (...keys: string[]) => {
    for (const key of keys) {
      await page.keyboard.press(key)
      await page.waitForTimeout(60)
    }
  }
