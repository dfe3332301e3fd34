import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { accessible } from './accessible.ts'
import { expect, test, visit } from './demo.ts'

const views: readonly (readonly [string, string, (page: Page) => Promise<unknown>])[] = [
  ['Desk', '/desk/trouble', (page) => page.getByRole('link', { name: /Milena/ }).click()],
  [
    'Desk, deciding',
    '/desk/decide',
    (page) =>
      page
        .getByRole('link', { name: /What to wear/ })
        .first()
        .click(),
  ],
  [
    'Ahead',
    '/ahead',
    (page) =>
      page
        .getByRole('button', { name: /why then/ })
        .first()
        .click(),
  ],
  [
    'a week being rearranged',
    '/bookings/week',
    async (page) => {
      await page.getByRole('checkbox', { name: 'Choose all of Fri 15 May' }).check()
      await page.getByRole('button', { name: 'Cancel…' }).click()
      await page.getByRole('region', { name: 'What it will do' }).getByRole('listitem').first().waitFor()
    },
  ],
  ['Bookings', '/bookings/new', (page) => page.getByRole('heading', { name: 'New booking' }).waitFor()],
  [
    'a booking',
    '/bookings',
    (page) =>
      page
        .getByRole('link', { name: /Oona Siltanen/ })
        .first()
        .click(),
  ],
  ['Pipeline', '/pipeline?open=new', (page) => page.getByLabel('What for').waitFor()],
  ['Clients', '/clients/new', (page) => page.getByRole('heading', { name: 'Add a client' }).waitFor()],
  ['a client', '/clients', (page) => page.getByRole('link', { name: /Familie Abendroth/ }).click()],
  [
    'a booking being moved',
    '/bookings',
    async (page) => {
      await page
        .getByRole('link', { name: /Oona Siltanen/ })
        .first()
        .click()
      await page.getByRole('button', { name: 'Move…' }).click()
      await page.getByRole('region', { name: 'What it will do' }).waitFor()
    },
  ],
  ['Sequences', '/sequences', (page) => page.getByRole('link', { name: /After the landing/ }).waitFor()],
  [
    'a sequence',
    '/sequences',
    async (page) => {
      await page.getByRole('link', { name: /An offer for a private basket/ }).click()
      await page.getByText('It begins').waitFor()
      await page
        .getByRole('button', { name: /^When:/ })
        .nth(1)
        .click()
    },
  ],
  [
    'a condition',
    '/sequences',
    async (page) => {
      await page.getByRole('link', { name: /After the landing/ }).click()
      await page
        .getByRole('button', { name: /^Only if:/ })
        .last()
        .click()
      await page.getByRole('button', { name: 'See what' }).first().waitFor({ state: 'detached' })
    },
  ],
  [
    'going live',
    '/sequences',
    async (page) => {
      await page.getByRole('link', { name: /A voucher is given/ }).click()
      await page.getByRole('button', { name: 'See what going live does' }).click()
      await page.getByRole('checkbox', { name: /who stand already/ }).check()
      await page.getByText('For 3 clients').waitFor()
    },
  ],
  ['a month', '/ahead?view=month', (page) => page.getByText('to look at').first().waitFor()],
  [
    'why not',
    '/clients',
    async (page) => {
      await page.getByRole('link', { name: /Ottokar Quendel/ }).click()
      await page.getByRole('button', { name: 'Why not?' }).click()
      await page.getByRole('combobox', { name: 'Letter' }).click()
      await page.getByRole('option', { name: 'The flight call' }).click()
      await page.getByText('Then it comes').waitFor()
    },
  ],
  [
    'trouble',
    '/desk/trouble',
    async (page) => {
      await page.getByRole('link', { name: /Ruprecht/ }).click()
      await page.getByLabel('Correct the address').waitFor()
    },
  ],
  [
    'finding',
    '/desk/decide',
    async (page) => {
      await page.keyboard.press('Control+k')
      await page.getByPlaceholder('Name, address, date or section').fill('aben')
      await page.getByRole('button', { name: /Familie Abendroth.*client/ }).waitFor()
    },
  ],
  ['Services', '/set-up', (page) => page.getByRole('heading', { name: 'Sunrise flight' }).waitFor()],
  ['Letters', '/letters', (page) => page.getByRole('heading', { name: /Passages/ }).waitFor()],
  [
    'a letter',
    '/letters',
    async (page) => {
      await page.getByRole('link', { name: /What to wear/ }).click()
      await page.getByTitle('The message as the client gets it').waitFor()
    },
  ],
  ['a written mail', '/letters/from-mail', (page) => page.getByLabel('Text of the mail').fill('Hello')],
  ['how messages go out', '/set-up/mail', (page) => page.getByLabel('Web address').waitFor()],
  ['safety', '/set-up/safety', (page) => page.getByText('Type an address, then Enter.').waitFor()],
  ['other programs', '/set-up/programs', (page) => page.getByRole('heading', { name: 'Keys' }).waitFor()],
  [
    'the business',
    '/set-up/business',
    (page) => page.getByRole('group', { name: 'Sending hours' }).waitFor(),
  ],
  [
    'a service',
    '/set-up/service/sv_groundschool',
    (page) => page.getByRole('group', { name: 'Bookable hours' }).waitFor(),
  ],
  [
    'a service with departures',
    '/set-up/service/sv_sunrise',
    (page) => page.getByRole('button', { name: 'Add a departure' }).waitFor(),
  ],
  [
    'a status',
    '/set-up/status/os_watch',
    (page) => page.getByText(/Dates that have passed before/).waitFor(),
  ],
  [
    'somebody of the team',
    '/set-up/person/pe_bram',
    async (page) => {
      await page
        .getByRole('switch', { name: 'Can be booked only at hours of their own' })
        .check({ force: true })
      await page.getByRole('group', { name: 'Hours' }).waitFor()
    },
  ],
  [
    'a calendar that is brought in',
    '/bookings/bring-in',
    async (page) => {
      const entry = 'BEGIN:VEVENT\r\nUID:a\r\nDTSTART:20260601T100000Z\r\nSUMMARY:Wilma\r\nEND:VEVENT\r\n'
      const text = `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${entry}END:VCALENDAR\r\n`
      await page
        .getByLabel('Calendar or table')
        .setInputFiles({ name: 'a.ics', mimeType: 'text/calendar', buffer: Buffer.from(text) })
      await page.getByRole('checkbox', { name: 'Bring in Wilma' }).waitFor()
    },
  ],
  [
    'a mailbox',
    '/mailbox/oona%40siltanen.example',
    (page) => page.getByRole('tab', { name: 'Source' }).waitFor(),
  ],
]

