import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Browser, type Page } from '@playwright/test'
import { Secret, TOTP } from 'otpauth'
import type { DemoServer } from './demoServer.ts'
import { owner, signIn as signInTo, startKiteworks } from './kiteworks.ts'

const chosen = 'three herons over reeds'

let server: DemoServer
test.beforeAll(async ({ playwright }) => {
  server = await startKiteworks(playwright.request)
})
test.afterAll(() => server.stop())

const signIn = (page: Page, email: string, password: string) => signInTo(page, server, { email, password })
async function expectAccessible(page: Page) {
  const { violations } = await new AxeBuilder({ page }).analyze()
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([])
}
const isIn = (page: Page) => expect(page.getByRole('navigation', { name: 'Time ribbon' })).toBeVisible()

async function aPerson(browser: Browser): Promise<Page> {
  return await (await browser.newContext()).newPage()
}

test('somebody is invited who only looks: comes in once by the link, sees everything and changes nothing', async ({
  page,
  browser,
}) => {
  await signIn(page, owner.email, owner.password)
  await page.getByRole('link', { name: 'Set-up' }).click()
  await page.getByRole('link', { name: 'New person' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Uma Sandlark')
  await page.getByLabel('E-mail').fill('uma@kiteworks.example')
  await page.getByRole('combobox', { name: 'Role' }).click()
  await page.getByRole('option', { name: /looks only/ }).click()
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await page.getByRole('button', { name: 'Save' }).click()
  await page.getByRole('link', { name: 'Edit Uma Sandlark' }).click()
  await expect(page.getByText('Uma Sandlark has no password yet and cannot sign in.')).toBeVisible()
  await page.getByRole('button', { name: 'Invite' }).click()
  await expect(page.getByText('An invitation is on its way, good until')).toBeVisible()
  await expectAccessible(page)
  const link = await page.getByText(/\/come-in#/).innerText()

  const uma = await aPerson(browser)
  await uma.goto(link)
  await expect(uma.getByRole('heading', { name: 'Come in: Kiteworks' })).toBeVisible()
  await expectAccessible(uma)
  await uma.getByRole('textbox', { name: 'Password' }).fill('Uma-Sandlark')
  await uma.getByRole('button', { name: 'Come in' }).click()
  await expect(uma.getByText('This is made of your name, address or business')).toHaveCount(1)
  await uma.getByRole('textbox', { name: 'Password' }).fill(chosen)
  await uma.keyboard.press('Enter')
  await isIn(uma)
  await expect(uma.getByText('You look only: everything is here to be read')).toBeVisible()
  await uma.getByRole('link', { name: 'Bookings' }).click()
  await expect(uma.getByRole('heading', { name: 'Bookings' })).toBeVisible()
  await expect(uma.getByRole('button', { name: 'New booking' })).toBeHidden()
  await uma.getByRole('link', { name: 'Sequences' }).click()
  await uma.getByRole('link', { name: /Confirmation and reminder/ }).click()
  // The list before it has a heading, too: what is looked at has to be there.
  await expect(uma.getByLabel('Name of the sequence')).toBeVisible()
  await expect(uma.getByRole('button', { name: 'Pause…' })).toBeHidden()
  await expectAccessible(uma)

  const again = await aPerson(browser)
  await again.goto(link)
  await expect(again.getByRole('heading', { name: 'This link does not let you in' })).toBeVisible()
  await expect(again.getByText('This link has been used already.')).toBeVisible()

  // Raised in the same hour: what was left out is there with the next page.
  await page.getByRole('combobox', { name: 'Role' }).click()
  await page.getByRole('option', { name: /helper/ }).click()
  await page.getByRole('button', { name: 'See what saving it does' }).click()
  await page.getByRole('button', { name: 'Save' }).click()
  await uma.goto(`${server.url}bookings`)
  await expect(uma.getByRole('button', { name: 'New booking' })).toBeVisible()
})

test('a code besides the password: set up, asked for, and a recovery word where the telephone is lost', async ({
  page,
  browser,
}) => {
  await signIn(page, owner.email, owner.password)
  await isIn(page)
  await page.goto(`${server.url}set-up`)
  await page.getByLabel('Your password').fill('not this one')
  await page.getByRole('button', { name: 'Set a code up…' }).click()
  await expect(page.getByText('This is not the present password.').first()).toBeVisible()
  await page.getByLabel('Your password').fill(owner.password)
  await page.keyboard.press('Enter')
  const letters = await page.getByText(/^[A-Z2-7]{32}$/).innerText()
  const generator = new TOTP({ secret: Secret.fromBase32(letters) })
  await page.getByLabel('Code it shows now').fill('12 34')
  await page.getByRole('button', { name: 'Ask for a code from now on' }).click()
  await expect(page.getByText('This is not the code that is shown now.').first()).toBeVisible()
  await expectAccessible(page)
  await page.getByLabel('Code it shows now').fill(generator.generate())
  await page.keyboard.press('Enter')
  await expect(page.getByText('They are shown this once.')).toBeVisible()
  const words = (await page.getByText(/^([a-z2-9]{5}-[a-z2-9]{5}\s*){10}$/).innerText()).split(/\s+/)
  await page.getByRole('button', { name: 'I have kept them' }).click()
  await expect(page.getByText('10 recovery words are left.')).toBeVisible()

  const elsewhere = await aPerson(browser)
  await signIn(elsewhere, owner.email, owner.password)
  await expect(elsewhere.getByText('Type the code that your authenticator shows now.')).toBeVisible()
  await expectAccessible(elsewhere)
  await elsewhere.getByLabel('Code').fill('000000')
  await elsewhere.keyboard.press('Enter')
  await expect(elsewhere.getByText('This code does not fit.').first()).toBeVisible()
  await elsewhere.getByLabel('Code').fill(words[0] ?? '')
  await elsewhere.keyboard.press('Enter')
  await isIn(elsewhere)
})

test('a forgotten password: a link is asked for, and the answer tells nobody whose address is known', async ({
  page,
}) => {
  await page.goto(server.url)
  await page.getByRole('button', { name: 'I have forgotten my password' }).click()
  await page.getByLabel('E-mail address').fill('nobody@kiteworks.example')
  await page.getByRole('button', { name: 'Send the link' }).click()
  await expect(page.getByText('If somebody of the team has this address')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Back to signing in' }).click()
  await expect(page.getByRole('button', { name: 'Sign in' })).toBeVisible()
})
