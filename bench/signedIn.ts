import { chromium, type Browser, type Page } from '@playwright/test'
import { chromiumLaunch } from '../e2e/chromium.ts'

/** A browser with a page of the demo at an address, signed in as Ilse. */
export async function openSignedIn(url: string): Promise<{ readonly browser: Browser; readonly page: Page }> {
  const browser = await chromium.launch(chromiumLaunch)
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(url)
  await page.getByRole('button', { name: /Come in as Ilse/ }).click()
  await page.getByRole('navigation', { name: 'Time ribbon' }).waitFor()
  return { browser, page }
}
