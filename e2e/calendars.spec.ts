import AxeBuilder from '@axe-core/playwright'
import { expect, test, visit } from './demo.ts'

const event = (uid: string, ...lines: string[]) =>
  ['BEGIN:VEVENT', `UID:${uid}@elsewhere.example`, ...lines, 'END:VEVENT'].join('\r\n')
const calendar = (...events: string[]) =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Elsewhere//EN', ...events, 'END:VCALENDAR', ''].join('\r\n')
const file = (name: string, text: string) => ({
  name,
  mimeType: 'text/calendar',
  buffer: Buffer.from(text),
})

test('another calendar is looked at, and what is chosen of it becomes bookings that start nothing', async ({
  page,
}) => {
  await visit(page, '/bookings')
  await page.getByRole('link', { name: 'Bring in a calendar or table' }).click()
  const input = page.getByLabel('Calendar or table')
  await input.setInputFiles(file('broken.ics', 'BEGIN:VCALENDAR\r\nVERSION 2\r\nEND:VCALENDAR\r\n'))
  await expect(page.getByText('Line 2: “VERSION 2” is no line of a calendar')).toBeVisible()

  const guest = 'ATTENDEE;CN=Wilma Farnbusch:mailto:wilma@farnbusch.example'
  const at = (local: string) => [`DTSTART;TZID=Europe/Berlin:${local}`, 'DURATION:PT2H']
  await input.setInputFiles(
    file(
      'mine.ics',
      calendar(
        event('a', ...at('20260601T190000'), 'SUMMARY:Evening on the ground', guest),
        event('b', ...at('20260515T060000'), 'SUMMARY:Something else'),
        event('c', 'DTSTART;VALUE=DATE:20260602', 'SUMMARY:Holiday'),
      ),
    ),
  )
  await expect(page.getByText('1 ○ new · 1 ◐ overlaps · 1 ✕ not possible')).toBeVisible()
  await expect(page.getByRole('checkbox', { name: 'Bring in Evening on the ground' })).toBeChecked()
  await expect(page.getByRole('checkbox', { name: 'Bring in Something else' })).not.toBeChecked()
  await expect(page.getByRole('checkbox', { name: 'Bring in Holiday' })).toBeDisabled()
  await page.getByRole('button', { name: 'Bring in 1 booking' }).click()
  await expect(page.getByText('1 of 1 brought in')).toBeVisible()
  await page.getByRole('link', { name: 'To the bookings' }).click()
  await page.getByRole('link', { name: /Wilma Farnbusch.*Evening on the ground/ }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Wilma Farnbusch')
  await expect(page.getByText('No messages.')).toBeVisible()
})

test('a table of bookings is matched, looked at line by line, and brought in', async ({ page }) => {
  await visit(page, '/bookings/bring-in')
  const rows = [
    'Datum;Uhrzeit;Kunde;E-Mail;Personen;Leistung',
    '03.06.2026;19:00;Ottilie Sandgrube;ottilie@sandgrube.example;3;Evening on the ground',
    '04.06.2026;25:00;Nobody;;;Evening on the ground',
  ].join('\r\n')
  await page
    .getByLabel('Calendar or table')
    .setInputFiles({ name: 'buchungen.csv', mimeType: 'text/csv', buffer: Buffer.from(rows, 'latin1') })
  await expect(page.getByRole('combobox', { name: 'Personen is' })).toHaveValue('How many come')
  const columns = await new AxeBuilder({ page }).exclude('iframe').analyze()
  expect(columns.violations).toEqual([])
  await page.getByRole('button', { name: 'See what would come in' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText('1 ○ new · 1 ✕ not possible')).toBeVisible()
  await expect(page.getByText('Line 3: “25:00” is no time of day.')).toBeVisible()
  await page.getByRole('button', { name: 'Match the columns anew' }).click()
  await page.getByRole('combobox', { name: 'Personen is' }).click()
  await page.getByRole('option', { name: 'left out' }).click()
  await page.getByRole('button', { name: 'See what would come in' }).click()
  await expect(page.getByText('3 people')).toHaveCount(0)
  await page.getByRole('button', { name: 'Match the columns anew' }).click()
  await expect(page.getByRole('combobox', { name: 'Personen is' })).toHaveValue('left out')
  await page.getByRole('combobox', { name: 'Personen is' }).click()
  await page.getByRole('option', { name: 'How many come' }).click()
  await page.getByRole('button', { name: 'See what would come in' }).click()
  await page.getByRole('button', { name: 'Bring in 1 booking' }).dblclick()
  await expect(page.getByText('1 of 1 brought in')).toBeVisible()
  await page.getByRole('link', { name: 'To the bookings' }).click()
  await page.getByRole('link', { name: /Ottilie Sandgrube.*Evening on the ground/ }).click()
  await expect(page.getByText('3 people').first()).toBeVisible()
})

test('a calendar of the team is read by its address, until it is given another one', async ({ page }) => {
  await visit(page, '/set-up')
  const calendars = page.getByRole('region', { name: 'Calendars' })
  const address = calendars.getByText(/\/feed\/all~/)
  const before = (await address.textContent()) ?? ''
  const read = await page.request.get(before)
  expect(await read.text()).toContain('SUMMARY:Oona Siltanen · Sunrise flight (2 people)')
  await calendars.getByRole('button', { name: 'New address: all bookings' }).click()
  await calendars.getByRole('button', { name: 'Make a new address' }).click()
  await expect(address).not.toHaveText(before)
  expect((await page.request.get(before)).status()).toBe(404)
})

test('somebody of the team gets hours of their own, and nobody may be left without an owner', async ({
  page,
}) => {
  await visit(page, '/set-up')
  await page.getByRole('region', { name: /Bram/ }).getByRole('link', { name: /Edit/ }).click()
  await page.getByRole('switch', { name: 'Can be booked only at hours of their own' }).check({ force: true })
  await page.getByRole('textbox', { name: 'Monday' }).fill('8 to never')
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await expect(page.getByText('Something in the form needs another value')).toBeVisible()
  await page.getByRole('textbox', { name: 'Monday' }).fill('05:00-12:00')
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('region', { name: /Bram/ })).toContainText('Mon 05:00')
  await page.getByRole('region', { name: /Ilse/ }).getByRole('link', { name: /Edit/ }).click()
  await page.getByRole('button', { name: 'Has left…' }).click()
  await expect(page.getByText('Somebody has to be the owner.')).toBeVisible()
})
