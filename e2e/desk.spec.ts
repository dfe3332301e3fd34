import type { Page } from '@playwright/test'
import { expect, moveClockTo, test, visit } from './demo.ts'

/** Opens the first entry of a name; gives what stands on the right. */
async function openFirst(page: Page, name: RegExp) {
  await page.getByRole('link', { name }).first().click()
  return page.getByRole('article')
}

test('what comes meanwhile does not move the list under the hand', async ({ page, context }) => {
  await visit(page, '/desk/decide')
  const names = () =>
    page.getByRole('region', { name: 'Desk' }).getByRole('listitem').locator('b').allInnerTexts()
  await expect(page.getByRole('listitem').first()).toBeVisible()
  const before = await names()
  const other = await context.newPage()
  await other.goto(new URL('/ahead', page.url()).toString())
  await other.getByRole('button', { name: /18:00 The flight call to Oona/ }).click()
  await other.getByRole('button', { name: 'Hold it for approval' }).click()
  await expect(page.getByText('1 more has come, at the end.')).toBeVisible()
  expect(await names()).toEqual([...before, 'Oona Siltanen'])
  await page.getByRole('button', { name: 'Put in order' }).click()
  await expect(page.getByRole('listitem').first().locator('b')).toHaveText('Oona Siltanen')
})

test('one copy is edited, put off, and alike ones go as one decision', async ({ page }) => {
  await visit(page, '/desk/decide')
  const message = await openFirst(page, /What to wear/)
  await expect(message.getByRole('heading', { level: 2 })).toBeFocused()
  await page.keyboard.press('e')
  const words = page.getByRole('group', { name: 'Words for this copy only' })
  const body = words.getByRole('textbox', { name: 'The letter' })
  await body.focus()
  await page.keyboard.press('Control+Home')
  await page.keyboard.press('End')
  await page.keyboard.type(' (really)')
  await words.getByRole('button', { name: 'Save these words' }).click()
  await expect(page.getByText('This copy has words of its own.')).toBeVisible()
  await expect(page.frameLocator('iframe').getByText('(really)')).toBeVisible()
  // Only what differs stands there for the other one.
  const alike = page.getByRole('region', { name: 'Alike messages' })
  await expect(alike.getByText('Hello Fionnuala,')).toBeVisible()
  await expect(alike.getByText('Bring flat shoes')).toHaveCount(0)

  // Later: not after the last chance, and it says when.
  await message.getByRole('heading', { level: 2 }).focus()
  await page.keyboard.press('l')
  const later = page.getByRole('group', { name: 'Put it off' })
  await later.getByLabel('or on').fill('Tue 26 May 2026')
  await later.getByLabel('or on').press('Tab')
  await expect(later.getByText('That is after its last chance.')).toBeVisible()
  await later.getByLabel('or on').fill('Sat 23 May 2026')
  await later.getByLabel('or on').press('Tab')
  await later.getByRole('button', { name: 'Put it off' }).click()
  await expect(
    page.getByText(/Later, Sat 23 May, 09:00: What to wear up there to Familie Abendroth/),
  ).toBeVisible()
  await expect(page.getByText('It is done and can no longer be taken back here.')).toBeVisible({
    timeout: 60_000,
  })

  // Both together, then taken back: nothing has gone.
  await page
    .getByRole('link', { name: /Abendroth/ })
    .first()
    .click()
  await expect(message.getByText('Sat 23 May, 09:00').first()).toBeVisible()
  await message.getByRole('heading', { level: 2 }).focus()
  await page.keyboard.press('t')
  await expect(page.getByText('Approved: 2 × What to wear up there.')).toBeVisible()
  await page.getByRole('button', { name: 'Take back' }).click()
  await expect(page.getByRole('link', { name: /Abendroth/ }).first()).toBeVisible()
})

test('a decision that comes too late says so, and nothing goes', async ({ page, context }) => {
  await visit(page, '/desk/decide')
  const message = await openFirst(page, /What to wear/)
  await expect(message).toBeVisible()
  const other = await context.newPage()
  await other.goto(page.url())
  await other.getByRole('article').getByRole('button', { name: /Skip/ }).click()
  await page
    .getByRole('article')
    .getByRole('button', { name: /^Approve A/ })
    .click()
  await expect(page.getByRole('alert').filter({ hasText: 'by now' })).toBeVisible({ timeout: 80_000 })
})

