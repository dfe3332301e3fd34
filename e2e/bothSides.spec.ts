import type { Browser, Page } from '@playwright/test'
import { expectAccessible } from './accessible.ts'
import { expect, test, typeTime, visit } from './demo.ts'
import { mailsIn, origin, subjectsIn, takeTime, telephone } from './telephone.ts'

/* From the form to the flight, the business on one side, the client on the other. */

const marit = 'marit@holmqvist.example'
const mailbox = `/mailbox/${encodeURIComponent(marit)}`
const line = (page: Page, client: string) => page.locator('[data-enquiry]').filter({ hasText: client })
const would = (page: Page) => page.getByRole('region', { name: 'What it will do' })

/** The form, on a telephone: what is missing is said, what hangs on an answer is shown, a double press sends it once. */
async function fillsIn(browser: Browser, address: string) {
  const client = await telephone(browser)
  await client.goto(`${address}/ask/fm_charter`)
  await takeTime(client)
  await client.getByRole('button', { name: 'Send' }).click()
  await expect(client.getByRole('alert')).toContainText('Nothing you typed is lost.')
  await expectAccessible(client)
  await client.getByLabel('What is it for?').fill('Seventieth birthday')
  const ferry = client.getByLabel(/^Who comes by which ferry/)
  await expect(ferry).toBeHidden()
  await client.getByLabel('Over to the island').check()
  await expect(ferry).toBeVisible()
  await client.getByLabel('At sunrise').check()
  await expect(ferry).toBeHidden()
  await client.getByLabel(/^Which day/).fill('2026-08-29')
  await client.getByLabel(/^How many/).fill('4')
  await client.getByLabel('Photographs').check()
  await client.getByLabel(/^Everybody can climb/).check()
  await client.getByLabel('First name').fill('Marit')
  await client.getByLabel('Last name').fill('Holmqvist')
  await client.getByLabel('E-mail').fill(marit)
  await takeTime(client)
  await client.getByRole('button', { name: 'Send' }).dblclick()
  await expect(client.getByRole('heading', { name: 'It has come in' })).toBeVisible()
  const isWithin = () => client.evaluate(() => document.documentElement.scrollWidth <= window.innerWidth)
  expect(await isWithin()).toBe(true)
  await client.context().close()
}

/** The agreement, on a telephone: read, signed, and the copy is there. */
async function signs(browser: Browser, url: string) {
  const client = await telephone(browser)
  await client.goto(url)
  await expect(
    client.getByText(/for Seventieth birthday, on Saturday 29 August 2026, for 4 people/),
  ).toBeVisible()
  await expect(client.getByText('Time of day: At sunrise.')).toBeVisible()
  await takeTime(client)
  await client.getByRole('button', { name: 'Sign it' }).click()
  await expect(client.getByText('Please type your name.')).toBeVisible()
  await expect(client.getByText('Please tick that you agree.')).toBeVisible()
  await expectAccessible(client)
  await client.getByLabel('I have read this agreement and agree to it.').check()
  await client.getByLabel('Your name').fill('Marit Holmqvist')
  await takeTime(client)
  await client.getByRole('button', { name: 'Sign it' }).dblclick()
  await expect(client.getByRole('status')).toContainText('Signed by Marit Holmqvist')
  const copy = await client.getByRole('link', { name: 'Your copy (PDF)' }).getAttribute('href')
  const pdf = await client.request.get(`${origin(client)}${copy ?? ''}`)
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-')
  await client.context().close()
}

/** Where the newest mail leads that has something to sign. */
const linkToSign = (page: Page) =>
  page.evaluate(async (address) => {
    const box = (await (await fetch(`/api/mailboxes/${encodeURIComponent(address)}`)).json()) as {
      messages: { id: number }[]
    }
    const mail = (await (await fetch(`/api/mail/${box.messages[0]?.id ?? 0}`)).json()) as {
      links: { url: string; words: string }[]
    }
    return mail.links.find(({ words }) => words.includes('sign'))?.url ?? ''
  }, marit)

