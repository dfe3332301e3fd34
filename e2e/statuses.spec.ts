import { expect, test, visit } from './demo.ts'

test('a status of the business’s own: added, given to a booking with what it does shown, and asked for in a sequence', async ({
  page,
}) => {
  await visit(page, '/set-up')
  await page.getByRole('link', { name: 'New status' }).click()
  await page.getByLabel('Name').fill('Confirmed')
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await expect(page.getByText('This word means something for every booking already.')).toBeVisible()
  await page.getByLabel('Name').fill('ballast weighed')
  await page.getByRole('combobox', { name: 'May follow only' }).press('ArrowDown')
  await page.getByRole('option', { name: 'papers in' }).click()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('region', { name: 'ballast weighed' })).toContainText('follows only papers in')

  await visit(page, '/bookings')
  await page.getByRole('link', { name: /Okonjo-Marsh.*papers in/ }).click()
  await page.getByRole('button', { name: 'Status…' }).click()
  const status = page.getByRole('combobox', { name: 'Status' })
  await status.click()
  await page.getByRole('option', { name: 'ballast weighed' }).click()
  await expect(page.getByText('No message changes.')).toBeVisible()
  await page.getByRole('button', { name: 'Give it this status' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('ballast weighed')
  await expect(page.getByText('Booking is “ballast weighed”')).toBeVisible()

  // What bookings have is not deleted, only archived.
  await visit(page, '/set-up')
  await page.getByRole('link', { name: 'Edit ballast weighed' }).click()
  await expect(page.getByText('It is used by 1 booking.')).toBeVisible()
  await page.getByRole('button', { name: 'Archive' }).click()
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByText('Archived: ballast weighed')).toBeVisible()
})

test('many bookings of the week get one together', async ({ page }) => {
  await visit(page, '/bookings')
  await page.getByText('Week', { exact: true }).click()
  await page.getByRole('button', { name: 'The week after' }).click()
  const sunday = page.getByRole('region', { name: 'Sun 24 May' })
  await sunday.getByRole('checkbox', { name: /Choose Mathilda/ }).check()
  await page.getByRole('button', { name: 'Status…' }).click()
  await page.getByRole('combobox', { name: 'Status' }).click()
  await page.getByRole('option', { name: 'weather watch' }).click()
  await page.getByRole('button', { name: 'Give them this status' }).click()
  await expect(page.getByText('1 booking given another status.')).toBeVisible()
  await expect(sunday.getByTitle(/for 2, weather watch/).first()).toBeVisible()
})
