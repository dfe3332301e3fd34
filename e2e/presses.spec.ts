import type { Page } from '@playwright/test'
import { expect, test } from './demo.ts'
import { kept, preview, sentences } from './designing.ts'
import { body } from './letterEditor.ts'
import { counting } from './presses.ts'

/*
 * Jobs of a new user, through the interface alone, with the presses they take. The limits are our own; what each job
 * took before stands beside it.
 */

const whens = (page: Page) =>
  sentences(page)
    .getByRole('button', { name: /^When:/ })
    .allInnerTexts()

/** From the Desk to a new sequence with its name. */
async function begin(page: Page, hand: ReturnType<typeof counting>, name: string) {
  await hand.link('Sequences')
  await hand.button('New sequence')
  await hand.type(page.getByLabel('Name of the sequence'), name)
}

test('a letter with facts, policy, directions, a link to change and the calendar: at most 20 (it was 40)', async ({
  page,
}) => {
  const hand = counting(page)
  await hand.link('Letters')
  await hand.button('New letter')
  await hand.type(page.getByLabel('Internal name'), 'All you need')
  await hand.press(page.getByRole('textbox', { name: 'Subject', exact: true }))
  await hand.write('All you need')
  await hand.press(body(page).locator('p').first())
  await hand.write('Good day,')
  for (const part of ['Booking facts', 'Moving and cancelling', 'The way and the cars', 'Button']) {
    await hand.button('Add…')
    await hand.menu(part)
  }
  await hand.write('Change it here')
  await hand.press(page.getByLabel(/calendar/i).first())
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  await hand.button('Publish…')
  await hand.button('Publish')
  await expect(page.getByText('Published: this is what everybody gets.')).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(20)
})

test('a reminder three days before at 09:00, not on weekends, for one service, held: at most 25 (it was 80)', async ({
  page,
}) => {
  const hand = counting(page)
  await begin(page, hand, 'Three days before')
  await hand.button(/^Starts when/)
  await hand.choose('Only for', 'Sunrise flight')
  await hand.key('Escape')
  await hand.button('Done')
  await hand.button('Add a step')
  await hand.choose('Letter', 'What to wear up there')
  await hand.button('Add it')
  await hand.type(page.getByLabel('How long', { exact: true }), '3')
  await hand.press(page.getByLabel('At: hours'))
  await hand.write('0900')
  await hand.button('Done')
  await hand.button('Approval: by itself')
  await hand.press(page.getByRole('switch', { name: 'A person approves it before it goes' }))
  await hand.button('Done')
  await hand.button('More about step 1')
  await hand.button('Days: on any day')
  await hand.choose('Days', 'only on working days')
  await hand.button('Done')
  await kept(page)
  expect(await whens(page)).toEqual(['3 days before the start of the booking, at 09:00'])
  await expect(sentences(page)).toContainText('after approval')
  await expect(sentences(page)).toContainText('only on working days')
  await expect(preview(page).getByText('What to wear up there').first()).toBeVisible()
  expect(hand.count()).toBeLessThanOrEqual(25)
})

test('a ladder of six steps, one of them after approval: at most 35 (it was 62)', async ({ page }) => {
  const hand = counting(page)
  await begin(page, hand, 'The whole way')
  const add = async (purpose: string, letter: string | null) => {
    await hand.button('Add a step')
    await hand.choose('Purpose', purpose)
    if (letter !== null) await hand.choose('Letter', letter)
    await hand.button('Add it')
  }
  await add('confirmation', null)
  await add('preparation', null)
  await add('reminder', null)
  await add('payment', null)
  await add('follow-up', null)
  await add('promotional', null)
  await hand.button('Done')
  await hand.press(sentences(page).getByRole('button', { name: 'Approval: by itself' }).last())
  await hand.press(page.getByRole('switch', { name: 'A person approves it before it goes' }))
  await hand.button('Done')
  await kept(page)
  expect(await whens(page)).toHaveLength(6)
  await expect(sentences(page)).toContainText('after approval')
  expect(hand.count()).toBeLessThanOrEqual(35)
})

test('two lead times and one colleague: at most 22 (it was 42)', async ({ page }) => {
  const hand = counting(page)
  await begin(page, hand, 'Two reminders')
  await hand.button('Add a step')
  await hand.button('Add it')
  await hand.type(page.getByLabel('How long', { exact: true }), '3')
  await hand.button('Done')
  await hand.button('Add a step')
  await hand.button('Add it')
  await hand.press(
    sentences(page)
      .getByRole('button', { name: /^To whom/ })
      .last(),
  )
  await hand.button('Somebody else, too')
  await hand.press(page.getByRole('combobox', { name: 'Who' }).last())
  await hand.press(page.getByRole('option', { name: 'Ilse Thornquist' }))
  await hand.button('Done')
  await kept(page)
  expect(await whens(page)).toEqual([
    '3 days before the start of the booking, at 18:00',
    '1 day before the start of the booking, at 18:00',
  ])
  await expect(sentences(page)).toContainText('the primary contact and Ilse Thornquist')
  expect(hand.count()).toBeLessThanOrEqual(22)
})
