import type { Locator, Page } from '@playwright/test'
import { expect, moveClockTo, test, visit } from './demo.ts'
import { makeBooking } from './booking.ts'
import { addLetter, choose, closePart, kept, preview, sentences } from './designing.ts'
import { presser } from './keyboard.ts'

test('a sequence is built from nothing, goes live, and its messages arrive as the clock moves', async ({
  page,
}) => {
  await visit(page, '/sequences')
  await page.getByRole('button', { name: 'New sequence' }).click()
  await page.getByLabel('Name of the sequence').fill('Around an evening on the ground')

  // Only for one service, and it stops when the client answers.
  await page.getByRole('button', { name: /^Starts when/ }).click()
  await page.getByRole('combobox', { name: 'Only for' }).click()
  await page.getByRole('option', { name: 'Evening on the ground' }).click()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'Done' }).click()
  await page.getByRole('button', { name: /^Stops when/ }).click()
  await page.getByRole('button', { name: 'Add a stop rule' }).click()
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByRole('button', { name: 'Stops when the client answers' })).toBeVisible()

  await addLetter(page, 'confirmation', 'Your flight is booked')
  await closePart(page)
  await addLetter(page, 'reminder', 'The flight call')
  await expect(
    sentences(page).getByRole('button', {
      name: 'When: 1 day before the start of the booking, at 18:00',
    }),
  ).toBeVisible()
  await closePart(page)

  // Three hours before: the sentence's time is changed where it stands.
  await addLetter(page, 'reminder', 'Three hours to go')
  await page.getByLabel('How long', { exact: true }).fill('3')
  await choose(page, 'How long: unit', 'hours')
  await closePart(page)
  await expect(
    sentences(page).getByRole('button', { name: 'When: 3 hours before the start of the booking' }),
  ).toBeVisible()

  // A payment that comes again until it is paid.
  await addLetter(page, 'payment', 'The rest of the price')
  await closePart(page)
  await page.getByRole('button', { name: 'More about step 2' }).click()
  await page.getByRole('button', { name: 'Again: only once' }).click()
  await page.getByRole('button', { name: 'Let it come again' }).click()
  await closePart(page)
  await expect(
    sentences(page).getByText('again every 4 days until the invoice is paid, at most 3 times'),
  ).toBeVisible()

  // A follow-up that waits for approval.
  await addLetter(page, 'follow-up', 'How was it?')
  await closePart(page)
  await sentences(page).getByRole('button', { name: 'Approval: by itself' }).last().click()
  await page.getByRole('switch', { name: /approves it/ }).check({ force: true })
  await closePart(page)
  await expect(sentences(page).getByRole('button', { name: 'Approval: after approval' })).toBeVisible()
  await kept(page)

  // The preview has exact dates for a real booking.
  await expect(preview(page).getByText('The flight call').first()).toBeVisible()
  await expect(preview(page).getByText(/day 0 is/)).toBeVisible()

  // What is kept survives a reload, and nothing is live yet.
  await page.reload()
  await expect(page.getByText('draft', { exact: false }).first()).toBeVisible()
  await expect(sentences(page).getByRole('listitem')).toHaveCount(5)

  await page.getByRole('button', { name: 'See what going live does' }).click()
  const effect = page.getByRole('region', { name: 'Let it go live' })
  await expect(effect.getByText('Nothing has happened yet.')).toBeVisible()
  await expect(effect.getByText(/No message that is planned now/)).toBeVisible({ timeout: 60_000 })
  await effect.getByRole('button', { name: 'Let it go live' }).click()
  await expect(page.getByText('● live').first()).toBeVisible()

  await makeBooking(page, 'Pembertone', 'Fri 29 May 2026', '19:00')
  const bookingUrl = page.url()
  const mailbox = async () => visit(page, '/mailbox/alistair%40pembertone.example')
  await moveClockTo(page, 'Thu 28 May 2026', '18:30', 'Thu 28 May')
  await moveClockTo(page, 'Fri 29 May 2026', '16:30', 'Fri 29 May')
  await moveClockTo(page, 'Sun 31 May 2026', '11:00', 'Sun 31 May')
  await page.goto(bookingUrl)
  const sequenceRows = page.getByRole('button')
  await expect(sequenceRows.filter({ hasText: 'Thu 28 May, 18:00The flight call' }).first()).toBeVisible()
  await expect(sequenceRows.filter({ hasText: 'Fri 29 May, 16:00Three hours to go' }).first()).toBeVisible()
  const review = sequenceRows.filter({ hasText: 'Sun 31 May, 10:00How was it?' }).first()
  await expect(review).toContainText('waits for you')
  await review.click()
  await page.getByRole('button', { name: 'Approve it' }).click()
  await expect(sequenceRows.filter({ hasText: 'How was it?' }).first()).toContainText('sent')
  await mailbox()
  await expect(page.getByRole('link', { name: /How was it/ })).toBeVisible()
})

