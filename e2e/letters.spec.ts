import { readFileSync } from 'node:fs'
import AxeBuilder from '@axe-core/playwright'
import type { Locator, Page } from '@playwright/test'
import { expect, test, visit } from './demo.ts'
import { body, openLetter, putField, saved } from './letterEditor.ts'

async function publish(page: Page) {
  await page.getByRole('button', { name: 'Publish…' }).click()
  await page.getByRole('button', { name: 'Publish', exact: true }).click()
  await expect(page.getByText('Published: this is what everybody gets.')).toBeVisible()
}

const preview = (page: Page) => page.frameLocator('iframe[title="The message as the client gets it"]')

async function lookFor(page: Page, client: string) {
  await page.getByRole('combobox', { name: 'Preview for' }).click()
  await page.getByRole('option', { name: client }).first().click()
}

test('a letter is written, looked at, mended, tried and found in the mailbox', async ({ page }) => {
  // Five pages and a worker with two dictionaries: on a busy machine half a minute is not enough.
  await visit(page, '/letters')
  await page.getByRole('button', { name: 'New letter' }).click()
  await page.getByLabel('Internal name').fill('The ground crew meets you')
  await page.getByRole('textbox', { name: 'Subject', exact: true }).click()
  await putField(page, 'Weekday')
  await page.keyboard.type(': your crew')
  await body(page).click()
  await page.keyboard.type('Hello ')
  await putField(page, 'First name')
  await page.keyboard.type(', see you tomorrow at ')
  await putField(page, 'Start time')
  await page.keyboard.type('. We wait at ')
  await putField(page, 'Place')
  await page.keyboard.type('.')
  await page.getByRole('button', { name: 'Add…' }).click()
  await page.getByRole('menuitem', { name: 'The way and the cars' }).click()
  await saved(page)

  // The real message stands beside it.
  await lookFor(page, 'Oona Siltanen')
  await expect(preview(page).getByText('follow the small balloon signs')).toBeVisible()
  await expect(preview(page).getByText(/Hello Oona, see you tomorrow at \d\d:\d\d\./)).toBeVisible()

  // Problems: a typed time word, and two fields that can be missing.
  await page.getByRole('tab', { name: 'Problems (3)' }).click()
  await page.getByRole('button', { name: 'Put “Weekday or date” in its place' }).click()
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(body(page)).toContainText('see you tomorrow at')
  await page.getByRole('button', { name: 'Put “Weekday or date” in its place' }).click()
  await page.getByRole('button', { name: 'Leave the sentence out then' }).first().click()
  await page.getByRole('button', { name: 'Leave the sentence out then' }).first().click()
  await expect(page.getByText('✓ No problems.')).toBeVisible()
  await saved(page)

  // The hardest case has no first name: its sentence is left out, and the rest stands.
  await page.getByRole('tab', { name: 'Preview' }).click()
  await page.getByRole('combobox', { name: 'Preview for' }).click()
  await page
    .getByRole('option', { name: /no first name/ })
    .first()
    .click()
  await expect(preview(page).getByText(/We wait at/)).toBeVisible()
  await expect(preview(page).getByText(/Hello/)).toHaveCount(0)

  await lookFor(page, 'Oona Siltanen')
  await page.getByRole('button', { name: 'Send me a test copy' }).click()
  await expect(page.getByText('A test copy went to ilse@thistledown.example.')).toBeVisible()
  await visit(page, '/mailbox/ilse%40thistledown.example')
  await page
    .getByRole('link', { name: /: your crew/ })
    .first()
    .click()
  await expect(page.getByRole('heading', { name: /day: your crew/ })).toBeVisible()
  await expect(page.frameLocator('iframe').getByText('Hello Oona, see you')).toBeVisible()
})

test('two tabs do not overwrite each other silently, and nothing typed is lost', async ({
  page,
  context,
}) => {
  await openLetter(page, /Thank you for asking/)
  const other = await context.newPage()
  await other.goto(page.url())
  // Both write at the same time; the first one's words are the longer on their way.
  let isHeld = true
  await page.route('**/api/letters/lt_*/draft', async (route) => {
    while (isHeld && route.request().method() === 'PUT') await page.waitForTimeout(100)
    await route.continue()
  })
  await body(page).click()
  await page.keyboard.type('My own words. ')
  await body(other).click()
  await other.keyboard.type('Once more: ')
  await saved(other)
  isHeld = false
  await expect(page.getByRole('alert')).toContainText('changed elsewhere meanwhile')
  await expect(body(page)).toContainText('My own words.')
  // Whose words count is for a person to say.
  await page.getByRole('button', { name: 'Save mine over it' }).click()
  await saved(page)
  await expect(body(other)).toContainText('My own words.')
  isHeld = true
  await body(page).click()
  await page.keyboard.type('And again: ')
  await body(other).click()
  await other.keyboard.type('From over here: ')
  await saved(other)
  isHeld = false
  await page.getByRole('button', { name: 'Take the saved one' }).click()
  await expect(body(page)).toContainText('From over here:')
  await expect(body(page)).not.toContainText('And again')
  await saved(page)
})

