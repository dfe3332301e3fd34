import type { Page } from '@playwright/test'
import ICAL from 'ical.js'
import { simpleParser } from 'mailparser'
import { expect, moveClockTo, test, visit } from './demo.ts'
import { chooseFirst, giveDetails, mailsIn, origin, subjectsIn, takeTime, telephone } from './telephone.ts'

/*
 * Both sides of the life of a booking: a client on a telephone who books, confirms, moves twice, cancels, books again
 * and pays, alone; and the business, whose every message is counted.
 */

const service = 'Evening on the ground'

/** The owner asks for a deposit, and lets bookings count once they are confirmed from the mailbox. */
async function askForDeposit(page: Page) {
  await visit(page, '/set-up')
  await page.getByRole('link', { name: `Edit ${service}` }).click()
  await page.getByRole('radio', { name: 'a deposit, then the rest' }).check()
  await page.getByLabel('Deposit, in %').fill('40')
  await page.getByLabel('Due within, in days').fill('1')
  await page.getByLabel('The rest due, in days before').fill('2')
  await page.getByRole('radio', { name: 'counts once they confirm it from their mailbox' }).check()
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await page.getByRole('button', { name: 'Save' }).click()
  await expect(page.getByRole('heading', { name: 'Services' })).toBeVisible()
  await visit(page, '/')
}

async function confirm(client: Page) {
  await client.getByRole('link', { name: 'Confirm the booking…' }).click()
  await client.getByRole('button', { name: 'Yes, confirm it' }).click()
  await expect(client.getByText('Your booking is confirmed.')).toBeVisible()
}

/** What a calendar is told in the messages of a mailbox, in the order of time. */
async function calendarsIn(page: Page, address: string) {
  const told = []
  for (const { id } of (await mailsIn(page, address)).toReversed()) {
    const answer = await page.request.get(`${origin(page)}/api/mail/${id}`)
    const { source } = (await answer.json()) as { source: string }
    // Beside the part that a calendar acts on stands the same as a file, for programs that show none.
    const parts = (await simpleParser(source)).attachments.filter(({ content }) =>
      content.toString().startsWith('BEGIN:VCALENDAR'),
    )
    expect(new Set(parts.map(({ content }) => content.toString())).size).toBeLessThanOrEqual(1)
    for (const part of parts.slice(0, 1)) {
      const calendar = new ICAL.Component(ICAL.parse(part.content.toString()) as unknown[])
      const method = String(calendar.getFirstPropertyValue('method'))
      const entry = calendar.getFirstSubcomponent('vevent')
      if (!entry) throw new Error('A calendar without an entry')
      told.push({ method, entry, read: new ICAL.Event(entry) })
    }
  }
  return told
}

