import type { Page } from '@playwright/test'
import { expect, test, visit } from './demo.ts'

const day = (page: Page, name: string) => page.getByRole('region', { name })
const would = (page: Page) => page.getByRole('region', { name: 'What it will do' })

async function open(page: Page) {
  await visit(page, '/bookings')
  await page.getByText('Week', { exact: true }).click()
  await expect(day(page, 'Thu 14 May')).toContainText('today · Ascension Day')
}

test('the week: departures with their seats, now as a line, other weeks in the address', async ({ page }) => {
  await open(page)
  await expect(day(page, 'Thu 14 May')).toContainText('now, 07:40')
  const friday = day(page, 'Fri 15 May')
  await expect(friday.getByRole('img', { name: '4 of 8 seats taken' })).toBeVisible()
  await expect(friday.getByRole('link', { name: 'Oona Siltanen' })).toBeVisible()
  await page.getByRole('button', { name: 'The week after' }).click()
  await expect(page).toHaveURL(/from=2026-05-18/)
  await expect(page.getByText('Mon 18 May to Sun 24 May')).toBeVisible()
  await page.getByRole('button', { name: 'This week' }).click()
  await expect(friday).toBeVisible()
})

test('a booking is put to another departure by keys, with what that does shown before', async ({ page }) => {
  await open(page)
  const saturday = day(page, 'Sat 16 May')
  await saturday.getByRole('button', { name: 'Move Imogen Kestrelwood' }).focus()
  await page.keyboard.press('Space')
  await expect(page.getByText('The booking of Imogen Kestrelwood is taken hold of.')).toBeAttached()
  const said = page.getByText('It would go to Sun 17 May, 05:20, Sunrise flight')
  await expect(async () => {
    if (await said.count()) return
    await page.keyboard.press('ArrowDown')
    await expect(said).toBeAttached({ timeout: 500 })
  }).toPass()
  await page.keyboard.press('Space')
  await expect(would(page)).toContainText('Another day for your flight')
  await expect(would(page)).toContainText('The flight call')
  // Nothing has happened yet.
  await expect(day(page, 'Sat 16 May').getByRole('link', { name: 'Imogen Kestrelwood' })).toBeVisible()
  await page.getByRole('button', { name: 'Move', exact: true }).click()
  await expect(page.getByText('1 booking moved.')).toBeVisible()
  await expect(day(page, 'Sun 17 May').getByRole('link', { name: 'Imogen Kestrelwood' })).toBeVisible()
  await expect(saturday.getByRole('link', { name: 'Imogen Kestrelwood' })).toHaveCount(0)
})

test('dragged to where there is no seat or no time any more it stays, and says why', async ({ page }) => {
  await open(page)
  const grip = page.getByRole('button', { name: 'Move Ottokar Quendel' })
  const from = await grip.boundingBox()
  const to = await day(page, 'Mon 11 May').boundingBox()
  if (!from || !to) throw new Error('They are not there')
  await page.mouse.move(from.x + 8, from.y + 8)
  await page.mouse.down()
  await page.mouse.move(from.x - 30, from.y, { steps: 5 })
  await page.mouse.move(to.x + 40, to.y + to.height - 20, { steps: 10 })
  await page.mouse.up()
  await expect(would(page)).toContainText('This start is already past.')
  await page.getByRole('button', { name: 'Leave it' }).click()
  await expect(day(page, 'Sun 17 May').getByRole('link', { name: 'Ottokar Quendel' })).toBeVisible()
})

test('a day’s bookings are chosen together and cancelled for the weather, each told once', async ({
  page,
}) => {
  await open(page)
  await page.getByRole('checkbox', { name: 'Choose all of Fri 15 May' }).check()
  await expect(page.getByText('2 chosen')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel…' }).click()
  await expect(would(page).getByText('Your flight is cancelled')).toHaveCount(2)
  await page.getByRole('button', { name: 'Cancel the bookings' }).click()
  await expect(page.getByText('2 bookings cancelled.')).toBeVisible()
  const friday = day(page, 'Fri 15 May')
  await expect(friday.getByRole('img', { name: '0 of 8 seats taken' }).first()).toBeVisible()
  await expect(friday.getByRole('link', { name: 'Oona Siltanen' })).toBeVisible()
  await expect(page.getByRole('checkbox', { name: 'Choose all of Fri 15 May' })).toHaveCount(0)
})
