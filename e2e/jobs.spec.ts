import type { Page } from '@playwright/test'
import { expect, test } from './demo.ts'
import { body, putField } from './letterEditor.ts'
import { counting } from './presses.ts'

/*
 * Ten jobs of an ordinary week, through the interface alone, each from the Desk, with the presses they take. The limits
 * are our own: what it took when it was first counted.
 */

type Hand = ReturnType<typeof counting>

async function typeDate(page: Page, hand: Hand, date: string) {
  await hand.type(page.getByLabel('Date'), date)
  await hand.key('Tab')
}

test('a new client: at most 7', async ({ page }) => {
  const hand = counting(page)
  await hand.link('Clients')
  await hand.button('Add a client')
  await hand.type(page.getByLabel('First name'), 'Wenzel')
  await hand.type(page.getByLabel('Last name'), 'Ohnesorg')
  await hand.type(page.getByLabel('E-mail address'), 'wenzel@ohnesorg.example')
  await hand.button('Add the client')
  await expect(page.getByRole('heading', { name: 'Wenzel Ohnesorg' })).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(7)
})

test('a booking, and its confirmation goes: at most 14', async ({ page }) => {
  const hand = counting(page)
  await hand.link('Bookings')
  await hand.button('New booking')
  await hand.type(page.getByRole('combobox', { name: 'Client' }), 'Agatha')
  await hand.press(page.getByRole('option', { name: 'Agatha Fennimore' }))
  await hand.choose('Service', /Sunrise flight/)
  await typeDate(page, hand, 'Sat 16 May 2026')
  await hand.press(page.getByLabel('Start: hours'))
  await hand.write('0545')
  await hand.button('Make the booking')
  await expect(page.getByRole('button', { name: /Your flight is booked.*sent/ })).toBeVisible({
    timeout: 40_000,
  })
  expect(hand.count()).toBeLessThanOrEqual(14)
})

test('a booking is moved, with what it does seen before: at most 7', async ({ page }) => {
  const hand = counting(page)
  await hand.link('Bookings')
  await hand.link(/Matthias Corvinander/)
  await hand.button('Move…')
  await typeDate(page, hand, 'Tue 19 May 2026')
  await expect(
    page
      .getByRole('region', { name: 'What it will do' })
      .getByText(/Mon 18 May/)
      .first(),
  ).toBeVisible()
  await hand.button('Move it')
  await expect(page.getByText(/Tue 19 May/).first()).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(7)
})

test('a booking is cancelled: at most 4', async ({ page }) => {
  const hand = counting(page)
  await hand.link('Bookings')
  await hand.link(/Bjarne Sommerfeldt/)
  await hand.button('Cancel…')
  await hand.button('Cancel the booking')
  await expect(page.getByText('– cancelled', { exact: true }).first()).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(4)
})

test('a missing address is filled in, and what was held up goes: at most 7', async ({ page }) => {
  const hand = counting(page)
  await hand.link(/^Trouble/)
  await hand.link(/Ottokar Quendel/)
  await hand.type(page.getByLabel('Correct the address'), 'ottokar@quendel.example')
  await hand.key('Enter')
  await hand.button('Correct it and send')
  // What was asked for has gone; the confirmation, whose moment is past, is left to a person.
  await expect(page.getByRole('link', { name: /Ottokar Quendel.*What to wear/ })).toHaveCount(0)
  await hand.link(/Ottokar Quendel.*Your flight is booked/)
  await expect(page.getByRole('button', { name: /^Send it now/ })).toBeVisible()
  await hand.key('n')
  await expect(page.getByText(/^Goes now: Your flight is booked to Ottokar/).first()).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(7)
})

test('the morning’s messages, one of them with a line: at most 4', async ({ page }) => {
  const hand = counting(page)
  await hand.type(page.getByLabel('A line for this copy only, after the greeting'), 'Bring the children.')
  await hand.key('Escape')
  await expect(page.getByRole('article').getByRole('heading', { level: 2 }).first()).toBeFocused()
  await hand.key('a')
  await expect(page.getByText(/^Approved: What to wear up there to/).first()).toBeVisible()
  await hand.key('a')
  await expect(page.getByText('Nothing waits for you.')).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(4)
})

test('why somebody does not get a letter: at most 7', async ({ page }) => {
  const hand = counting(page)
  await hand.link('Ahead')
  await hand.press(page.getByText('Why not?', { exact: true }))
  await expect(page.getByText('Choose a client, and a letter or a sequence.')).toBeVisible()
  await hand.type(page.getByRole('combobox', { name: 'Client' }), 'Fionnuala')
  await hand.press(page.getByRole('option', { name: /Fionnuala Brannagh/ }))
  await hand.choose('Letter', 'Three hours to go')
  await expect(page.getByText(/It is for .*; the service is/).first()).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(7)
})

test('a sentence is added to a letter, looked through and published: at most 8', async ({ page }) => {
  const hand = counting(page)
  await hand.link('Letters')
  await hand.link(/The flight call/)
  await hand.press(body(page).getByText('Please be there ten minutes early'))
  await hand.key('End')
  await hand.write(' We have hot tea.')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await hand.button('Publish…')
  await expect(page.getByRole('heading', { name: 'Who reads it differently' })).toBeVisible()
  await hand.button('Publish')
  await expect(page.getByText('Published: this is what everybody gets.')).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(8)
})

test('a field by name, and a test copy found in one’s own mailbox: at most 9', async ({ page }) => {
  const hand = counting(page)
  await hand.link('Letters')
  await hand.link(/What to wear up there/)
  await hand.press(body(page).getByText('It is about eight degrees cooler'))
  await hand.key('End')
  await putField(page, 'Place')
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await hand.button('Send me a test copy')
  await hand.press(page.getByRole('link', { name: /mailbox/ }).first())
  await expect(page.getByText(/what to wear/).first()).toBeVisible()
  // The field took three: its key, its name, Enter.
  expect(hand.count() + 3).toBeLessThanOrEqual(9)
})

test('a sequence is paused, with what that holds back: at most 4', async ({ page }) => {
  const hand = counting(page)
  await hand.link('Sequences')
  await hand.link(/Before an evening with us/)
  await hand.button('Pause…')
  await expect(page.getByText(/running, \d+ messages and steps ahead/)).toBeVisible()
  await hand.button('Pause it')
  await expect(page.getByText('paused').first()).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(4)
})
