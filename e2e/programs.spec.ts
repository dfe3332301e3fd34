import AxeBuilder from '@axe-core/playwright'
import { expect, test, visit } from './demo.ts'

test('a key is made, lets another program in, and is taken back; what it can ask is read without a network', async ({
  page,
  playwright,
}) => {
  await visit(page, '/set-up')
  await page.getByRole('link', { name: 'Other programs' }).click()
  await page.getByRole('button', { name: 'New key' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: 'Make the key' })).toBeDisabled()
  await page.getByLabel('What it is for').fill('The board in the hall')
  const form = await new AxeBuilder({ page }).analyze()
  expect(form.violations).toEqual([])
  await page.keyboard.press('Enter')
  const shown = page.getByText(/^vorfreude_[\w-]{43}$/)
  const key = (await shown.textContent()) ?? ''
  const program = await playwright.request.newContext({
    baseURL: new URL('/', page.url()).href,
    extraHTTPHeaders: { Authorization: `Bearer ${key}` },
  })
  expect((await program.get('api/clients')).status()).toBe(200)
  const refused = await program.post('api/sending', { data: { commandId: 'abcdefgh', isOn: false } })
  expect(await refused.json()).toMatchObject({
    detail: 'The key “The board in the hall” does not reach that far: looks only.',
  })
  await page.getByRole('button', { name: 'I have it' }).click()
  await expect(shown).toHaveCount(0)
  await page.getByRole('button', { name: 'Take back The board in the hall' }).click()
  await page.getByRole('button', { name: 'Take it back now' }).click()
  await expect(page.getByText('The board in the hall')).toHaveCount(0)
  expect((await program.get('api/clients')).status()).toBe(401)
  await program.dispose()
  await page.getByRole('button', { name: 'Show what calls are signed with…' }).click()
  await page.getByRole('button', { name: 'Show it' }).click()
  await expect(page.getByText('What calls are signed with', { exact: true })).toBeVisible()
  await page.getByRole('link', { name: 'What they can ask' }).click()
  await page.getByLabel('Find in the description').fill('/api/keys')
  await page.getByText('Make a key for another program; it is told this once').click()
  await expect(page.getByText('No key is needed, or none is enough.')).toBeVisible()
  const description = await new AxeBuilder({ page }).analyze()
  expect(description.violations).toEqual([])
})