test('versions can be compared and gone back to', async ({ page }) => {
  await openLetter(page, /The ferry to the island/)
  await body(page).click()
  await page.keyboard.press('Control+End')
  await page.getByRole('textbox', { name: 'Subject', exact: true }).click()
  await page.keyboard.press('End')
  await page.keyboard.type(', anew')
  await saved(page)
  await publish(page)
  await page.reload()
  await page.getByRole('tab', { name: 'Versions' }).click()
  await expect(page.getByText('Version 2')).toBeVisible()
  const first = page.getByRole('listitem').filter({ hasText: 'Version 1' })
  await first.getByRole('button', { name: 'Compare' }).click()
  await expect(first.getByText(/, anew/)).toBeVisible()
  await first.getByRole('button', { name: 'Go back to it' }).click()
  await saved(page)
  await expect(page.getByRole('textbox', { name: 'Subject', exact: true })).not.toContainText('anew')
})

/** A letter with a sentence begun in its subject, which is kept as a draft. */
async function halfASentence(page: Page): Promise<Locator> {
  await openLetter(page, /The flight call/)
  const subject = page.getByRole('textbox', { name: 'Subject', exact: true })
  await subject.click()
  await page.keyboard.press('End')
  await page.keyboard.type(' and half a sen')
  await saved(page)
  return subject
}

test('what is typed is a draft until it is published, and that says first what it does', async ({ page }) => {
  const subject = await halfASentence(page)
  await expect(page.getByText('A draft: everybody still gets the published text.')).toBeVisible()
  const published = async () => {
    const id = new URL(page.url()).pathname.split('/').at(-1) ?? ''
    return page.evaluate(async (letter) => {
      const answer = (await (await fetch(`/api/letters/${letter}`)).json()) as {
        letter: { subject: unknown }
      }
      return JSON.stringify(answer.letter.subject)
    }, id)
  }
  expect(await published()).not.toContain('half a sen')
  // Another one finds the draft, and the list says that there is one.
  await visit(page, '/letters')
  await page.getByRole('link', { name: /The flight call.*has a draft/ }).click()
  await expect(subject).toContainText('half a sen')
  await page.getByRole('button', { name: 'Discard draft' }).click()
  await expect(subject).not.toContainText('half a sen')
  await expect(page.getByText('Published: this is what everybody gets.')).toBeVisible()

  await subject.click()
  await page.keyboard.press('End')
  await page.keyboard.type(', a whole one')
  await page.getByRole('button', { name: 'Publish…' }).click()
  const effect = page.getByRole('region', { name: 'Publish this text' })
  await expect(effect.getByText(/^\d+ messages planned with this letter take the new text/)).toBeVisible()
  await expect(effect.getByRole('heading', { name: 'Who reads it differently' })).toBeVisible()
  await expect(effect.getByRole('listitem').first()).toContainText(/\d\d:\d\d/)
  await expect(effect.locator('ins')).toContainText('a whole one')
  const { violations } = await new AxeBuilder({ page }).exclude('iframe').analyze()
  expect(violations).toEqual([])
  await effect.getByRole('button', { name: 'Publish' }).click()
  await expect(effect).toHaveCount(0)
  expect(await published()).toContain('a whole one')
})

test('what is typed right after a draft was discarded stays, also where the server is slow', async ({
  page,
}) => {
  const subject = await halfASentence(page)
  await page.route('**/api/letters/*', async (route) => {
    if (route.request().method() === 'GET') await new Promise((resolve) => setTimeout(resolve, 1500))
    await route.continue()
  })
  await page.getByRole('button', { name: 'Discard draft' }).click()
  await expect(page.getByText('Published: this is what everybody gets.')).toBeVisible()
  await subject.click()
  await page.keyboard.press('End')
  await page.keyboard.type(', typed at once')
  // Longer than anything that was asked for takes.
  await page.waitForTimeout(4000)
  await expect(subject).toContainText(', typed at once')
  await page.getByRole('button', { name: 'Discard draft' }).click()
  await expect(subject).not.toContainText('typed at once')
  await page.getByRole('button', { name: 'Take it back' }).click()
  await expect(subject).toContainText(', typed at once')
  await page.getByRole('button', { name: 'Discard draft' }).click()
  await expect(subject).not.toContainText('typed at once')
})

