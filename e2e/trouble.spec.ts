import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { openPostOfficeFile, type Behaviour } from '../server/standins/postOffice/file.ts'
import { expect, moveClockTo, test, typeTime, visit } from './demo.ts'
import { startServer } from './demoServer.ts'

/** How the made-up mailbox of an address takes messages from now on; null: as any other. */
function behave(folder: string, address: string, behaviour: Behaviour | null) {
  const file = openPostOfficeFile(join(folder, 'postoffice.db'))
  file.setBehaviour(address, behaviour)
  file.close()
}

const received = (folder: string, address: string) => {
  const file = openPostOfficeFile(join(folder, 'postoffice.db'))
  const count = file.mailOf(address).length
  file.close()
  return count
}

/** Makes a confirmed booking, whose confirmation goes at once. */
async function book(page: Page, client: string, date: string) {
  await visit(page, '/bookings/new')
  await page.getByRole('combobox', { name: 'Client' }).fill(client)
  await page.getByRole('option', { name: client }).click()
  await page.getByRole('combobox', { name: 'Service' }).click()
  await page.getByRole('option', { name: /Sunrise flight/ }).click()
  await page.getByLabel('Date').fill(date)
  await page.getByLabel('Date').press('Tab')
  await typeTime(page, 'Start', '05:45')
  await page.getByRole('button', { name: 'Make the booking' }).click()
  await expect(page.getByRole('button', { name: /Your flight is booked/ })).toBeVisible()
}

const entry = (page: Page, name: RegExp) =>
  page.getByRole('region', { name: 'Desk' }).getByRole('link', { name })
const message = (page: Page) => page.getByRole('article')

test('refused: the address is mended, and it goes there', async ({ page, demos }, { file }) => {
  const { folder } = await demos.for(file)
  await visit(page, '/desk/trouble')
  await entry(page, /Ruprecht Pfennigschmidt.*failed/).click()
  await expect(
    message(page)
      .getByText(/refused it: 550 5.1.1/)
      .first(),
  ).toBeVisible()
  await message(page).getByLabel('Correct the address').fill('no address at all')
  await message(page).getByLabel('Correct the address').press('Enter')
  const mend = message(page).getByRole('button', { name: 'Correct it and send…' })
  await message(page).getByLabel('Correct the address').fill('two@signs@new-box.example')
  await mend.click()
  await message(page).getByLabel('Correct the address').fill('ruprecht@new-box.example')
  await mend.click()
  await expect(
    message(page)
      .getByText(/to .*ruprecht@new-box.example/)
      .first(),
  ).toBeVisible()
  await message(page).getByRole('button', { name: 'Correct it and send', exact: true }).click()
  await expect(entry(page, /Ruprecht/)).toHaveCount(0)
  await expect.poll(() => received(folder, 'ruprecht@new-box.example')).toBe(1)
})

test('blocked for want of an address: mended, all of it goes at its time', async ({ page, demos }, {
  file,
}) => {
  const { folder } = await demos.for(file)
  await visit(page, '/desk/trouble')
  // Its confirmation, two before the flight and two after it.
  await expect(entry(page, /Ottokar Quendel.*blocked/)).toHaveCount(5)
  await entry(page, /Ottokar Quendel Your flight is booked/).click()
  await expect(
    message(page).getByText('The client has heard nothing: it cannot go as it stands.'),
  ).toBeVisible()
  await message(page).getByLabel('Correct the address').fill('ottokar@quendel.example')
  await message(page).getByRole('button', { name: 'Correct it and send…' }).click()
  await message(page).getByRole('button', { name: 'Correct it and send', exact: true }).click()
  await expect(entry(page, /Ottokar/)).toHaveCount(0)
  await expect.poll(() => received(folder, 'ottokar@quendel.example')).toBe(1)
})

test('lost after the final dot: looked up in the sent mail, it went, and no second one goes', async ({
  page,
  demos,
}, { file }) => {
  const { folder } = await demos.for(file)
  await visit(page, '/desk/trouble')
  await entry(page, /Milena Dravec.*in doubt/).click()
  await message(page).getByRole('button', { name: 'Look it up in the sent mail' }).click()
  await expect(message(page).getByText(/It is there, taken .*So it went/)).toBeVisible()
  await message(page).getByRole('button', { name: 'It was delivered; don’t send again' }).click()
  await expect(page.getByText('It went: Your flight is booked to Milena Dravec. It is done')).toBeVisible({
    timeout: 60_000,
  })
  expect(received(folder, 'milena@flaky-line.example')).toBe(1)
})

