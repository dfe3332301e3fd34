import { join } from 'node:path'
import type { Page } from '@playwright/test'
import Sqlite from 'better-sqlite3'
import { startServer } from '../e2e/demoServer.ts'
import { fillWithSends } from '../server/testing/manySends.ts'
import { startBareList } from './bareListServer.ts'
import { median, say, sayMachine, spread } from './measuring.ts'
import { openSignedIn } from './signedIn.ts'

/*
 * Ahead with many planned messages, against a bare virtual list of as many lines of plain text: opening it, and scrolling
 * through it. What is measured is real: server, database and browser, with the page built before (`npx vite build`).
 */

const sends = Number(process.argv[2] ?? 100_000)
const rounds = 5
const steps = 150

const bare = await startBareList(sends)
const bareUrl = bare.url

const server = await startServer('demo/main')
const database = new Sqlite(join(server.folder, 'vorfreude.db'))
fillWithSends(database, sends, Date.UTC(2026, 5, 10, 6, 0))
database.close()

const { browser, page } = await openSignedIn(server.url)
const ownUrl = new URL('/ahead?from=2026-06-10&to=2027-06-30&state=planned', server.url).toString()

const list = (of: Page) => of.getByRole('region', { name: 'Messages, day by day' })

/** Milliseconds until the first line stands there. */
async function opened(url: string): Promise<number> {
  await page.goto('about:blank')
  const from = performance.now()
  await page.goto(url)
  await list(page).getByRole('button').first().waitFor()
  return performance.now() - from
}

/** The longest and the mean time of a frame while scrolling through some thousand lines, in milliseconds. */
const scrolled = () =>
  list(page).evaluate(async (scroller, times) => {
    const frames: number[] = []
    for (let step = 0; step < times; step += 1) {
      scroller.scrollTop += 600
      const from = performance.now()
      await new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)))
      frames.push(performance.now() - from)
    }
    return { longest: Math.max(...frames), mean: frames.reduce((sum, one) => sum + one, 0) / times }
  }, steps)

const open = { own: [] as number[], bare: [] as number[] }
const mean = { own: [] as number[], bare: [] as number[] }
const longest = { own: [] as number[], bare: [] as number[] }
for (let round = 0; round < rounds; round += 1) {
  for (const [whose, url] of [
    ['own', ownUrl],
    ['bare', bareUrl],
  ] as const) {
    open[whose].push(await opened(url))
    const frames = await scrolled()
    mean[whose].push(frames.mean)
    longest[whose].push(frames.longest)
  }
}
await browser.close()
await server.stop()
await bare.close()

sayMachine()
const line = (what: string, of: { own: number[]; bare: number[] }) =>
  say(
    `${what}: ${median(of.own).toFixed(0)} ms (${spread(of.own)}), bare ${median(of.bare).toFixed(0)} ms (${spread(of.bare)}): ${(median(of.own) / median(of.bare)).toFixed(2)} times`,
  )
say(`${sends.toLocaleString('en')} messages in Ahead, against a bare virtual list of as many lines:`)
line('opened until the first line stands there', open)
line('two frames while scrolling, mean', mean)
line('two frames while scrolling, longest', longest)
process.exit(0)