test('a form becomes a flight: asked, offered, answered, agreed on in one press, signed, booked', async ({
  page,
  browser,
}) => {
  test.setTimeout(300_000)
  await visit(page, '/pipeline')
  await fillsIn(browser, origin(page))
  // The board was open all the while.
  await expect(line(page, 'Marit')).toContainText('Ilse')
  await expect(line(page, 'Marit')).toHaveCount(1)
  await expect.poll(() => subjectsIn(page, marit), { timeout: 30_000 }).toEqual(['Your flight with us'])
  await line(page, 'Marit').click()
  await page
    .getByRole('complementary', { name: 'Beside the board' })
    .getByRole('link', { name: 'Marit' })
    .click()
  await expect(page.getByText(/Came by the form/)).toContainText('version 1')
  await page.getByRole('button', { name: /Thank you for asking.*why then\?/ }).click()
  await expect(page.getByRole('list', { name: 'Why then?' })).toBeVisible()

  // The offer is looked at, and a line is added.
  await page.getByRole('button', { name: 'To “offer”…' }).click()
  await expect(would(page)).toContainText('The offer for a private basket')
  await page.getByRole('button', { name: 'Move it' }).last().click()
  await page.getByRole('link', { name: 'Look at it now' }).click()
  await page
    .getByLabel('A line for this copy only, after the greeting')
    .fill('Seventy is the right age for it.')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: /^Send now/ }).click()
  await expect(page.getByText(/The offer for a private basket.*It is done/)).toBeVisible({ timeout: 60_000 })

  // She answers, and it is planned.
  await visit(page, mailbox)
  await page.getByRole('link', { name: /A basket of your own.*Seventy is the right age/ }).click()
  await page.getByText('Be this client:').click()
  await page.getByLabel('What they write').fill('Lovely, we take it.')
  await page.getByRole('button', { name: 'Send', exact: true }).click()
  await expect(page.getByText('✓ It came in')).toBeVisible()
  await visit(page, '/pipeline?words=marit')
  await line(page, 'Marit').click()
  await page
    .getByRole('complementary', { name: 'Beside the board' })
    .getByRole('link', { name: 'Marit' })
    .click()
  await expect(page.getByRole('link', { name: /Re: .*← Answer/ })).toBeVisible()
  await page.getByRole('button', { name: 'To “planning”…' }).click()
  await page.getByRole('button', { name: 'Move it' }).last().click()
  await expect(page.getByText('now in “planning”.')).toBeVisible()

  // The agreement goes by one press, is taken back, and goes again.
  await page.getByRole('button', { name: 'Send the agreement…' }).click()
  await expect(would(page)).toContainText('The agreement for your charter')
  await expect(page.getByText('All of it is done, or nothing:')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Send the agreement', exact: true }).dblclick()
  const report = page.getByRole('region', { name: 'What “Send the agreement” did' })
  await expect(report).toContainText('Tag “charter”.')
  await expect(page.getByRole('button', { name: 'Send the agreement…' })).toHaveCount(0)
  await expect
    .poll(async () => (await mailsIn(page, marit))[0]?.subject, { timeout: 30_000 })
    .toBe('Your charter: the agreement')
  await expect(report).toContainText('cannot be taken back any more', { timeout: 30_000 })
  await signs(browser, await linkToSign(page))
  await expect(page.getByRole('region', { name: 'Documents' })).toContainText('Signed by Marit Holmqvist')

  // Won: the booking's own messages begin, and nothing of the enquiry goes any more.
  await page.getByRole('button', { name: 'Book it…' }).click()
  await typeTime(page, 'Start', '06:00')
  await page.getByLabel('For how many people').fill('2')
  await expect(would(page)).toContainText('Your flight is booked')
  await page.getByRole('button', { name: 'Book it', exact: true }).click()
  await expect(page).toHaveURL(/\/booking\//)
  await expect
    .poll(async () => (await mailsIn(page, marit))[0]?.subject, { timeout: 60_000 })
    .toMatch(/^Private basket: /)
  await page.getByRole('link', { name: 'its enquiry' }).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText('booked')
  await expect(page.getByText('To come', { exact: true })).toHaveCount(0)
})

test('a move is put together, pressed on many, and taken back while nothing has gone', async ({ page }) => {
  await visit(page, '/set-up/move/new')
  await page.getByLabel('What pressing it does, as its name').fill('Ask once more by telephone')
  await page.getByRole('button', { name: '+ Task' }).click()
  await expect(page.getByText('The task needs a title.')).toBeVisible()
  await page.getByLabel('Task of who is in charge').fill('Call and ask')
  await page.getByRole('button', { name: '+ Own field' }).click()
  await page.getByRole('textbox', { name: 'Own field' }).fill('Asked again')
  await page.getByRole('textbox', { name: 'Says' }).fill('by telephone')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Ask once more by telephone' })).toContainText(
    'Task: Call and ask',
  )
  await visit(page, '/pipeline')
  await page.getByRole('checkbox', { name: 'Choose Bjarne Sommerfeldt' }).click()
  await page.getByRole('checkbox', { name: /^Choose Kreszenz/ }).click()
  await page.getByRole('button', { name: 'Ask once more by telephone…' }).click()
  await page.getByRole('button', { name: 'Ask once more by telephone', exact: true }).click()
  await expect(page.getByText('Ask once more by telephone on 2 enquiries: done.')).toBeVisible()
  await line(page, 'Bjarne').click()
  const beside = page.getByRole('complementary', { name: 'Beside the board' })
  await expect(beside.getByText('Asked again', { exact: true })).toBeVisible()
  await beside.getByRole('button', { name: 'Take it back' }).click()
  await expect(beside.getByRole('button', { name: 'Take it back' })).toHaveCount(0)
  await expect(beside.getByText('Asked again', { exact: true })).toHaveCount(0)
})

test('a form is changed beside its page, and says what is wrong where it is', async ({ page }) => {
  await visit(page, '/set-up/form/fm_charter')
  const shown = page.frameLocator('iframe[title="The page as it will be"]')
  await expect(shown.getByText('A balloon of your own')).toBeVisible()
  await page.getByLabel('What stands above it').fill('The valley from above')
  await expect(shown.getByText('The valley from above')).toBeVisible()
  await page.getByRole('button', { name: 'Add a field' }).click()
  const added = page.getByRole('group', { name: /^9\./ })
  await expect(added.getByText('A field needs its words.')).toBeVisible()
  await added.getByLabel('What it asks').fill('Which wine?')
  await added.getByRole('combobox', { name: 'Answered with' }).click()
  await page.getByRole('option', { name: 'one of several' }).click()
  await page.getByRole('textbox', { name: 'Answer 1' }).last().fill('Red')
  await page.getByRole('textbox', { name: 'Answer 2' }).last().fill('White')
  await expect(shown.getByLabel('White')).toBeVisible()
  await expectAccessible(page)
  // What a document says cannot go.
  await page.getByRole('button', { name: 'Remove Morning or evening?' }).click()
  await page.getByRole('button', { name: /^Remove Who comes by which ferry/ }).click()
  await expect(page.getByRole('alert').last()).toContainText('document “Charter agreement”')
  await page.reload()
  await page.getByLabel('What stands above it').fill('The valley from above')
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByRole('region', { name: 'Private charters' }).last()).toContainText('8 questions')
})
