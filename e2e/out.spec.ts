import { execFileSync } from 'node:child_process'
import { mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import Sqlite from 'better-sqlite3'
import { startServer } from './demoServer.ts'

const headless = (program: 'main' | 'restore', ...args: readonly string[]) =>
  execFileSync(process.execPath, [`built/server/headless/${program}.js`, ...args], {
    encoding: 'utf8',
    maxBuffer: 200_000_000,
  })

/** Every message with its state and time, as a database has it. */
function sendsIn(folder: string): unknown[] {
  const database = new Sqlite(join(folder, 'vorfreude.db'), { readonly: true })
  const sends = database
    .prepare('SELECT id, state, due_at, recipient_id, letter_id, trace_json FROM sends ORDER BY id')
    .all()
  database.close()
  return sends
}

test('the demo goes out whole: a fresh Vorfreude has the same plan, send by send', async ({ page }) => {
  const server = await startServer('demo/main')
  try {
    await page.goto(server.url)
    await page.getByRole('button', { name: 'Come in as Ilse Thornquist' }).click()
    await page.getByRole('link', { name: 'Set-up' }).click()
    const download = page.waitForEvent('download')
    await page.getByRole('link', { name: 'The whole business: business.json' }).click()
    const folder = mkdtempSync(join(tmpdir(), 'vorfreude-'))
    const file = join(folder, 'business.json')
    await (await download).saveAs(file)

    const plan = JSON.parse(headless('main', 'plan', file)) as {
      toCome: { client: string; step: string; recipient: string; due: string | null; state: string }[]
    }
    const database = new Sqlite(join(server.folder, 'vorfreude.db'), { readonly: true })
    const stored = database
      .prepare<[], { client: string; step: string; recipient: string; due: number | null; state: string }>(
        `SELECT c.name AS client, s.step_id AS step, s.recipient_id AS recipient, s.due_at AS due, s.state
         FROM sends s JOIN clients c ON c.id = s.client_id
         WHERE s.state IN ('expected', 'ready', 'approved', 'waiting', 'blocked')`,
      )
      .all()
    database.close()
    const keyed = (all: readonly (readonly (string | number | null)[])[]) =>
      all.map((one) => one.join('|')).sort()
    expect(plan.toCome.length).toBeGreaterThan(100)
    expect(
      keyed(
        plan.toCome.map(({ client, step, recipient, due, state }) => [
          client,
          step,
          recipient,
          due && Date.parse(due),
          state,
        ]),
      ),
    ).toEqual(
      keyed(stored.map(({ client, step, recipient, due, state }) => [client, step, recipient, due, state])),
    )

    const restored = join(folder, 'restored')
    expect(headless('restore', file, '--data', restored)).toContain('It starts held back')
    expect(sendsIn(restored)).toEqual(sendsIn(server.folder))

    writeFileSync(join(folder, 'half.json'), '{"format":"vorfreude-business-1"')
    expect(() => headless('main', 'plan', join(folder, 'half.json'))).toThrow('This is not JSON.')
    for (const name of [
      'clients.csv',
      'clients.vcf',
      'bookings.csv',
      'enquiries.csv',
      'invoices.csv',
      'messages.csv',
      'messages.mbox',
    ]) {
      const answer = await page.request.get(`${server.url}api/out/${name}`)
      expect([name, answer.status(), (await answer.body()).length > 1000]).toEqual([name, 200, true])
    }
  } finally {
    await server.stop()
  }
})
