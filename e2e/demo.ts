import { test as base, type Page } from '@playwright/test'
import { startServer, type DemoServer } from './demoServer.ts'

/** Gives each file of tests a freshly loaded demo of its own. */
class Demos {
  #file = ''
  #server: DemoServer | null = null

  async for(file: string): Promise<DemoServer> {
    if (this.#server && this.#file === file) return this.#server
    await this.stop()
    this.#file = file
    this.#server = await startServer('demo/main')
    return this.#server
  }

  async stop() {
    await this.#server?.stop()
    this.#server = null
  }
}

/** Tests with a page that is signed in to their file's demo as Ilse. */
export const test = base.extend<{ page: Page }, { demos: Demos }>({
  demos: [
    async ({}, provide) => {
      const demos = new Demos()
      await provide(demos)
      await demos.stop()
    },
    { scope: 'worker', timeout: 240_000 },
  ],
  page: async ({ page, demos }, provide, { file }) => {
    const demo = await demos.for(file)
    await page.goto(demo.url)
    await page.getByRole('button', { name: 'Come in as Ilse Thornquist' }).click()
    await page.getByRole('navigation', { name: 'Time ribbon' }).waitFor()
    await provide(page)
  },
})

export { expect } from '@playwright/test'

/** Goes to an address of the demo. */
export async function visit(page: Page, path: string) {
  await page.goto(new URL(path, page.url()).toString())
  await page.getByRole('navigation', { name: 'Time ribbon' }).waitFor()
}

/** Types a time of day into one of our clock fields. */
export async function typeTime(page: Page, label: string, time: string) {
  await page.getByLabel(`${label}: hours`).fill(time.slice(0, 2))
  await page.getByLabel(`${label}: minutes`).fill(time.slice(3, 5))
}

/** Moves the demo's clock to a date and waits until it stands there. */
export async function moveClockTo(page: Page, date: string, time: string, expected: string) {
  await page.getByRole('button', { name: 'Demo clock, move it' }).click()
  await page.getByLabel('To a date').fill(date)
  await typeTime(page, 'at', time)
  await page.getByRole('button', { name: 'Move', exact: true }).click()
  await page
    .getByRole('button', { name: 'Demo clock, move it' })
    .getByText(expected)
    .waitFor({ timeout: 120_000 })
}
