import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { chromiumLaunch } from './chromium.ts'
import { startServer } from './demoServer.ts'

/*
 * Takes the pictures of docs/screenshots from the demo data: `./run pictures [FOLDER] [NAME …]`.
 */

const [folder = 'docs/screenshots', ...only] = process.argv.slice(2)

async function openFirst(page: Page, path: string, text: string) {
  await page.goto(path)
  await page
    .getByRole('link', { name: new RegExp(text) })
    .first()
    .click()
  await page.getByRole('heading', { level: 1 }).waitFor()
}

interface Picture {
  readonly name: string
  readonly isDark?: boolean
  readonly show: (page: Page) => Promise<unknown>
}

const bookingOf = (name: string) => async (page: Page) => {
  await openFirst(page, '/bookings', name)
  await page.getByText('why then?').first().waitFor()
}

async function clientPage(page: Page) {
  await page.goto('/mailbox/leonie%40abendroth.example')
  await page
    .getByRole('link', { name: /Private basket: .*25 May 2026/ })
    .first()
    .click()
  const frame = page.frameLocator('iframe')
  const link = await frame.getByRole('link', { name: 'See or cancel the booking' }).getAttribute('href')
  await page.goto(new URL(link ?? '').pathname)
}

const freeTimes = (page: Page) => page.goto('/book/sv_sunrise?people=2&day=2026-05-23')

async function ownDetails(page: Page) {
  await freeTimes(page)
  await page.locator('ul.times').getByRole('link').first().click()
  await page.getByLabel('First name').fill('Ottilie')
}

const asks = (page: Page) => page.goto('/ask/fm_charter')

/** The document that a made-up client was sent, signed or not. */
const toSign = (address: string) => async (page: Page) => {
  await page.goto(`/mailbox/${encodeURIComponent(address)}`)
  await page
    .getByRole('link', { name: /Your charter: the agreement/ })
    .first()
    .click()
  const link = page.frameLocator('iframe').getByRole('link', { name: 'Read it and sign' })
  await page.goto(new URL((await link.getAttribute('href')) ?? '').pathname)
}

/** Pages of a client, each as a telephone shows it, beside each other. */
async function sideBySide(page: Page, shows: readonly ((phone: Page) => Promise<unknown>)[]) {
  const shots: string[] = []
  for (const show of shows) {
    await page.setViewportSize({ width: 390, height: 800 })
    await show(page)
    shots.push((await page.screenshot()).toString('base64'))
  }
  await page.setViewportSize({ width: 1280, height: 800 })
  // What pages of clients may load does not hold for this one.
  await page.goto('about:blank')
  const images = shots.map((shot) => `<img src="data:image/png;base64,${shot}" width="390" height="800">`)
  await page.setContent(
    `<body style="margin:0;display:flex;justify-content:space-between;background:#B9B0CB">${images.join('')}</body>`,
  )
}

async function sequencePage(page: Page, name: string) {
  await page.goto('/sequences')
  await page.getByRole('link', { name: new RegExp(name) }).click()
  await page.getByText('It begins').waitFor()
}

/** With the days of a step open, which its sentence and its pin name. */
async function sequenceWithDays(page: Page) {
  await sequencePage(page, 'Before a morning flight')
  await page.getByRole('button', { name: /^Stops when/ }).click()
  await page.getByRole('button', { name: 'Add a stop rule' }).click()
  await page.getByRole('combobox', { name: 'then' }).last().click()
  await page.getByRole('option', { name: 'each message asks first' }).click()
  await page.getByRole('button', { name: 'Done', exact: true }).click()
  await page.getByRole('button', { name: 'More about step 2' }).click()
  await page.getByRole('button', { name: 'Days: on any day' }).click()
  await page.getByRole('combobox', { name: 'Days', exact: true }).click()
  await page.getByRole('option', { name: 'only on certain weekdays' }).click()
  await page.getByText('· saved').waitFor()
}

