import AxeBuilder from '@axe-core/playwright'
import { expect, test, visit } from './demo.ts'

test('somebody of the team signs with lines and a picture, is away with a stand-in, and leaves', async ({
  page,
}) => {
  await visit(page, '/set-up/person/pe_maren')
  await page.getByRole('textbox', { name: 'Signature' }).fill('Ground crew')
  const picture = page.getByLabel('Picture beside the signature')
  await picture.setInputFiles({ name: 'notes.png', mimeType: 'image/png', buffer: Buffer.from('no picture') })
  await expect(page.getByText('notes.png is no picture that can be read.')).toBeVisible()
  await picture.setInputFiles('docs/screenshots/desk.png')
  await expect(page.getByAltText('The picture beside the signature')).toBeVisible()
  await page.getByRole('button', { name: 'Add a time away' }).click()
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await expect(page.getByText('Say it here.')).toHaveCount(2)
  const typeDay = async (label: string, day: string) => {
    await page.getByLabel(label).fill(day)
    // Whoever comes to a day sees its calendar.
    await page.getByRole('textbox', { name: 'Signature' }).focus()
    await expect(page.getByRole('table')).toHaveCount(0)
  }
  await typeDay('First day', '20 May 2026')
  await typeDay('Last day', '18 May 2026')
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await expect(page.getByText('It ends before it begins.')).toBeVisible()
  await typeDay('First day', '16 May 2026')
  const looks = await new AxeBuilder({ page }).analyze()
  expect(looks.violations).toEqual([])
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Maren Feldwisch' })).toContainText(
    'away Sat 16 May 2026 to Mon 18 May 2026, Ilse Thornquist stands in',
  )
  await visit(page, '/set-up/person/pe_maren')
  await page.getByRole('combobox', { name: 'Who takes over' }).click()
  await page.getByRole('option', { name: 'Bram Oakhollow' }).click()
  await page.getByRole('button', { name: 'Has left…' }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await visit(page, '/set-up/person/pe_maren')
  await expect(page.getByText('Maren Feldwisch has left; what was theirs is Bram Oakhollow’s.')).toBeVisible()
  await page.getByRole('button', { name: 'Is back…' }).click()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Maren Feldwisch' })).toBeVisible()
})
