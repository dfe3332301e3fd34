import { expect, test, visit } from './demo.ts'

test('sending hours: what they move stands there first, bad hours say so, and saved they count', async ({
  page,
}) => {
  await visit(page, '/set-up')
  await page.getByRole('link', { name: 'The business and its hours' }).click()
  const sending = page.getByRole('group', { name: 'Sending hours' })
  await sending.getByLabel('Monday').fill('16-10')
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await expect(page.getByRole('alert')).toContainText('Something in the form needs another value')
  await expect(sending.getByText('Hours look like')).toBeVisible()
  for (const day of ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday']) {
    await sending.getByLabel(day).fill('10-16')
  }
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  const effect = page.getByRole('region', { name: 'What saving it does' })
  await expect(effect.getByText(/^For \d+ clients:/)).toBeVisible({ timeout: 30_000 })
  await expect(effect.getByText(/moves: The flight call/)).toBeVisible()
  // Nothing typed is lost by looking.
  await effect.getByRole('button', { name: 'Back to the form' }).click()
  await expect(sending.getByLabel('Sunday')).toHaveValue('10-16')
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await effect.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Services' })).toBeVisible()
  await visit(page, '/ahead')
  await expect(page.getByRole('main').getByText('16:00').first()).toBeVisible()
  await visit(page, '/set-up/business')
  await expect(page.getByRole('group', { name: 'Sending hours' }).getByLabel('Sunday')).toHaveValue(
    '10:00–16:00',
  )
})

test('a new service is described, offered and found on the public page; archived it is gone from there', async ({
  page,
}) => {
  await visit(page, '/set-up')
  await page.getByRole('link', { name: 'New service' }).click()
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await expect(page.getByText('A service needs a name.')).toBeVisible()
  await page.getByLabel('Name', { exact: true }).fill('Tether ride')
  await page.getByLabel('Takes, in minutes').fill('1200')
  await page.getByLabel('Clients can book it on the public page').check()
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  const effect = page.getByRole('region', { name: 'What saving it does' })
  await expect(effect.getByRole('alert')).toContainText('longer than its bookable hours')
  await effect.getByRole('button', { name: 'Back to the form' }).click()
  await page.getByLabel('Takes, in minutes').fill('30')
  await page.getByLabel('Price, in €').fill('19.5')
  await page.getByRole('button', { name: 'Add a question' }).click()
  await page.getByLabel('Words').fill('Are you afraid of heights?')
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await expect(effect.getByText('No message that is planned now')).toBeVisible({ timeout: 30_000 })
  await effect.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Tether ride' })).toContainText('clients can book it')

  const client = await page.context().newPage()
  await client.goto(new URL('/book', page.url()).toString())
  await expect(client.getByText('30 min · €19.50 a person')).toBeVisible()
  await client.getByRole('link', { name: 'Choose a time: Tether ride' }).click()
  await client.getByRole('table').getByRole('link').first().click()
  await client.locator('ul.times').getByRole('link').first().click()
  await expect(client.getByLabel('Are you afraid of heights?')).toBeVisible()

  await page.getByRole('link', { name: 'Edit Sunrise flight' }).click()
  const end = page.getByRole('region', { name: 'Let go of it' })
  await expect(end).toContainText(/It is used by \d+ bookings/)
  await expect(end.getByRole('button', { name: 'Delete' })).toHaveCount(0)
  await end.getByRole('button', { name: 'Archive' }).click()
  await effect.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByText('Archived: Sunrise flight')).toBeVisible()
  await client.goto(new URL('/book', page.url()).toString())
  await expect(client.getByText('Tether ride')).toBeVisible()
  await expect(client.getByText('Sunrise flight')).toHaveCount(0)

  await page.getByRole('link', { name: 'Edit Tether ride' }).click()
  await page.getByRole('button', { name: 'Delete' }).click()
  await expect(page.getByRole('region', { name: 'Tether ride' })).toHaveCount(0)
})

test('what the domain of the sender says is looked at, and what to set there is said', async ({ page }) => {
  await visit(page, '/set-up/mail')
  await page.getByLabel('Name of the key (DKIM selector)').fill('not a name')
  await page.getByRole('button', { name: 'Look at the records' }).click()
  await expect(page.getByText('A selector is letters, digits, dots and hyphens.')).toBeVisible()
  await page.getByLabel('Name of the key (DKIM selector)').fill('')
  await page.getByRole('button', { name: 'Look at the records' }).click()
  const records = page.getByRole('list', { name: 'Records' })
  await expect(records.getByText('_dmarc.thistledown.example')).not.toHaveCount(0)
  // Names reserved for examples are asked of nobody.
  await expect(records).toContainText('It could not be looked up from here')
  await expect(records).toContainText('v=DMARC1; p=none; rua=mailto:')
})

test('what stands in the sent mail has gone, also what was in doubt, and what is not known here is listed', async ({
  page,
}) => {
  await visit(page, '/set-up/safety')
  const mailbox = (buffer: Buffer) => ({ name: 'sent.mbox', mimeType: 'application/mbox', buffer })
  await page.getByLabel('Sent mail').setInputFiles(mailbox(Buffer.from('Subject: x\n\nHello\n')))
  await expect(page.getByText('No mail that went out from here is in this file.')).toBeVisible()
  const answer = await page.request.get(new URL('/api/out/messages.mbox', page.url()).href)
  const elsewhere = Buffer.from(
    'From a@b.example Mon May  4 05:06:07 2026\nMessage-ID: <sd_later@thistledown.example>\nTo: uma@sandlark.example\n\nHello\n\n',
  )
  await page.getByLabel('Sent mail').setInputFiles(mailbox(Buffer.concat([await answer.body(), elsewhere])))
  const report = page.getByRole('region', { name: 'After a backup was put back' }).getByRole('status')
  // The demo has one in doubt.
  await expect(report).toContainText('1 message had gone and will not go again.')
  await expect(report).toContainText('1 message went out of which nothing is known here')
  await expect(report.getByRole('listitem')).toHaveText('uma@sandlark.example')
})
