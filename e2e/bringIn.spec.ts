import AxeBuilder from '@axe-core/playwright'
import { expect, test, visit } from './demo.ts'

const table = [
  'Vorname;Nachname;E-Mail;Telefon;Geburtsdatum;Gruppen;Schuhgröße',
  'Jürgen;Großmann;juergen@grossmann.example;0170 5550101;04.05.1980;Stammgast;44',
  'Oona;Siltanen;oona@siltanen.example;;;Presse;',
  'Lutz;Ohnesorg;lutz at ohnesorg;;31.02.1990;;',
  'Marit;Tveit;marit@tveit.example;;;Stammgast, Presse;38',
].join('\r\n')

test('a table of clients is matched, looked at line by line, brought in and taken back', async ({ page }) => {
  await visit(page, '/clients')
  await page.getByRole('link', { name: 'Bring in a table or cards' }).click()
  const choose = (name: string, text: string) =>
    page
      .getByLabel('Table or cards')
      .setInputFiles({ name, mimeType: 'text/csv', buffer: Buffer.from(text, 'latin1') })
  await choose('leer.csv', ' ')
  await expect(page.getByText('The file is empty.')).toBeVisible()
  await choose('kunden.csv', table)
  await expect(page.getByText('4 rows, written in Windows-1252.')).toBeVisible()
  await expect(page.getByRole('combobox', { name: 'Geburtsdatum is' })).toHaveValue('Birthday')
  await expect(page.getByRole('combobox', { name: 'Schuhgröße is' })).toHaveValue('left out')
  const columns = await new AxeBuilder({ page }).exclude('iframe').analyze()
  expect(columns.violations).toEqual([])
  await page.getByRole('button', { name: 'See what would come in' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('region', { name: 'Not possible' })).toContainText(
    'line 4E-mail address: “lutz at ohnesorg” is not an e-mail address.',
  )
  await expect(page.getByRole('region', { name: 'There already' })).toContainText(
    'Oona Siltanen has the address of Oona Siltanen',
  )
  await expect(page.getByRole('region', { name: 'New' }).getByRole('listitem')).toHaveCount(2)
  const look = await new AxeBuilder({ page }).exclude('iframe').analyze()
  expect(look.violations).toEqual([])
  await page.getByRole('combobox', { name: 'Line 3, Oona Siltanen' }).click()
  await page.getByRole('option', { name: 'fill in what they lack' }).click()
  await page.getByRole('button', { name: 'Bring them in' }).dblclick()
  await expect(page.getByText('2 clients came in, 1 took what they lacked.')).toBeVisible()
  await page.getByRole('link', { name: 'To the clients' }).click()
  await page.getByLabel('Find by name, address or tag').fill('großmann')
  await page.getByRole('link', { name: /Jürgen Großmann/ }).click()
  await expect(page.getByRole('heading', { name: /Jürgen Großmann/ })).toBeVisible()
  await visit(page, '/clients/bring-in')
  await page.getByRole('button', { name: 'Take back kunden.csv' }).click()
  await page.getByRole('button', { name: 'Take them back' }).click()
  await expect(page.getByText('taken back', { exact: true })).toBeVisible()
  await visit(page, '/clients')
  await page.getByLabel('Find by name, address or tag').fill('großmann')
  await expect(page.getByText('No client fits.')).toBeVisible()
})

test('what was done stands in the record of acts, with how it was before', async ({ page }) => {
  await visit(page, '/set-up')
  await page.getByRole('link', { name: 'Record of acts' }).click()
  await page.getByLabel('Find in the record').fill('kunden.csv')
  await expect(page.getByRole('listitem').first()).toContainText('Bring the clients of a table in')
  await page
    .getByRole('button', { name: /^What changed/ })
    .last()
    .click()
  await expect(
    page.getByRole('group', { name: 'What changed of the clients brought in' }).last(),
  ).toContainText('3 from kunden.csv')
  const { violations } = await new AxeBuilder({ page }).exclude('iframe').analyze()
  expect(violations).toEqual([])
  await page.getByLabel('Find in the record').fill('nothing like it')
  await expect(page.getByText('Nothing like this was done.')).toBeVisible()
})