test('the keyboard alone builds a sequence and moves its pins', async ({ page }) => {
  const press = presser(page)
  await visit(page, '/sequences')
  await page.getByRole('button', { name: 'New sequence' }).focus()
  await press('Enter')
  await expect(page.getByLabel('Name of the sequence')).toBeVisible()
  await page.getByLabel('Name of the sequence').focus()
  await press('ControlOrMeta+A')
  await page.keyboard.type('By keyboard')

  await page.getByRole('button', { name: 'Add a step' }).focus()
  await press('Enter')
  await page.getByRole('button', { name: 'Add it' }).focus()
  await press('Enter')
  const when = sentences(page).getByRole('button', { name: /^When:/ })
  await expect(when).toHaveText('1 day before the start of the booking, at 18:00')

  // The pin: one sensible place further from the event, and a quarter of an hour later.
  const pin = page.getByRole('slider')
  await pin.focus()
  await press('ArrowLeft')
  await expect(when).toHaveText('2 days before the start of the booking, at 18:00')
  await press('ArrowUp')
  await expect(when).toHaveText('2 days before the start of the booking, at 18:15')
  await expect(pin).toHaveAttribute('aria-valuetext', '2 days before the start of the booking, at 18:15')
  await press('ControlOrMeta+Z')
  await expect(when).not.toHaveText('2 days before the start of the booking, at 18:15')

  // Over day 0 it asks, and says what flips.
  await pin.focus()
  for (let count = 0; count < 40; count += 1) {
    if (await page.getByRole('alertdialog', { name: 'Over day 0' }).isVisible()) break
    await press('ArrowRight')
  }
  const question = page.getByRole('alertdialog', { name: 'Over day 0' })
  await expect(question).toContainText('As a follow-up instead of a reminder')
  await question.getByRole('button', { name: 'Leave it on its side' }).focus()
  await press('Enter')
  await expect(question).toHaveCount(0)
  await expect(when).toContainText('before')

  // Approval by keyboard, then live.
  await sentences(page).getByRole('button', { name: 'Approval: by itself' }).focus()
  await press('Enter')
  await page.getByRole('switch', { name: /approves it/ }).focus()
  await press('Space')
  await expect(sentences(page).getByRole('button', { name: 'Approval: after approval' })).toBeVisible()
  await kept(page)
  await page.getByRole('button', { name: 'See what going live does' }).focus()
  await press('Enter')
  const go = page
    .getByRole('region', { name: 'Let it go live' })
    .getByRole('button', { name: 'Let it go live' })
  await expect(go).toBeEnabled({ timeout: 60_000 })
  await go.focus()
  await press('Enter')
  await expect(page.getByText('● live').first()).toBeVisible()
})

test('a pin is dragged, and the sentence and the preview follow', async ({ page }) => {
  await visit(page, '/sequences')
  await page.getByRole('link', { name: /Before a morning flight/ }).click()
  const pin = page.getByRole('slider', { name: 'What to wear up there' })
  await expect(preview(page).getByText('What to wear up there').first()).toBeVisible()
  const before = await preview(page)
    .getByRole('listitem')
    .filter({ hasText: 'What to wear' })
    .first()
    .innerText()
  const box = await pin.boundingBox()
  if (!box) throw new Error('The pin is not there')
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 }
  await page.mouse.move(middle.x, middle.y)
  await page.mouse.down()
  await page.mouse.move(middle.x + 40, middle.y, { steps: 6 })
  await page.mouse.up()
  const when = sentences(page)
    .getByRole('button', { name: /^When:/ })
    .nth(1)
  await expect(when).not.toHaveText(/^3 days before/)
  const said = await when.innerText()
  await expect(pin).toHaveAttribute('aria-valuetext', said.slice(0, 1).toLowerCase() + said.slice(1))
  await expect
    .poll(() => preview(page).getByRole('listitem').filter({ hasText: 'What to wear' }).first().innerText())
    .not.toBe(before)
  await expect(page.getByText('changes not in effect yet')).toBeVisible()

  // Undo takes it back; the hard cases give their reasons.
  await page.getByRole('button', { name: 'Undo' }).click()
  await expect(when).toHaveText(/^3 days before/)
  for (const [hardCase, reason] of [
    [/booked the evening before/, /past/],
    [/lived in New York/, /sending hours|New York|there/],
    [/moved the day before, and back/, /moved/],
  ] as const) {
    await page.getByRole('combobox', { name: 'What if', exact: true }).click()
    await page.getByRole('option', { name: hardCase }).click()
    await expect(preview(page).getByText(reason).first()).toBeVisible()
  }
})

