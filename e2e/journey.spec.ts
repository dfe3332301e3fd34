import { expect, moveClockTo, test, typeTime, visit } from './demo.ts'

test('from a booking to a message in the client’s mailbox', async ({ page }) => {
  await page.getByRole('link', { name: 'Bookings' }).click()
  await page.getByRole('button', { name: 'New booking' }).click()
  await page.getByRole('combobox', { name: 'Client' }).fill('Agatha')
  await page.getByRole('option', { name: 'Agatha Fennimore' }).click()
  await page.getByRole('combobox', { name: 'Service' }).click()
  await page.getByRole('option', { name: /Sunrise flight/ }).click()
  await page.getByLabel('Date').fill('Sat 16 May 2026')
  await page.getByLabel('Date').press('Tab')
  await typeTime(page, 'Start', '05:45')
  await expect(page.getByLabel('End: hours')).toHaveValue('09')
  await expect(page.getByLabel('End: minutes')).toHaveValue('15')
  await page.getByLabel('For how many people').fill('2')
  await page.getByRole('button', { name: 'Make the booking' }).click()

  // The confirmation goes at once, although it is a holiday and before opening.
  await expect(page.getByRole('button', { name: /Your flight is booked.*sent/ })).toBeVisible({
    timeout: 40_000,
  })
  const bookingUrl = page.url()
  await page.getByRole('link', { name: 'Agatha Fennimore' }).click()
  await page.getByRole('link', { name: 'Open the made-up mailbox' }).click()
  await expect(
    page.getByRole('heading', { name: 'Sunrise flight: Saturday 16 May 2026, 05:45' }),
  ).toBeVisible()
  const frame = page.frameLocator('iframe')
  await expect(frame.getByText('Hello Agatha,')).toBeVisible()
  await expect(frame.getByText('Saturday 16 May 2026, 05:45 to 09:15')).toBeVisible()
  await expect(frame.getByText('2 people')).toBeVisible()
  await page.getByRole('tab', { name: 'Plain text' }).click()
  await expect(page.getByText('What:  Sunrise flight')).toBeVisible()

  // Ahead shows the reminder with its trace.
  await page.getByRole('link', { name: 'Ahead' }).click()
  const reminder = page.getByRole('button', { name: /18:00 The flight call to Agatha Fennimore/ })
  await reminder.click()
  await expect(
    page.getByText('1 day before the start of the booking (Sat 16 May 2026, 05:45), at 18:00'),
  ).toBeVisible()

  // Moving the booking moves the reminder.
  await page.goto(bookingUrl)
  await page.getByRole('button', { name: 'Move…' }).click()
  await page.getByLabel('Date').fill('Mon 18 May 2026')
  await page.getByLabel('Date').press('Tab')
  const consequences = page.getByRole('region', { name: 'What it will do' })
  await expect(consequences.getByText('Nothing has happened yet.')).toBeVisible()
  await expect(consequences.getByText('Sun 17 May, 18:00')).toBeVisible()
  await expect(consequences.getByText('Sunrise flight is not offered at this time')).toBeVisible()
  await page.getByRole('button', { name: 'Move it', exact: true }).click()
  await expect(
    page.getByRole('button', { name: /Sun 17 May, 18:00 The flight call .*planned/ }),
  ).toBeVisible()
  await expect(
    page.getByRole('button', { name: /Fri 15 May, 18:00 The flight call .*cancelled/ }),
  ).toBeVisible()

  // Moving the clock delivers it at exactly its time.
  await moveClockTo(page, 'Sun 17 May 2026', '19:00', 'Sun 17 May')
  await visit(page, '/mailbox/agatha%40fennimore.example')
  await expect(page.getByRole('link', { name: /We fly tomorrow at 05:45 Sun 17 May, 18:00/ })).toBeVisible()
})

test('cancelling a booking voids its reminder, with the reason', async ({ page }) => {
  await visit(page, '/bookings')
  await page
    .getByRole('link', { name: /Familie Abendroth/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'Cancel…' }).click()
  await expect(page.getByText('what has gone by then cannot be called back')).toBeVisible()
  await expect(
    page.getByRole('region', { name: 'What it will do' }).getByText('dropped').first(),
  ).toBeVisible()
  await page.getByRole('button', { name: 'Cancel the booking' }).click()
  await expect(page.getByText('– cancelled', { exact: true }).first()).toBeVisible()
  // What came to nothing is folded away where it is much.
  await page.getByRole('button', { name: /^\d+ earlier…/ }).click()
  await page.getByRole('button', { name: /The flight call .*cancelled/ }).click()
  // The reason stands in what was opened; a line without a time says it as well.
  await expect(page.getByRole('paragraph').filter({ hasText: /^The booking was cancelled\.$/ })).toBeVisible()
})

test('what changes in one tab is seen in another without loading again', async ({ page, context }) => {
  await visit(page, '/clients')
  const other = await context.newPage()
  await visit(page, '/clients')
  await other.goto(page.url())
  await other.getByRole('button', { name: 'Add a client' }).click()
  await other.getByLabel('First name').fill('Adalwin')
  await other.getByLabel('Last name').fill('Quastenflosser')
  await other.getByLabel('E-mail address').fill('adalwin@quastenflosser.example')
  await other.getByRole('button', { name: 'Add the client' }).click()
  await expect(page.getByRole('link', { name: /Adalwin Quastenflosser/ })).toBeVisible()
})

test('a message in doubt is decided by a person', async ({ page }) => {
  await visit(page, '/desk/trouble')
  await page.getByRole('link', { name: /Milena Dravec.*in doubt/ }).click()
  await expect(page.getByText('Message-ID:')).toBeVisible()
  await page.getByRole('button', { name: 'It was delivered; don’t send again' }).click()
  await expect(page.getByRole('link', { name: /Milena Dravec.*in doubt/ })).toBeHidden()
})
