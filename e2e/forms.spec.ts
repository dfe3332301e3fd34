import { expect, test, typeTime, visit } from './demo.ts'

test('a form says what is wrong beside the field and keeps what was typed', async ({ page }) => {
  await visit(page, '/bookings/new')
  await page.getByRole('button', { name: 'Make the booking' }).click()
  await expect(page.getByText('Choose the client.')).toBeVisible()
  await expect(page.getByText('Give a date, a start and an end.')).toBeVisible()
  await page.getByRole('combobox', { name: 'Client' }).fill('Basil')
  await page.getByRole('option', { name: 'Basil Lavenderby' }).click()
  await page.getByRole('combobox', { name: 'Service' }).click()
  await page.getByRole('option', { name: /Private basket/ }).click()
  await page.getByLabel('Date').fill('Thu 28 May 2026')
  await page.getByLabel('Date').press('Tab')
  await typeTime(page, 'Start', '05:20')
  await page.getByLabel('For how many people').fill('9')
  await page.getByRole('button', { name: 'Make the booking' }).click()
  await expect(
    page.getByText('Private basket has only 2 of 2 seats left at that time.').first(),
  ).toBeVisible()
  await expect(page.getByLabel('For how many people')).toHaveValue('9')
  await expect(page.getByRole('combobox', { name: 'Client' })).toHaveValue('Basil Lavenderby')
})

test('a client’s form refuses what is no address, no date, no year', async ({ page }) => {
  await visit(page, '/clients/new')
  await page.getByLabel('First name').fill('Irmela')
  await page.getByLabel('E-mail address').fill('irmela at home')
  await page.getByRole('button', { name: 'Add a yearly date' }).click()
  await page.getByRole('combobox', { name: 'Yearly date' }).fill('birthday')
  await page.getByLabel('Day', { exact: true }).fill('31.2.')
  await page.getByRole('button', { name: 'Add the client' }).click()
  await expect(
    page.getByText('This is not an e-mail address. It looks like name@place.example.'),
  ).toBeVisible()
  await expect(
    page.getByText('This is no day of the calendar. It looks like 29 February 1992 or 29.2.'),
  ).toBeVisible()
  await expect(page.getByLabel('First name')).toHaveValue('Irmela')
  await page.getByLabel('E-mail address').fill('irmela@hofreite.example')
  await page.getByLabel('Day', { exact: true }).fill('29 Feb 1992')
  await page.getByRole('button', { name: 'Add the client' }).click()
  await expect(page.getByRole('heading', { name: 'Irmela' })).toBeVisible()
})

test('a double click makes one booking', async ({ page }) => {
  await visit(page, '/bookings/new')
  await page.getByRole('combobox', { name: 'Client' }).fill('Cornelius')
  await page.getByRole('option', { name: 'Cornelius Hollisterby' }).click()
  await page.getByLabel('Date').fill('Sun 12 Jul 2026')
  await page.getByLabel('Date').press('Tab')
  await typeTime(page, 'Start', '19:20')
  await page.getByRole('button', { name: 'Make the booking' }).dblclick()
  await expect(page.getByRole('heading', { name: /Cornelius Hollisterby/ })).toBeVisible()
  await page.getByRole('link', { name: 'Cornelius Hollisterby' }).click()
  await expect(page.getByRole('link', { name: /Sun 12 Jul, 19:20/ })).toHaveCount(1)
})

test('somebody else was faster: the form says so', async ({ page, context }) => {
  // A page that hears nothing of what others do.
  await page.route('**/api/changes', (route) => route.abort())
  await visit(page, '/bookings')
  await page
    .getByRole('link', { name: /Jules Okonjo-Marsh/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'Cancel…' }).click()
  const other = await context.newPage()
  await other.goto(page.url())
  await other.getByRole('button', { name: 'Move…' }).click()
  await typeTime(other, 'Start', '06:10')
  await other.getByRole('button', { name: 'Move it', exact: true }).click()
  await expect(other.getByText(/06:10/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Cancel the booking' }).click()
  await expect(page.getByRole('alert').filter({ hasText: 'changed this booking meanwhile' })).toBeVisible()
  // What it is now stands in its place, and what cancelling would do to that.
  await expect(page.getByText(/06:10/).first()).toBeVisible()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('papers in')
})

test('addresses that lead nowhere say so', async ({ page }) => {
  await visit(page, '/nowhere')
  await expect(page.getByText('There is no page at this address.')).toBeVisible()
  await visit(page, '/booking/bk_none')
  await expect(page.getByText('There is no such booking.')).toBeVisible()
  await visit(page, '/client/cl_none')
  await expect(page.getByText('There is no such client.')).toBeVisible()
})

test('a long list goes on as one scrolls, and finds on the server', async ({ page }) => {
  const asked: string[] = []
  // The same server, in parts of four.
  await page.route('**/api/clients?*', async (route) => {
    const url = new URL(route.request().url())
    asked.push(url.search)
    url.searchParams.set('limit', '4')
    await route.continue({ url: url.toString() })
  })
  await visit(page, '/clients')
  const rows = page.getByRole('main').getByRole('listitem')
  await expect(rows.nth(8)).toBeVisible()
  const more = page.getByRole('button', { name: 'Show more' })
  await expect(async () => {
    if ((await more.count()) > 0) await more.scrollIntoViewIfNeeded()
    await expect(more).toHaveCount(0, { timeout: 200 })
  }).toPass()
  const names = await rows.locator('b').allInnerTexts()
  expect(new Set(names).size).toBe(names.length)
  expect(asked.filter((search) => search.includes('after=')).length).toBeGreaterThan(1)
  await page.getByRole('textbox', { name: 'Find by name, address or tag' }).fill('silt')
  await expect(rows).toHaveCount(1)
  await expect(rows.first()).toContainText('Oona Siltanen')
})