test('a client books, confirms, moves twice, cancels, books again and pays: each is told once, and no more', async ({
  page,
  browser,
}) => {
  const told = (count: number) =>
    expect.poll(() => subjectsIn(page, address), { timeout: 60_000 }).toHaveLength(count)
  const address = 'ottilie@farnbusch.example'
  await askForDeposit(page)
  const client = await telephone(browser)
  await chooseFirst(client, origin(page), service)
  await giveDetails(client, address)
  await takeTime(client)
  await client.getByRole('button', { name: /Book|Send/ }).click()
  await expect(client.getByText('Your booking counts once you confirm it.')).toBeVisible()
  const own = client.url()
  await confirm(client)
  // That it is booked at once; what is to be paid ahead when the sending hours begin, at eight.
  await told(1)

  for (const [index, date] of ['Fri 15 May 2026', 'Sat 16 May 2026'].entries()) {
    await client.getByRole('link', { name: 'Move the booking…' }).click()
    await client.getByRole('link', { name: /Month after/ }).click()
    await client.getByRole('table').getByRole('link').nth(index).click()
    await client.locator('ul.times').getByRole('link').first().click()
    await expect(client.getByText('Nothing has changed yet.')).toBeVisible()
    await client.getByRole('button', { name: 'Move it' }).click()
    await expect(client.getByRole('status')).toContainText('Moved.')
    // What is left of it is told when it has settled.
    await moveClockTo(page, date, '09:00', date.slice(0, 10))
    await told(3 + index)
  }

  await client.goto(own)
  await client.getByRole('link', { name: 'Cancel the booking…' }).click()
  await client.getByLabel('Why, if you like to say').fill('We have to travel.')
  await client.getByRole('button', { name: 'Yes, cancel it' }).click()
  await expect(client.getByText('This booking is cancelled.')).toBeVisible()
  await moveClockTo(page, 'Sun 17 May 2026', '09:00', 'Sun 17 May')
  await told(5)
  await client.getByRole('link', { name: 'Book again' }).click()
  await client.getByRole('link', { name: /Month after/ }).click()
  await client.getByRole('table').getByRole('link').first().click()
  await client.locator('ul.times').getByRole('link').first().click()
  await giveDetails(client, address)
  await takeTime(client)
  await client.getByRole('button', { name: /Book|Send/ }).click()
  await confirm(client)
  await told(7)

  // Refused once, then paid, and the rest as well; their days come, and nothing reminds of them.
  const again = client.url()
  await client
    .getByRole('link', { name: /^Pay €/ })
    .first()
    .click()
  await client.getByRole('link', { name: /^Pay €/ }).click()
  await client.getByRole('button', { name: /refuse/i }).click()
  await expect(client.getByText('The payment was refused; nothing was taken.')).toBeVisible()
  await client.getByRole('link', { name: /^Pay €/ }).click()
  await client.getByRole('button', { name: /^Pay €/ }).click()
  await expect(client.getByRole('link', { name: /^Pay €/ })).toHaveCount(0)
  await client.goto(again)
  await client.getByRole('link', { name: /^Pay €/ }).click()
  await client.getByRole('link', { name: /^Pay €/ }).click()
  await client.getByRole('button', { name: /^Pay €/ }).click()
  await expect(client.getByRole('link', { name: /^Pay €/ })).toHaveCount(0)
  await moveClockTo(page, 'Thu 28 May 2026', '09:00', 'Thu 28 May')
  const kinds = (await subjectsIn(page, address)).map((subject) => subject.split(':')[0] ?? '')
  expect(kinds.toSorted()).toEqual([
    'Cancelled',
    'Evening on the ground',
    'Evening on the ground',
    'New day',
    'New day',
    'The deposit for your flight',
    'The deposit for your flight',
  ])

  await checkCalendars(page, address)

  // One client, whose bookings the business sees, with the reason.
  await visit(page, '/clients')
  await page.getByRole('textbox', { name: /Find/ }).first().fill('Farnbusch')
  await expect(page.getByRole('link', { name: /Farnbusch/ })).toHaveCount(1)
  await page.getByRole('link', { name: /Farnbusch/ }).click()
  await page.getByRole('link', { name: new RegExp(`${service}.*cancelled`) }).click()
  await expect(page.getByText('“We have to travel.”', { exact: true })).toBeVisible()
})

/** The files of the first booking and of the second are one valid history each (RFC 5546, 3.2; RFC 5545, 3.8.7.4). */
async function checkCalendars(page: Page, address: string) {
  const all = await calendarsIn(page, address)
  const uids = [...new Set(all.map(({ read }) => read.uid))]
  expect(uids).toHaveLength(2)
  const methodsOf = (uid: string | undefined) =>
    all.filter(({ read }) => read.uid === uid).map(({ method }) => method)
  expect(methodsOf(uids[0])).toEqual(['REQUEST', 'REQUEST', 'REQUEST', 'CANCEL'])
  expect(methodsOf(uids[1])).toEqual(['REQUEST'])
  for (const uid of uids) {
    const own = all.filter(({ read }) => read.uid === uid)
    const sequences = own.map(({ read }) => read.sequence)
    // Each replaces the one before.
    expect(sequences).toEqual([...new Set(sequences)].toSorted((one, other) => one - other))
    const people = own.map(({ entry }) => [
      String(entry.getFirstPropertyValue('organizer')),
      String(entry.getFirstPropertyValue('attendee')),
    ])
    expect(new Set(people.map(String)).size).toBe(1)
    expect(people[0]?.[1]?.toLowerCase()).toBe(`mailto:${address}`)
    const stamps = own.map(({ entry }) => String(entry.getFirstPropertyValue('dtstamp')))
    expect(stamps).toEqual(stamps.toSorted())
    for (const { method, entry, read } of own) {
      const status = String(entry.getFirstPropertyValue('status'))
      expect(status).toBe(method === 'CANCEL' ? 'CANCELLED' : 'CONFIRMED')
      expect(read.startDate.compare(read.endDate)).toBeLessThan(0)
    }
  }
  // A move is another time, and the cancellation is of the last one.
  const starts = all.slice(0, 4).map(({ read }) => read.startDate.toString())
  expect(new Set(starts).size).toBe(3)
  expect(starts[3]).toBe(starts[2])
}