test('a whole sequence by keyboard alone: built, live, and its messages arrive', async ({ page }) => {
  const press = presser(page)
  const enter = async (name: string | RegExp, within: Page | Locator = page) => {
    await within
      .getByRole('button', { name, exact: typeof name === 'string' })
      .last()
      .focus()
    await press('Enter')
  }
  const pick = async (label: string, option: string) => {
    await page.getByRole('combobox', { name: label, exact: true }).focus()
    await press('ArrowDown')
    const highlighted = page.locator('[role=option][data-combobox-selected]')
    for (let tries = 0; tries < 60; tries += 1) {
      if ((await highlighted.count()) > 0 && (await highlighted.first().innerText()).trim() === option) break
      await press('ArrowDown')
    }
    await press('Enter')
    await expect(page.getByRole('combobox', { name: label, exact: true })).toHaveValue(option)
  }
  const add = async (purpose: string, letter: string) => {
    await enter('Add a step')
    await pick('Purpose', purpose)
    await page.getByRole('combobox', { name: 'Letter', exact: true }).focus()
    await press('ControlOrMeta+A')
    await page.keyboard.type(letter)
    await press('ArrowDown', 'Enter')
    await enter('Add it')
  }
  await visit(page, '/sequences')
  await enter('New sequence')
  await page.getByLabel('Name of the sequence').focus()
  await press('ControlOrMeta+A')
  await page.keyboard.type('All by keyboard')
  await enter(/^Stops when/)
  await enter('Add a stop rule')
  await enter('Done')

  await add('confirmation', 'Your flight is booked')
  await enter('Done')
  await add('reminder', 'The flight call')
  await enter('Done')
  await add('reminder', 'Three hours to go')
  await page.getByLabel('How long', { exact: true }).focus()
  await press('ControlOrMeta+A')
  await page.keyboard.type('3')
  await pick('How long: unit', 'hours')
  await enter('Done')
  await add('payment', 'The rest of the price')
  await enter('Done')
  await enter('More about step 2')
  await enter('Again: only once')
  await enter('Let it come again')
  await enter('Done')
  await add('follow-up', 'How was it?')
  await enter('Done')
  await enter('Approval: by itself', sentences(page))
  await page.getByRole('switch', { name: /approves it/ }).focus()
  await press('Space')
  await enter('Done')
  const whens = await sentences(page)
    .getByRole('button', { name: /^When:/ })
    .allInnerTexts()
  expect(whens).toEqual([
    'At once',
    // Each in its place in time, whatever was added first.
    '2 weeks before the start of the booking, at 09:00',
    '1 day before the start of the booking, at 18:00',
    '3 hours before the start of the booking',
    '2 days after the end of the booking, at 10:00',
  ])
  await kept(page)
  await enter('See what going live does')
  const go = page
    .getByRole('region', { name: 'Let it go live' })
    .getByRole('button', { name: 'Let it go live' })
  await expect(go).toBeEnabled({ timeout: 80_000 })
  await go.focus()
  await press('Enter')
  await expect(page.getByText('● live').first()).toBeVisible()

  await visit(page, '/bookings/new')
  await page.getByRole('combobox', { name: 'Client' }).focus()
  await page.keyboard.type('Percival')
  await expect(page.getByRole('option', { name: /Percival/ })).toBeVisible()
  await press('ArrowDown', 'Enter', 'Tab', 'Tab')
  await expect(page.getByLabel('Date')).toBeFocused()
  await page.keyboard.type('Wed 8 Jul 2026')
  await press('Escape', 'Tab')
  await page.keyboard.type('1000')
  await enter('Make the booking')
  await expect(page.getByRole('heading', { name: /Percival/ })).toBeVisible()
  const bookingUrl = page.url()

  await enter('Demo clock, move it')
  await page.getByLabel('To a date').focus()
  await press('ControlOrMeta+A')
  await page.keyboard.type('Fri 10 Jul 2026')
  await press('Tab')
  await page.getByLabel('at: hours').focus()
  await page.keyboard.type('1200')
  await enter('Move')
  await expect(page.getByRole('button', { name: 'Demo clock, move it' })).toContainText('Fri 10 Jul', {
    timeout: 160_000,
  })
  await page.goto(bookingUrl)
  const rows = page.getByRole('main').getByRole('listitem').getByRole('button')
  await expect(rows.filter({ hasText: /Tue 7 Jul, 18:00.*The flight call.*sent/ }).first()).toBeVisible()
  await expect(rows.filter({ hasText: /Wed 8 Jul, 07:00.*Three hours to go/ }).first()).toBeVisible()
  // Once gone it stands elsewhere on the page, and another of this name may wait.
  const review = rows.filter({ hasText: /Fri 10 Jul.*How was it\?/ }).first()
  await expect(review).toContainText('waits for you')
  await review.focus()
  await press('Enter')
  await enter('Approve it')
  await expect(review).toContainText('sent')
})