test('a letter in use says what depends on it; one that is not can be deleted after asking', async ({
  page,
}) => {
  await openLetter(page, /The flight call/)
  await page.getByRole('button', { name: 'Delete…' }).click()
  await page.getByRole('button', { name: 'Delete it' }).click()
  await expect(page.getByText(/Sequences still send it: “Before a morning flight”/)).toBeVisible()
  await openLetter(page, /Your gift voucher/)
  await page.getByRole('button', { name: 'Delete…' }).click()
  await page.getByRole('button', { name: 'Delete it' }).click()
  await expect(page.getByRole('heading', { level: 1, name: 'Letters' })).toBeVisible()
  await expect(page.getByRole('link', { name: /Your gift voucher/ })).toHaveCount(0)
})

test('a letter goes out as a file and comes in again; a wrong file gets a sentence', async ({ page }) => {
  await openLetter(page, /How was it/)
  const waiting = page.waitForEvent('download')
  await page.getByRole('button', { name: 'Save as a file' }).click()
  const path = await (await waiting).path()
  const content = JSON.parse(readFileSync(path, 'utf8')) as { format: string; name: string }
  expect(content.format).toBe('vorfreude-letter-1')
  await visit(page, '/letters')
  const input = page.locator('input[type=file]')
  const buffer = Buffer.from(JSON.stringify({ ...content, name: 'How was it, brought back' }))
  await input.setInputFiles({ name: 'letter.json', mimeType: 'application/json', buffer })
  await expect(page.getByRole('heading', { name: /How was it, brought back/ })).toBeVisible()
  await visit(page, '/letters')
  await input.setInputFiles({ name: 'x.json', mimeType: 'application/json', buffer: Buffer.from('no') })
  await expect(page.getByText('This file is no JSON.')).toBeVisible()
})

test('a mail once written becomes a letter, value by value', async ({ page }) => {
  await visit(page, '/letters/from-mail')
  const written = (subject: string) =>
    `From bram@thistledown.example Mon May  4 05:06:07 2026\nSubject: ${subject}\n\nDear Leonie, ${subject}.\n\n`
  const file = (text: string) => ({ name: 'a.mbox', mimeType: 'application/mbox', buffer: Buffer.from(text) })
  await page.getByLabel('Mail or mailbox file').setInputFiles(file('Subject: nothing\n\n'))
  await expect(page.getByText('There is no mail with a text in this file.')).toBeVisible()
  await page
    .getByLabel('Mail or mailbox file')
    .setInputFiles(file(written('the first') + written('the last')))
  await expect(page.getByLabel('Subject of the mail')).toHaveValue('the last')
  await page.getByRole('combobox', { name: '2 mails in the file' }).click()
  await page.getByRole('option', { name: 'the first' }).click()
  await expect(page.getByLabel('Text of the mail')).toHaveValue('Dear Leonie, the first.')
  await page.getByRole('combobox', { name: 'Written to' }).click()
  await page.getByRole('option', { name: 'Familie Abendroth' }).click()
  await page.getByLabel('Subject of the mail').fill('Your Private basket')
  await page.getByLabel('Text of the mail').fill('Dear Leonie,\n\nwe meet on May 25, 2026 at 5:20 am.')
  await page.getByLabel('“Leonie” becomes First name').uncheck()
  await page.getByRole('button', { name: 'Make a letter of it' }).click()
  await expect(body(page)).toContainText('Dear Leonie,')
  await expect(body(page)).toContainText('we meet on Date at Start time.')
})

