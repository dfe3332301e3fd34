import { expect, moveClockTo, test, typeTime, visit } from './demo.ts'
import { choose, closePart, kept, sentences } from './designing.ts'

test('running ones are changed over only after it was seen what that does', async ({ page }) => {
  await visit(page, '/sequences')
  await page.getByRole('link', { name: /Before an evening with us/ }).click()
  await sentences(page)
    .getByRole('button', { name: /^When: 1 day before/ })
    .click()
  await typeTime(page, 'At', '17:00')
  await closePart(page)
  await kept(page)
  await page.getByRole('button', { name: 'See what the changes do' }).click()
  const effect = page.getByRole('region', { name: 'Put the changes into effect' })
  await expect(effect.getByText(/No message that is planned now/)).toBeVisible({ timeout: 60_000 })
  await effect.getByRole('radio', { name: /running ones too/ }).check()
  await expect(effect.getByText(/moves: The flight call/)).toBeVisible({ timeout: 60_000 })
  const [line] = await effect
    .getByRole('list', { name: 'Message by message' })
    .getByRole('listitem')
    .allInnerTexts()
  await effect.getByRole('button', { name: /Put them into effect for/ }).click()
  await expect(page.getByText('version 2').first()).toBeVisible()
  const announced = /[A-Z][a-z]{2} \d+ [A-Z][a-z]{2}, 17:00/.exec(line ?? '')?.[0] ?? 'nothing'
  await visit(page, '/ahead')
  await expect(page.getByText('17:00').first()).toBeVisible()
  expect(announced).toContain('17:00')
})

test('paused, nothing goes; going on, what was missed is listed', async ({ page }) => {
  await visit(page, '/sequences')
  await page.getByRole('link', { name: /Before a morning flight/ }).click()
  await page.getByRole('button', { name: 'Pause…' }).click()
  await page.getByRole('region', { name: 'Pause it' }).getByRole('button', { name: 'Pause it' }).click()
  await expect(page.getByText('‖ paused').first()).toBeVisible()
  const url = page.url()
  await moveClockTo(page, 'Fri 5 Jun 2026', '20:00', 'Fri 5 Jun')
  await page.goto(url)
  await page.getByRole('button', { name: 'Let it go on…' }).click()
  const question = page.getByRole('region', { name: 'Let it go on' })
  await expect(question.getByText(/fell due meanwhile and will not go by themselves/)).toBeVisible()
  await question.getByRole('button', { name: 'Let it go on', exact: true }).click()
  await expect(page.getByText('● live').first()).toBeVisible()
  await visit(page, '/desk/trouble')
  await expect(page.getByText('missed').first()).toBeVisible()
})

test('one client is held back, and what differs for them stands in the sequence', async ({ page }) => {
  await visit(page, '/clients')
  await page
    .getByRole('link', { name: /Abendroth/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'Hold everything back…' }).click()
  await expect(page.getByText(/None of them goes until you lift this/)).toBeVisible()
  await page.getByRole('button', { name: 'Hold everything back', exact: true }).click()
  await expect(page.getByText('Everything to this client is held back.').first()).toBeVisible()
  await page.getByRole('button', { name: 'Let messages go again…' }).click()
  await page.getByRole('button', { name: 'Let messages go again', exact: true }).click()
  await expect(page.getByRole('button', { name: 'Hold everything back…' })).toBeVisible()

  await page.getByRole('button', { name: 'Change a step for this client' }).click()
  await choose(page, 'Sequence', 'Before a morning flight')
  await choose(page, 'Step', /The flight call/)
  await choose(page, 'Approval', 'after approval')
  await page.getByRole('button', { name: 'Let it differ' }).click()
  await expect(page.getByText('after approval').first()).toBeVisible()
  await page.getByRole('link', { name: 'Before a morning flight' }).last().click()
  await expect(sentences(page).getByText(/differs for .*Abendroth/)).toBeVisible()
})

test('a sequence goes out as a file and comes back in; a file that is none is refused with a sentence', async ({
  page,
}) => {
  await visit(page, '/sequences')
  await page.getByRole('link', { name: /A flight is cancelled/ }).click()
  await page.getByRole('button', { name: 'More ▾' }).click()
  const saving = page.waitForEvent('download')
  await page.getByRole('menuitem', { name: 'Save it as a file' }).click()
  const path = await (await saving).path()
  await visit(page, '/sequences')
  await page.getByLabel('Sequence file').setInputFiles(path)
  await expect(page.getByLabel('Name of the sequence')).toHaveValue('A flight is cancelled')
  await expect(page.getByText('draft').first()).toBeVisible()
  await visit(page, '/sequences')
  const text = Buffer.from('{"format":"something else"}')
  await page
    .getByLabel('Sequence file')
    .setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: text })
  await expect(page.getByRole('alert')).toContainText('This is no sequence of Vorfreude')
})

test('moving a booking holds single messages back where somebody wants to see them first', async ({
  page,
}) => {
  await visit(page, '/bookings')
  await page
    .getByRole('link', { name: /Evening flight.*confirmed/ })
    .last()
    .click()
  await page.getByRole('button', { name: 'Move…' }).click()
  await page.getByLabel('Date').fill('Wed 15 Jul 2026')
  await page.getByLabel('Date').press('Tab')
  const consequences = page.getByRole('region', { name: 'What it will do' })
  await consequences.getByRole('checkbox', { name: 'Hold back The flight call' }).check()
  await expect(page.getByText('until now')).toBeVisible()
  await page.getByRole('button', { name: 'Move it', exact: true }).click()
  await expect(
    page.getByRole('button', { name: /Tue 14 Jul, .* The flight call .*waits for you/ }),
  ).toBeVisible()
})