test('a task comes from a note, is handed on, moved and done', async ({ page }) => {
  await visit(page, '/clients')
  await page.getByRole('link', { name: /Jules Okonjo-Marsh/ }).click()
  await page.getByLabel('Note').fill('Wants to bring his grandmother')
  await page.getByRole('button', { name: 'Write it down' }).click()
  // It stands among the notes, and no longer where it was typed.
  await expect(page.getByLabel('Note')).toHaveValue('')
  await expect(page.getByText('Wants to bring his grandmother')).toBeVisible()
  await page.getByLabel('Task').fill('Call Jules about the seats')
  await page.getByLabel('On', { exact: true }).fill('Wed 13 May 2026')
  await page.getByLabel('On', { exact: true }).press('Tab')
  await page.getByRole('button', { name: 'Set the task' }).click()
  await expect(page.getByText('Choose today or a later day.').first()).toBeVisible()
  await page.getByLabel('On', { exact: true }).fill('Thu 14 May 2026')
  await page.getByLabel('On', { exact: true }).press('Tab')
  await page.getByRole('button', { name: 'Set the task' }).click()
  await expect(page.getByRole('checkbox', { name: 'Call Jules about the seats' })).toBeVisible()

  await visit(page, '/desk/to-do')
  await page.getByRole('link', { name: /Call Jules/ }).click()
  await page.getByRole('combobox', { name: 'Who' }).click()
  await page.getByRole('option', { name: /Bram/ }).click()
  await page.getByLabel('On', { exact: true }).fill('Fri 15 May 2026')
  await page.getByLabel('On', { exact: true }).press('Tab')
  await page.getByRole('button', { name: 'Move or hand on' }).click()
  await expect(page.getByRole('heading', { name: /tomorrow, Friday 15 May 2026/ })).toBeVisible()
  await expect(page.getByRole('link', { name: /Call Jules.*Bram/ })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Done/ }).click()
  await expect(page.getByRole('link', { name: /Call Jules/ })).toHaveCount(0)
  await expect(page.getByText('Done: Call Jules about the seats. It is done')).toBeVisible({
    timeout: 60_000,
  })
})

test('twenty waiting messages and more are decided by keyboard alone, with a personal line and a take-back', async ({
  page,
}) => {
  // What to wear and the flight call wait for a person from now on.
  await visit(page, '/sequences')
  await page.getByRole('link', { name: /Before a morning flight/ }).click()
  const sentences = page.getByRole('region', { name: 'In sentences' })
  for (const left of [2, 1]) {
    await sentences.getByRole('button', { name: 'Approval: by itself' }).last().click()
    await page.getByRole('switch', { name: /approves it/ }).check({ force: true })
    await expect(sentences.getByRole('button', { name: 'Approval: by itself' })).toHaveCount(left)
  }
  await expect(page.getByText('· saved')).toBeVisible()
  await page.getByRole('button', { name: 'See what the changes do' }).click()
  const effect = page.getByRole('region', { name: 'Put the changes into effect' })
  await effect.getByRole('radio', { name: /running ones too/ }).check()
  await effect.getByRole('button', { name: /Put them into effect/ }).click()
  await expect(page.getByText('version 2').first()).toBeVisible()

  await visit(page, '/desk/decide')
  const list = page.getByRole('region', { name: 'Desk' })
  await expect(list.getByRole('listitem').nth(19)).toBeVisible()
  const before = await list.getByRole('listitem').count()

  // The first has the least time left; a line for this copy only stands in what the client will see.
  await list.getByRole('listitem').getByRole('link').first().focus()
  await page.keyboard.press('Enter')
  const message = page.getByRole('article')
  const client = (await list.getByRole('listitem').getByRole('link').first().locator('b').innerText()).trim()
  await expect(message).toHaveAccessibleName(`The flight call to ${client}`)
  await expect(message.getByText('last chance')).toBeVisible()
  await message.getByLabel(/A line for this copy only/).focus()
  await page.keyboard.type('Bring the blue hat, the wind is kind.')
  await expect(page.frameLocator('iframe').getByText('Bring the blue hat')).toBeVisible()
  await message.getByRole('heading', { level: 2 }).focus()
  await page.keyboard.press('a')
  await expect(page.getByText(`Approved: The flight call to ${client}.`)).toBeVisible()
  // On to the next, without being asked to.
  await expect(message).not.toHaveAccessibleName(`The flight call to ${client}`)
  await expect(list.getByRole('listitem')).toHaveCount(before - 1)

  // The next one is skipped, and taken back before that becomes real.
  const second = await message.getAttribute('aria-label')
  await page.keyboard.press('k')
  await expect(page.getByText(`Skipped: ${second ?? ''}.`)).toBeVisible()
  await page.getByRole('button', { name: 'Take back' }).last().focus()
  await page.keyboard.press('Enter')
  await expect(list.getByRole('listitem')).toHaveCount(before - 1)

  // The others, one key each; what is typed in a field decides nothing.
  await list.getByRole('listitem').getByRole('link').first().focus()
  await page.keyboard.press('Enter')
  for (let left = before - 1; left > 0; left -= 1) {
    await expect(message).toBeVisible()
    await message.getByRole('heading', { level: 2 }).focus()
    await page.keyboard.press('a')
    await expect(list.getByRole('listitem')).toHaveCount(left - 1)
  }
  await expect(page.getByText('Nothing waits for you.')).toBeVisible()

  // It went with the line, and only that copy has it.
  await expect(page.getByRole('button', { name: 'Take back' })).toHaveCount(0, { timeout: 80_000 })
  await expect(page.getByText(/It is done and can no longer be taken back/)).toBeVisible()
  await moveClockTo(page, 'Thu 14 May 2026', '19:00', '19:00')
  await visit(page, '/desk/went-out')
  await page
    .getByRole('link', { name: new RegExp(client) })
    .filter({ hasText: 'The flight call' })
    .first()
    .click()
  await page.getByText(/The message as it went/).click()
  await expect(page.getByText('Bring the blue hat, the wind is kind.')).toBeVisible()
  await visit(page, '/letters')
  await page.getByLabel('Search names and words').fill('blue hat')
  await expect(page.getByText('No letter has these words.')).toBeVisible()
})