test('a letter is tried on everyone, and leads to the client and back', async ({ page }) => {
  await openLetter(page, /Another day for your flight/)
  await page.getByRole('tab', { name: 'Everyone' }).click()
  await page.getByRole('button', { name: 'Check for everyone' }).click()
  await expect(page.getByText(/^(\d+) of \1 tried, \d+ to look at\.$/)).toBeVisible()
  const found = page.getByRole('complementary').getByRole('listitem')
  await expect(found.filter({ hasText: 'held: Date, Start time is missing' }).first()).toBeVisible()
  await found.first().getByRole('link').click()
  await expect(page).toHaveURL(/\/client\//)
  await page.goBack()
  await expect(body(page)).toBeVisible()
})

test('a service has other words, and the rest stays as it is written once', async ({ page }) => {
  await openLetter(page, /Another day for your flight/)
  await page.getByRole('combobox', { name: 'For whom' }).click()
  await page.getByRole('option', { name: 'Private basket' }).click()
  const variants = page.getByRole('group', { name: 'Other words for a language, a service or a client' })
  await variants.getByText('Other words', { exact: true }).nth(2).click()
  const words = variants.getByRole('textbox', { name: /Other words for/ })
  // Beside the fields: a press on one opens its choices.
  await words.click({ position: { x: 4, y: 8 } })
  await page.keyboard.press('Control+A')
  await page.keyboard.type('Your own basket has another time.')
  await saved(page)
  await lookFor(page, 'Familie Abendroth')
  await expect(preview(page).getByText('Your own basket has another time.')).toBeVisible()
  await lookFor(page, 'Oona Siltanen')
  await expect(preview(page).getByText('your flight has another time', { exact: false })).toBeVisible()
})

test('spelling is looked at, and own words can be added', async ({ page }) => {
  await openLetter(page, /Thank you for asking/)
  await body(page).click()
  await page.keyboard.press('Control+Home')
  await page.keyboard.type('The weahter and the flightcrewing. ')
  await page.getByRole('tab', { name: /Problems/ }).click()
  await page.getByRole('button', { name: 'Put “weather”' }).click({ timeout: 60_000 })
  await expect(body(page)).toContainText('The weather and')
  const own = page.getByRole('listitem').filter({ hasText: 'flightcrewing' })
  await own.getByRole('button', { name: 'It is right' }).click()
  await expect(own).toHaveCount(0)
})

test('a letter speaks the language of its reader, and says what is not translated', async ({ page }) => {
  await openLetter(page, /The flight call/)
  await page.getByRole('combobox', { name: 'For whom' }).click()
  await page.getByRole('option', { name: 'German' }).click()
  const variants = page.getByRole('group', { name: 'Other words for a language, a service or a client' })
  await expect(variants.getByText(/parts are not translated/)).toBeVisible()
  await variants
    .getByRole('radiogroup', { name: 'Subject for German' })
    .getByText('Translated', { exact: true })
    .click()
  await variants.getByRole('textbox', { name: 'Subject for German' }).click()
  await page.keyboard.press('ControlOrMeta+A')
  await page.keyboard.type('Wir fahren')
  await saved(page)
  await lookFor(page, 'Henrike Oßwald')
  const beside = page.getByRole('complementary', { name: 'The letter as it comes out' })
  await expect(beside.getByText('Wir fahren')).toBeVisible()
  await lookFor(page, 'Oona Siltanen')
  await expect(beside.getByText(/We fly/).first()).toBeVisible()
  await page.getByRole('tab', { name: /Problems/ }).click()
  await expect(
    page.getByText('whoever reads German gets it in English', { exact: false }).first(),
  ).toBeVisible()
  await visit(page, '/letters')
  await expect(page.getByRole('link', { name: /What to wear up there/ })).toContainText('not in German')
})

test('a passage with a field is changed once for all its letters', async ({ page }) => {
  await visit(page, '/letters')
  await page.getByRole('button', { name: /^The way and the cars/ }).click()
  await expect(page.getByText(/Saving it changes .*“What to wear up there”/)).toBeVisible()
  await page.getByRole('textbox', { name: 'Its words' }).click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type(' Park by ')
  await putField(page, 'Start time')
  await page.getByRole('button', { name: 'Save the passage' }).click()
  await expect(page.getByText(/Park by ‹Start time›/)).toBeVisible()
  await openLetter(page, /The flight call/)
  await lookFor(page, 'Oona Siltanen')
  await expect(preview(page).getByText(/Park by \d\d:\d\d/)).toBeVisible()
})

test('a client sees and cancels the booking by the link in a message', async ({ page, browser }) => {
  await visit(page, '/mailbox/leonie%40abendroth.example')
  await page
    .getByRole('link', { name: /Private basket: .*25 May 2026/ })
    .first()
    .click()
  const link = page.frameLocator('iframe').getByRole('link', { name: 'See or cancel the booking' })
  const { pathname } = new URL((await link.getAttribute('href')) ?? '')
  // Somebody else's browser: nobody signs in there.
  const context = await browser.newContext({ viewport: { width: 390, height: 800 } })
  const telephone = await context.newPage()
  await telephone.goto(new URL(pathname, page.url()).toString())
  await expect(telephone.getByText('Monday 25 May 2026, 05:20 to 09:20')).toBeVisible()
  const { violations } = await new AxeBuilder({ page: telephone }).analyze()
  expect(violations.map(({ id }) => id)).toEqual([])
  await telephone.getByRole('link', { name: 'Cancel the booking…' }).click()
  await telephone.getByRole('button', { name: 'Yes, cancel it' }).click()
  await expect(telephone.getByText('This booking is cancelled.')).toBeVisible()
  await context.close()
  await visit(page, '/clients')
  await page.getByRole('link', { name: /Familie Abendroth/ }).click()
  await expect(page.getByRole('link', { name: /25 May.*Private basket.*cancelled/i }).first()).toBeVisible()
})
