import { AxeBuilder } from '@axe-core/playwright'
import { accessible } from './accessible.ts'
import { expect, test, visit } from './demo.ts'

test('a sequence is to ask first once its client answers: it does, with the reason, until it may go on', async ({
  page,
}) => {
  await visit(page, '/sequence/sq_landed')
  await page.getByRole('button', { name: /^Stops when/ }).click()
  const rules = page.getByRole('group', { name: 'What stops it' })
  await rules.getByRole('button', { name: 'Add a stop rule' }).click()
  await rules.getByRole('combobox', { name: 'then' }).last().click()
  await page.getByRole('option', { name: 'each message asks first' }).click()
  await expect(
    page.getByRole('button', { name: /each message asks first once the client answers$/ }),
  ).toBeVisible()
  await page.getByRole('button', { name: 'See what the changes do' }).click()
  await page.getByRole('radio', { name: /running ones too/ }).click()
  await page.getByRole('button', { name: 'Put them into effect' }).click()
  await expect(page.getByText(/version 2/)).toBeVisible()

  await visit(page, `/mailbox/${encodeURIComponent('imogen@kestrelwood.example')}`)
  await page.getByText('Be this client:').click()
  await page.getByLabel('What they write').fill('We are still thinking about it.')
  await page.getByRole('button', { name: 'Send', exact: true }).click()
  await expect(page.getByText('✓ It came in')).toBeVisible()

  await visit(page, '/desk/decide')
  const mail = page.getByRole('article', { name: 'Mail from imogen@kestrelwood.example' })
  await expect(mail.getByText('“After the landing” waits for a person')).toBeVisible()
  await mail.getByRole('link', { name: 'Imogen Kestrelwood' }).click()
  await expect(page.getByText('asks before each message: The client answered.').first()).toBeVisible()
  const { violations } = await new AxeBuilder({ page }).withTags([...accessible]).analyze()
  expect(violations).toEqual([])
  await page.getByRole('button', { name: 'Let it go on…' }).first().click()
  await page.getByRole('button', { name: 'Let it go on', exact: true }).click()
  await expect(page.getByText('asks before each message: The client answered.')).toHaveCount(0)
})
