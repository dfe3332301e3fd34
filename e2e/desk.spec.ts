import { expect, moveClockTo, test, visit } from './demo.ts'

test('a decision that comes too late says so, and nothing goes', async ({ page, context }) => {
  await visit(page, '/desk/decide')
  await page
    .getByRole('link', { name: /What to wear/ })
    .first()
    .click()
  const message = page.getByRole('article')
  await expect(message).toBeVisible()
  const other = await context.newPage()
  await other.goto(page.url())
  await other.getByRole('article').getByRole('button', { name: /Skip/ }).click()
  await page
    .getByRole('article')
    .getByRole('button', { name: /Approve/ })
    .click()
  await expect(page.getByRole('alert').filter({ hasText: 'by now' })).toBeVisible({ timeout: 20_000 })
})

test('waiting messages are decided by keyboard alone, with a personal line and a take-back', async ({
  page,
}) => {
  test.setTimeout(120_000)
  // Every flight call waits for a person from now on.
  await visit(page, '/sequences')
  await page.getByRole('link', { name: /Before a morning flight/ }).click()
  const sentences = page.getByRole('region', { name: 'In sentences' })
  await sentences.getByRole('button', { name: 'Approval: by itself' }).last().click()
  await page.getByRole('switch', { name: /approves it/ }).check({ force: true })
  await expect(page.getByText('· kept')).toBeVisible()
  await page.getByRole('button', { name: 'See what the changes do' }).click()
  const effect = page.getByRole('region', { name: 'Put the changes into effect' })
  await effect.getByRole('radio', { name: /running ones too/ }).check()
  await effect.getByRole('button', { name: /Put them into effect/ }).click()
  await expect(page.getByText('version 2').first()).toBeVisible()

  await visit(page, '/desk/decide')
  const list = page.getByRole('region', { name: 'Desk' }).getByRole('list')
  await expect(list.getByRole('listitem').nth(8)).toBeVisible()
  const before = await list.getByRole('listitem').count()

  // The first has the least time left; a line for this copy only stands in what the client will see.
  await list.getByRole('link').first().focus()
  await page.keyboard.press('Enter')
  const message = page.getByRole('article')
  const client = (await list.getByRole('link').first().locator('b').innerText()).trim()
  await expect(message).toHaveAccessibleName(`The flight call to ${client}`)
  await expect(message.getByText('last chance')).toBeVisible()
  await message.getByLabel(/A line for this copy only/).focus()
  await page.keyboard.type('Bring the blue hat, the wind is kind.')
  await expect(page.frameLocator('iframe').getByText('Bring the blue hat')).toBeVisible()
  await message.getByRole('heading').focus()
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
  await list.getByRole('link').first().focus()
  await page.keyboard.press('Enter')
  for (let left = before - 1; left > 0; left -= 1) {
    await expect(message).toBeVisible()
    await message.getByRole('heading').focus()
    await page.keyboard.press('a')
    await expect(list.getByRole('listitem')).toHaveCount(left - 1)
  }
  await expect(page.getByText('Nothing waits for you.')).toBeVisible()

  // It went with the line, and only that copy has it.
  await expect(page.getByRole('button', { name: 'Take back' })).toHaveCount(0, { timeout: 20_000 })
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