const everything = (axe: AxeBuilder) => axe.withTags([...accessible])
/** Light and dark differ in their colours alone. */
const colours = (axe: AxeBuilder) => axe.withRules(['color-contrast'])

async function seriousFaults(page: Page, rules: typeof everything): Promise<string[]> {
  const { violations } = await rules(new AxeBuilder({ page })).exclude('iframe').analyze()
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .map(({ id, nodes }) => `${id}: ${nodes.map(({ html }) => html).join(' | ')}`)
}

for (const [name, path, show] of views) {
  test(`${name} has no serious fault, light and dark`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' })
    await visit(page, path)
    await show(page)
    await page.waitForTimeout(400)
    expect(await seriousFaults(page, everything)).toEqual([])
    await page.emulateMedia({ colorScheme: 'dark', reducedMotion: 'reduce' })
    await expect(page.locator('html')).toHaveAttribute('data-mantine-color-scheme', 'dark')
    await page.waitForTimeout(200)
    expect(await seriousFaults(page, colours)).toEqual([])
  })
}

test('the keyboard alone makes a booking and moves the clock', async ({ page }) => {
  await visit(page, '/bookings')
  await page.getByRole('button', { name: 'New booking' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('combobox', { name: 'Client' }).focus()
  await page.keyboard.type('Theodora')
  await expect(page.getByRole('option', { name: /Theodora/ })).toBeVisible()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Enter')
  await page.keyboard.press('Tab')
  await page.keyboard.press('Tab')
  await expect(page.getByLabel('Date')).toBeFocused()
  await page.keyboard.type('Sun 21 Jun 2026')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Tab')
  await expect(page.getByLabel('Start: hours')).toBeFocused()
  await page.keyboard.type('1930')
  await page.getByRole('button', { name: 'Make the booking' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: /Theodora Nightingall/ })).toBeVisible()
  await page.getByRole('button', { name: 'Demo clock, move it' }).focus()
  await page.keyboard.press('Enter')
  await page.getByRole('button', { name: /To the next message/ }).focus()
  await page.keyboard.press('Enter')
  // The deposit is asked for once messages of that kind go.
  await expect(page.getByRole('button', { name: 'Demo clock, move it' })).toContainText('08:00')
})

test('the content can be reached past the frame', async ({ page }) => {
  await visit(page, '/clients')
  await page.getByRole('heading', { name: 'Clients' }).waitFor()
  await page.keyboard.press('Tab')
  await expect(page.getByRole('link', { name: 'To the content' })).toBeFocused()
})

test('390 px is enough for the Desk and a booking', async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 800 })
  const fits = () => page.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)
  await visit(page, '/desk/trouble')
  await page.getByRole('link', { name: /Milena/ }).click()
  await expect(page.getByRole('button', { name: 'Look it up in the sent mail' })).toBeVisible()
  expect(await fits()).toBe(true)
  await page.getByRole('link', { name: /back to the list/ }).click()
  await expect(page.getByRole('link', { name: /Ruprecht/ })).toBeVisible()
  await visit(page, '/bookings')
  await page
    .getByRole('link', { name: /Oona Siltanen/ })
    .first()
    .click()
  await expect(page.getByRole('button', { name: 'Move…' })).toBeVisible()
  expect(await fits()).toBe(true)
})
