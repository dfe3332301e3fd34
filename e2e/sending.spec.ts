import { expect, moveClockTo, test, visit } from './demo.ts'

test('with sending held back nothing leaves; on again, what was missed is listed, not sent', async ({
  page,
}) => {
  await page.getByRole('button', { name: 'Sending on' }).click()
  await expect(page.getByText('Hold back all sending?')).toBeVisible()
  await page.getByRole('button', { name: 'Hold back all sending' }).click()
  await expect(page.getByRole('button', { name: 'Held back' })).toBeVisible()
  await moveClockTo(page, 'Fri 15 May 2026', '19:00', 'Fri 15 May')
  await visit(page, '/desk/went-out')
  await expect(page.getByText('Nothing has gone out today yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Held back' }).click()
  await expect(page.getByText(/messages fell due meanwhile/)).toBeVisible()
  await page.getByRole('button', { name: 'Switch sending on' }).click()
  await expect(page.getByText('Sending is held back.')).toBeHidden()
  await visit(page, '/desk/trouble')
  await page
    .getByRole('link', { name: /missed/ })
    .first()
    .click()
  await expect(page.getByText('It fell due while sending was held back.').first()).toBeVisible()
  await page.getByRole('button', { name: 'Send it now' }).click()
  await page.getByRole('link', { name: 'Went out 1' }).waitFor()
})