const pictures: readonly Picture[] = [
  {
    name: 'going-live',
    show: async (page) => {
      await sequencePage(page, 'A voucher is given')
      await page.getByRole('button', { name: 'See what going live does' }).click()
      await page.getByRole('checkbox', { name: /who stand already/ }).check()
      await page.getByText('For 3 clients').waitFor()
    },
  },
  {
    name: 'desk',
    show: async (page) => {
      await page.goto('/desk/trouble')
      await page.getByRole('link', { name: /Milena/ }).click()
      await page.getByRole('button', { name: 'Look it up in the sent mail' }).click()
      await page.getByText('So it went').waitFor()
    },
  },
  {
    name: 'ahead',
    show: async (page) => {
      await page.goto('/ahead')
      await page
        .getByRole('button', { name: /moved by sending/ })
        .first()
        .click()
      await page.getByText('as the step says').waitFor()
    },
  },
  {
    name: 'decide',
    show: async (page) => {
      await page.goto('/desk/decide')
      await page
        .getByRole('link', { name: /What to wear/ })
        .first()
        .click()
      await page
        .getByLabel(/A line for this copy only/)
        .fill('The meadow is dry again, so thin soles will do.')
      await page.frameLocator('iframe').getByText('thin soles').waitFor()
    },
  },
  {
    name: 'bookings',
    show: async (page) => {
      await page.goto('/bookings/week')
      await page.getByRole('checkbox', { name: 'Choose all of Fri 15 May' }).check()
    },
  },
  { name: 'booking', show: bookingOf('Oona Siltanen') },
  {
    name: 'moving',
    show: async (page) => {
      await bookingOf('Familie Abendroth')(page)
      await page.getByRole('button', { name: 'Move…' }).click()
      await page.getByLabel('Date').fill('Sun 31 May 2026')
      await page.getByLabel('Date').press('Tab')
      await page.getByText('moves').first().waitFor()
    },
  },
  { name: 'client', show: (page) => openFirst(page, '/clients', 'Abendroth') },
  { name: 'letters', show: (page) => page.goto('/letters') },
  {
    name: 'letter',
    show: async (page) => {
      await openFirst(page, '/letters', 'What to wear')
      await page.getByTitle('The message as the client gets it').waitFor()
    },
  },
  {
    name: 'pipeline',
    show: async (page) => {
      await page.goto('/pipeline')
      await page.locator('[data-enquiry]').filter({ hasText: 'Joost' }).click()
      await page.frameLocator('iframe').getByText('meadow').waitFor()
    },
  },
  {
    name: 'set-up',
    show: async (page) => {
      await page.goto('/set-up/service/sv_sunrise')
      await page.getByRole('button', { name: 'Add a departure' }).waitFor()
    },
  },
  { name: 'public', show: (page) => sideBySide(page, [freeTimes, ownDetails, clientPage]) },
  {
    name: 'form',
    show: async (page) => {
      await page.goto('/set-up/form/fm_charter')
      await page.frameLocator('iframe').getByText('A balloon of your own').waitFor()
    },
  },
  {
    name: 'signing',
    show: (page) =>
      sideBySide(page, [asks, toSign('mine@grashof.example'), toSign('emmerich@zeidlermann.example')]),
  },
  {
    name: 'press',
    show: async (page) => {
      await page.goto('/pipeline?words=harvest')
      await page.locator('[data-enquiry]').filter({ hasText: 'Florentin' }).click()
      await page.getByRole('button', { name: 'Send the agreement…' }).click()
      await page.getByText('The agreement for your charter').last().waitFor()
    },
  },
  {
    name: 'enquiry-dark',
    isDark: true,
    show: async (page) => {
      await page.goto('/pipeline?words=golden')
      await page.locator('[data-enquiry]').filter({ hasText: 'Emmerich' }).click()
      await page
        .getByRole('complementary')
        .getByRole('link', { name: /Emmerich/ })
        .click()
      await page.getByText('Day 0').first().waitFor()
    },
  },
  // Last: they leave a change behind.
  { name: 'sequence', show: sequenceWithDays },
  {
    name: 'answer',
    show: async (page) => {
      await page.goto('/mailbox/theo%40nightingall.example')
      await page.getByText('Be this client:').click()
      await page
        .getByLabel('What they write')
        .fill('I am so sorry, my back again: we have to cancel tomorrow.')
      await page.getByRole('button', { name: 'Send', exact: true }).click()
      await page.getByText('✓ It came in').waitFor()
      await page.goto('/desk/decide')
      await page.getByRole('button', { name: 'Cancel the booking…' }).click()
      await page.getByText('What it will do').waitFor()
    },
  },
]

const server = await startServer('demo/main')
const browser = await chromium.launch(chromiumLaunch)
mkdirSync(folder, { recursive: true })
try {
  for (const { name, isDark, show } of pictures) {
    if (only.length > 0 && !only.includes(name)) continue
    const context = await browser.newContext({
      baseURL: server.url,
      viewport: { width: 1280, height: 800 },
      colorScheme: isDark ? 'dark' : 'light',
    })
    const page = await context.newPage()
    await page.goto('/')
    await page.getByRole('button', { name: /Come in as Ilse/ }).click()
    await page.getByRole('navigation', { name: 'Time ribbon' }).waitFor()
    await show(page)
    await page.waitForTimeout(700)
    await page.screenshot({ path: join(folder, `${name}.png`) })
    await context.close()
  }
} finally {
  await browser.close()
  await server.stop()
}
