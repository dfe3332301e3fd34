import { join } from 'node:path'
import type { Page } from '@playwright/test'
import Sqlite from 'better-sqlite3'
import { epochDayOf, isoDateOf } from '../core/time/calendar.ts'
import { startServer } from '../e2e/demoServer.ts'
import { startBareList } from './bareListServer.ts'
import { median, say, sayMachine, spread } from './measuring.ts'
import { openSignedIn } from './signedIn.ts'

/*
 * The board with many enquiries in one pipeline, against a bare virtual list of as many lines of plain text: opening it,
 * scrolling through it, finding in it, and dragging a line over it. Server, database and browser are real.
 */

const count = Number(process.argv[2] ?? 2_000)
const rounds = 5

const bare = await startBareList(count)
const server = await startServer('demo/main')
const database = new Sqlite(join(server.folder, 'vorfreude.db'))
const clientIds = database.prepare<[], string>('SELECT id FROM clients ORDER BY id').pluck().all()
const stages = ['new', 'offer', 'planning']
const receivedAt = Date.UTC(2026, 4, 14, 5)
const insert = database.prepare(
  `INSERT INTO enquiries (id, client_id, pipeline_id, service_id, stage, received_at, stage_at_json, wished_on, wished_set_at,
     deadline_on, deadline_set_at, person_in_charge_id, ticks_json, what, budget_cents)
   VALUES (?, ?, 'pl_enquiries', 'sv_private', ?, ?, ?, ?, 0, ?, 0, 'pe_ilse', '[]', ?, ?)`,
)
database.transaction(() => {
  for (let index = 0; index < count; index += 1) {
    const stage = stages[index % stages.length] ?? 'new'
    const at = receivedAt - index * 1000
    const dayAfter = (days: number) => isoDateOf(epochDayOf('2026-05-20') + days)
    insert.run(
      ...[
        `en_many-${index}`,
        clientIds[index % clientIds.length],
        stage,
        at,
        JSON.stringify({ [stage]: at }),
      ],
      ...[dayAfter(index % 200), dayAfter(index % 60), `Wish number ${index}`, index * 100],
    )
  }
})()
database.close()

const { browser, page } = await openSignedIn(server.url)
const ownUrl = new URL('/pipeline', server.url).toString()

const own = (of: Page) => of.getByRole('region', { name: 'Enquiries by stage' })
const plain = (of: Page) => of.getByRole('region', { name: 'Messages, day by day' })

/** Milliseconds until the first line stands there. */
async function opened(url: string, list: typeof own, line: string): Promise<number> {
  await page.goto('about:blank')
  const from = performance.now()
  await page.goto(url)
  await list(page).locator(line).first().waitFor()
  return performance.now() - from
}

/** The longest frame while something goes on in the page, in milliseconds. */
async function longestFrame(goesOn: () => Promise<void>): Promise<number> {
  await page.evaluate(() => {
    const measured = window as unknown as { longest: number; isOn: boolean }
    Object.assign(measured, { longest: 0, isOn: true })
    let last = performance.now()
    const next = () => {
      const now = performance.now()
      measured.longest = Math.max(measured.longest, now - last)
      last = now
      if (measured.isOn) requestAnimationFrame(next)
    }
    requestAnimationFrame(next)
  })
  await goesOn()
  return page.evaluate(() => {
    const measured = window as unknown as { longest: number; isOn: boolean }
    measured.isOn = false
    return measured.longest
  })
}

const scrolling = (list: typeof own) => () =>
  list(page).evaluate(async (scroller) => {
    for (let step = 0; step < 100; step += 1) {
      scroller.scrollTop += 600
      await new Promise((resolve) => requestAnimationFrame(resolve))
    }
    scroller.scrollTop = 0
  })

async function dragging() {
  await page.getByRole('button', { name: 'new', exact: true }).waitFor()
  await page.waitForTimeout(200)
  const from = await page.locator('[data-enquiry]').nth(3).boundingBox()
  if (!from) throw new Error('There is no line')
  await page.mouse.move(from.x + 60, from.y + 10)
  await page.mouse.down()
  for (let step = 0; step < 60; step += 1) await page.mouse.move(from.x + 60 + step, from.y + 10 + step * 5)
  await page.keyboard.press('Escape')
  await page.mouse.up()
}

async function finding() {
  await page.getByLabel('Find by client or what for').pressSequentially('number 19', { delay: 60 })
  await page.locator('[data-enquiry]').filter({ hasText: 'number 19' }).first().waitFor()
  await page.getByLabel('Find by client or what for').fill('')
}

const open = { own: [] as number[], bare: [] as number[] }
const frames = {
  scrolled: [] as number[],
  bare: [] as number[],
  dragged: [] as number[],
  found: [] as number[],
}
for (let round = 0; round < rounds; round += 1) {
  open.own.push(await opened(ownUrl, own, '[data-enquiry]'))
  await page.waitForTimeout(300)
  frames.scrolled.push(await longestFrame(scrolling(own)))
  frames.dragged.push(await longestFrame(dragging))
  frames.found.push(await longestFrame(finding))
  open.bare.push(await opened(bare.url, plain, 'button'))
  await page.waitForTimeout(300)
  frames.bare.push(await longestFrame(scrolling(plain)))
}
await browser.close()
await server.stop()
await bare.close()

sayMachine()
say(
  `${count.toLocaleString('en')} more enquiries on the board, against a bare virtual list of as many lines:`,
)
const ratio = median(open.own) / median(open.bare)
say(
  `opened: ${median(open.own).toFixed(0)} ms (${spread(open.own)}), bare ${median(open.bare).toFixed(0)} ms (${spread(open.bare)}): ${ratio.toFixed(2)} times`,
)
for (const [what, values] of Object.entries(frames)) {
  say(`longest frame, ${what}: ${median(values).toFixed(0)} ms (${spread(values)})`)
}
process.exit(0)