test('held back while it fell due: missed, and let go', async ({ page }) => {
  await visit(page, '/desk/trouble')
  await page.getByRole('button', { name: /Sending on/ }).click()
  await page.getByRole('button', { name: 'Hold back all sending' }).click()
  await expect(page.getByRole('button', { name: 'Held back' })).toBeVisible()
  await moveClockTo(page, 'Thu 14 May 2026', '18:30', '18:30')
  await page.getByRole('button', { name: 'Held back' }).click()
  await page.getByRole('button', { name: 'Switch sending on' }).click()
  await entry(page, /Oona Siltanen.*missed/).click()
  await expect(message(page).getByText('It fell due while sending was held back.').first()).toBeVisible()
  await message(page).getByRole('button', { name: 'Let it go' }).click()
  await expect(entry(page, /Oona Siltanen/)).toHaveCount(0)
})

test('answered with 4xx or dropped before the message until given up: then sent, or by another letter', async ({
  page,
  demos,
}, { file }) => {
  const { folder } = await demos.for(file)
  behave(folder, 'agatha@fennimore.example', 'later')
  behave(folder, 'jules@okonjomarsh.example', 'drop before data')
  await book(page, 'Agatha Fennimore', 'Sat 30 May 2026')
  await book(page, 'Jules Okonjo-Marsh', 'Sat 30 May 2026')
  await moveClockTo(page, 'Sun 17 May 2026', '12:00', 'Sun 17 May')
  behave(folder, 'agatha@fennimore.example', null)
  behave(folder, 'jules@okonjomarsh.example', null)
  const before = received(folder, 'agatha@fennimore.example')
  await visit(page, '/desk/trouble')
  await entry(page, /Agatha Fennimore Your flight is booked.*failed/).click()
  await expect(
    message(page)
      .getByText(/did not get through in \d+ attempts: .*4\.2\.1/)
      .first(),
  ).toBeVisible()
  await message(page).getByRole('button', { name: 'Send it now' }).click()
  await expect.poll(() => received(folder, 'agatha@fennimore.example'), { timeout: 60_000 }).toBe(before + 1)

  const earlier = received(folder, 'jules@okonjomarsh.example')
  await entry(page, /Jules Okonjo-Marsh Your flight is booked.*failed/).click()
  await message(page).getByRole('combobox', { name: 'Send another letter instead' }).click()
  await page.getByRole('option', { name: 'The flight call' }).click()
  await message(page).getByRole('button', { name: 'Send that letter' }).click()
  await expect
    .poll(() => received(folder, 'jules@okonjomarsh.example'), { timeout: 60_000 })
    .toBe(earlier + 1)
})

test('not approved in time over a weekend: stale, never late, and answered by a call', async ({ page }) => {
  await moveClockTo(page, 'Mon 25 May 2026', '07:00', 'Mon 25 May')
  await visit(page, '/desk/trouble')
  await entry(page, /Familie Abendroth.*What to wear.*stale/).click()
  await expect(
    message(page).getByText('The client has heard nothing: nobody approved it before its last chance.'),
  ).toBeVisible()
  await message(page).getByRole('button', { name: 'I called instead' }).click()
  await expect(
    page.getByText(/Called instead: What to wear up there to Familie Abendroth\. It is done/),
  ).toBeVisible({
    timeout: 60_000,
  })
})

test('killed while it was being handed over: in doubt; not in the sent mail, it is sent once', async ({
  page,
}) => {
  const first = await startServer('demo/main')
  const address = 'agatha@fennimore.example'
  behave(first.folder, address, 'never answer')
  await page.goto(first.url)
  await page.getByRole('button', { name: 'Come in as Ilse Thornquist' }).click()
  await page.getByRole('navigation', { name: 'Time ribbon' }).waitFor()
  await book(page, 'Agatha Fennimore', 'Sat 30 May 2026')
  await expect(page.getByRole('button', { name: /Your flight is booked .*being sent/ })).toBeVisible()
  await first.kill()

  const second = await startServer('demo/main', first.folder)
  try {
    behave(second.folder, address, null)
    const before = received(second.folder, address)
    await page.goto(new URL('/desk/trouble', second.url).toString())
    await entry(page, /Agatha Fennimore.*in doubt/).click()
    await message(page).getByRole('button', { name: 'Look it up in the sent mail' }).click()
    await expect(message(page).getByText('It is not there. So it did not go.')).toBeVisible()
    await message(page).getByRole('button', { name: 'It did not go: send it' }).click()
    await expect.poll(() => received(second.folder, address), { timeout: 60_000 }).toBe(before + 1)
    await expect(entry(page, /Agatha/)).toHaveCount(0)
  } finally {
    await second.stop()
  }
})
