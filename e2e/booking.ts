import { expect, type Page } from '@playwright/test'
import { typeTime, visit } from './demo.ts'

/** Makes a confirmed booking for one, by mouse. */
export async function makeBooking(
  page: Page,
  client: string,
  date: string,
  start: string,
  service = 'Evening on the ground',
) {
  await visit(page, '/bookings/new')
  await page.getByRole('combobox', { name: 'Client' }).fill(client)
  await page
    .getByRole('option', { name: new RegExp(client) })
    .first()
    .click()
  await page.getByRole('combobox', { name: 'Service' }).click()
  await page.getByRole('option', { name: new RegExp(service) }).click()
  await page.getByLabel('Date').fill(date)
  await page.getByLabel('Date').press('Tab')
  await typeTime(page, 'Start', start)
  await page.getByLabel('For how many people').fill('1')
  await page.getByRole('button', { name: 'Make the booking' }).click()
  await expect(page.getByRole('heading', { level: 1 }).getByText(client)).toBeVisible()
}
