import AxeBuilder from '@axe-core/playwright'
import { expect, test, visit } from './demo.ts'

test('two entries of one client become one and two again, by keys alone where there is a press', async ({
  page,
}) => {
  await visit(page, '/clients')
  await page.getByLabel('Find by name, address or tag').fill('siltanen')
  await page.getByRole('link', { name: /Oona Siltanen/ }).click()
  const stays = page.url()
  await page.getByRole('link', { name: 'Merge with another client…' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'The other entry' }).fill('siltanen')
  await page.getByRole('option', { name: 'Oona Siltanen' }).click()
  await expect(page.getByText('This is the same entry: choose the other one.')).toBeVisible()
  await page.getByRole('combobox', { name: 'The other entry' }).fill('kronenbergh')
  await page.getByRole('option', { name: 'Adalbert Kronenbergh' }).click()
  await expect(page.getByText('What it will do')).toBeVisible()
  const looks = await new AxeBuilder({ page }).exclude('iframe').analyze()
  expect(looks.violations).toEqual([])
  await expect(page.getByRole('button', { name: 'Merge the two' })).toBeEnabled()
  await page.getByRole('button', { name: 'Merge the two' }).dblclick()
  await expect(page.getByRole('heading', { name: 'Merged with' })).toBeVisible()
  expect(page.url()).toBe(stays)
  await expect(page.getByText('Adalbert Kronenbergh is the same client: the two were merged.')).toBeVisible()
  await visit(page, '/clients')
  await page.getByLabel('Find by name, address or tag').fill('kronenbergh')
  // Found by the address that came along.
  await expect(page.getByRole('link', { name: /Oona Siltanen/ })).toBeVisible()
  await page.getByRole('link', { name: /Oona Siltanen/ }).click()
  await page.getByRole('button', { name: 'Take apart…' }).click()
  await page.getByRole('button', { name: 'Take the two apart' }).click()
  await expect(page.getByRole('heading', { name: 'Adalbert Kronenbergh' })).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Merged with' })).toHaveCount(0)
})
