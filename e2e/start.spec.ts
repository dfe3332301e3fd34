import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { accessible } from './accessible.ts'
import { startServer } from './demoServer.ts'

/** Nothing is wrong with a page for whoever cannot see or point well, in light and dark. */
async function isAccessible(page: Page) {
  for (const colorScheme of ['dark', 'light'] as const) {
    await page.emulateMedia({ colorScheme })
    const { violations } = await new AxeBuilder({ page }).withTags([...accessible]).analyze()
    expect(violations.map(({ id, nodes }) => [id, nodes[0]?.html])).toEqual([])
  }
}

test('a new business sets itself up, on the real clock, and what was left for later is found again', async ({
  page,
}) => {
  const server = await startServer('server/main')
  try {
    await page.goto(server.url)
    await page.getByRole('button', { name: 'Next' }).click()
    await expect(page.getByText('Give your name.')).toBeVisible()
    await isAccessible(page)
    await page.getByLabel('Word from the terminal').fill('not this one')
    await page.getByLabel('Your name').fill('Ada Windermeer')
    await page.getByLabel('Your e-mail address').fill('ada@kiteworks.example')
    await page.getByRole('textbox', { name: 'Password' }).fill('a long enough one')
    await page.getByRole('button', { name: 'Next' }).click()
    await page.getByRole('button', { name: 'Next' }).click()
    await expect(page.getByText('The business needs a name.')).toBeVisible()
    await page.getByLabel('Name', { exact: true }).fill('Kiteworks')
    await page.getByLabel('Messages come from (e-mail address)').fill('hello@kiteworks.example')
    await page.getByLabel('Postal address').fill('Dune Road 1, 00000 Sandby')
    await page.getByRole('button', { name: 'Next' }).click()
    // What is wrong on an earlier page leads back to it, and nothing typed is lost.
    await page.getByRole('button', { name: 'Leave it for later' }).click()
    await expect(page.getByText('This is not the word that stands in the terminal').first()).toBeVisible()
    await page.getByLabel('Word from the terminal').fill(server.word)
    await page.getByRole('button', { name: 'Next' }).click()
    await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Kiteworks')
    await page.getByRole('button', { name: 'Next' }).click()
    await page.getByRole('button', { name: 'Leave it for later' }).click()
    await expect(page.getByText('business time')).toBeVisible()
    // What was left for later is found again, and each page can be left.
    const steps = page.getByRole('navigation', { name: 'First steps' })
    await expect(steps.getByText('is missing')).toHaveCount(6)
    await steps.getByRole('link', { name: /A rehearsal to your own address/ }).click()
    await page.getByRole('button', { name: 'Send me the rehearsal' }).click()
    await expect(page.getByText('There is no service that could be booked yet.')).toBeVisible()
    await isAccessible(page)
    await steps.getByRole('link', { name: /A sequence that is live/ }).click()
    await expect(page.getByRole('button', { name: 'I have read it: publish it' })).toHaveCount(2)
    await isAccessible(page)
    await steps.getByRole('link', { name: /A service clients can book/ }).click()
    await page.getByLabel('Name', { exact: true }).fill('Kite lesson')
    await page.getByRole('button', { name: 'See what saving it does' }).click()
    await page.getByRole('button', { name: 'Save' }).click()
    await expect(page.getByRole('heading', { name: /A mail account to send through/ })).toBeVisible()
    await expect(steps.getByText('is missing')).toHaveCount(5)
    await page.getByRole('link', { name: 'Leave it for later' }).click()
    await page.getByRole('link', { name: 'Desk', exact: true }).click()
    await expect(page.getByRole('button', { name: /Demo clock/ })).toHaveCount(0)
    // On the real clock, too, what an act would do is asked once and its press stays at hand.
    const asked: string[] = []
    page.on('request', (request) => asked.push(`${request.method()} ${new URL(request.url()).pathname}`))
    await page.getByRole('button', { name: 'Sending on', exact: true }).click()
    const hold = page.getByRole('button', { name: 'Hold back all sending' })
    await expect(hold).toBeEnabled()
    await page.waitForTimeout(3000)
    // A minute may have gone by meanwhile, not more.
    expect(asked.filter((one) => one === 'POST /api/sending').length).toBeLessThanOrEqual(2)
    expect(asked.filter((one) => one === 'GET /api/overview').length).toBeLessThanOrEqual(2)
    await page.getByRole('button', { name: 'Keep it on' }).click()
    // The first view says what comes first.
    await expect(page.getByRole('heading', { name: 'Nothing is planned yet.' })).toBeVisible()
    await page.getByRole('link', { name: 'Clients', exact: true }).click()
    await expect(page.getByText('No clients yet.')).toBeVisible()
    // A letter to start from goes to nobody until it was read and published.
    await page.getByRole('link', { name: 'Letters' }).click()
    await page.getByRole('link', { name: /Thank you for asking.*not published yet/ }).click()
    await page.getByRole('button', { name: 'Publish…' }).click()
    await page.getByRole('button', { name: 'Publish', exact: true }).click()
    await expect(page.getByText('Not published yet: nobody gets this letter')).toHaveCount(0)
    await page.getByRole('button', { name: 'Ada' }).click()
    await page.getByRole('menuitem', { name: 'Sign out' }).click()
    await page.getByLabel('E-mail address').fill('ada@kiteworks.example')
    await page.getByRole('textbox', { name: 'Password' }).fill('not this one')
    await page.getByRole('textbox', { name: 'Password' }).press('Enter')
    await expect(page.getByText('This address and password do not fit together.')).toBeVisible()
    await page.getByRole('textbox', { name: 'Password' }).fill('a long enough one')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await expect(page.getByRole('navigation', { name: 'Time ribbon' })).toBeVisible()
  } finally {
    await server.stop()
  }
})
