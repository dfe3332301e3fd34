import type { Page, Route } from '@playwright/test'
import { expect, test, visit } from './demo.ts'
import { body } from './letterEditor.ts'

/*
 * What is typed saves itself: typing on meanwhile, leaving, coming back, a second tab and a lost connection lose nothing
 * and bring forth no false refusal.
 */

const letters = '**/api/letters/lt_*/draft'
const isSave = (route: Route) => route.request().method() === 'PUT'
const saved = (page: Page) => expect(page.getByText('Saved', { exact: true })).toBeVisible()
const noRefusal = (page: Page) => expect(page.getByText('changed elsewhere meanwhile')).toHaveCount(0)

/** A letter of its own, empty, open and saved. */
async function newLetter(page: Page, name: string): Promise<string> {
  await visit(page, '/letters')
  await page.getByRole('button', { name: 'New letter' }).click()
  await page.getByLabel('Internal name').fill(name)
  await body(page).waitFor()
  await saved(page)
  return new URL(page.url()).pathname
}

async function typeAtEnd(page: Page, text: string) {
  await body(page).click()
  await page.keyboard.press('Control+End')
  await page.keyboard.type(text)
}

/** What the server has of the draft of the open letter. */
async function kept(page: Page): Promise<string> {
  const id = new URL(page.url()).pathname.split('/').at(-1) ?? ''
  return page.evaluate(async (letter) => {
    const answer = (await (await fetch(`/api/letters/${letter}`)).json()) as {
      draft: { content: { sections: unknown } } | null
    }
    return JSON.stringify(answer.draft?.content.sections)
  }, id)
}

test('typing on while it is being saved', async ({ page }) => {
  await newLetter(page, 'Typed on')
  let saves = 0
  await page.route(letters, async (route) => {
    if (isSave(route)) {
      saves += 1
      await page.waitForTimeout(1500)
    }
    await route.continue()
  })
  await typeAtEnd(page, 'We meet at the meadow')
  await expect.poll(() => saves).toBe(1)
  await page.keyboard.type(', and the kettle is on.')
  await expect.poll(() => kept(page)).toContain('We meet at the meadow, and the kettle is on.')
  await saved(page)
  await noRefusal(page)
  await expect(body(page)).toContainText('We meet at the meadow, and the kettle is on.')
})

test('leaving within a second, and coming back while it is still being saved', async ({ page }) => {
  await newLetter(page, 'Left at once')
  let isSlow = true
  await page.route(letters, async (route) => {
    if (isSave(route) && isSlow) await page.waitForTimeout(2500)
    await route.continue()
  })
  await typeAtEnd(page, 'Bring a warm hat')
  await page.getByRole('link', { name: 'Letters' }).first().click()
  await page.getByRole('link', { name: /Left at once/ }).click()
  // It stands there before the server has it, and is gone on with.
  await expect(body(page)).toContainText('Bring a warm hat')
  isSlow = false
  await typeAtEnd(page, ' and gloves.')
  await expect.poll(() => kept(page)).toContain('Bring a warm hat and gloves.')
  await saved(page)
  await noRefusal(page)
})

test('the page loaded anew within a second', async ({ page }) => {
  await newLetter(page, 'Loaded anew')
  page.on('dialog', (dialog) => void dialog.accept())
  await typeAtEnd(page, 'The wind decides')
  await page.reload()
  await expect(body(page)).toContainText('The wind decides')
  await expect.poll(() => kept(page)).toContain('The wind decides')
  await saved(page)
  await noRefusal(page)
})

test('a second tab takes over what the first has saved, and each can go on', async ({ page, context }) => {
  const path = await newLetter(page, 'In two tabs')
  const other = await context.newPage()
  await other.goto(new URL(path, page.url()).toString())
  await body(other).waitFor()
  await typeAtEnd(page, 'From the first.')
  await saved(page)
  await expect(body(other)).toContainText('From the first.')
  await typeAtEnd(other, ' From the second.')
  await saved(other)
  await expect(body(page)).toContainText('From the first. From the second.')
  await typeAtEnd(page, ' And the first again.')
  await saved(page)
  await expect.poll(() => kept(page)).toContain('From the first. From the second. And the first again.')
  await noRefusal(page)
  await noRefusal(other)
})

test('the connection lost before the server has it, and after', async ({ page }) => {
  await newLetter(page, 'Off the line')
  let isDown = true
  await page.route(letters, async (route) => {
    if (isSave(route) && isDown) await route.abort('internetdisconnected')
    else await route.continue()
  })
  await typeAtEnd(page, 'Nothing of this')
  await expect(page.getByText('Vorfreude does not answer')).toBeVisible()
  await page.keyboard.type(' is lost')
  isDown = false
  await expect.poll(() => kept(page)).toContain('Nothing of this is lost')
  await saved(page)

  // It arrives, and the answer does not: it goes once more as the same act.
  let lost = 0
  await page.route(letters, async (route) => {
    if (isSave(route) && lost === 0) {
      lost += 1
      await route.fetch()
      await route.abort('connectionreset')
    } else await route.continue()
  })
  await typeAtEnd(page, ', not even this.')
  await expect.poll(() => lost).toBe(1)
  await expect.poll(() => kept(page)).toContain('Nothing of this is lost, not even this.')
  await saved(page)
  await noRefusal(page)
})

test('acts on one thing go one after the other: a line just typed, and the approval that follows it', async ({
  page,
}) => {
  await visit(page, '/desk/decide')
  const message = page.getByRole('article')
  await page.getByRole('listitem').getByRole('link').first().click()
  await message.waitFor()
  const id = new URL(page.url()).pathname.split('/').at(-1) ?? ''
  await page.route('**/personal-line', async (route) => {
    await page.waitForTimeout(7000)
    await route.continue()
  })
  await message.getByLabel(/A line for this copy only/).focus()
  await page.keyboard.type('The kettle is on.')
  await message.getByRole('heading', { level: 2 }).focus()
  await page.keyboard.press('a')
  await expect(page.getByText(/^Approved: /).first()).toBeVisible()
  const state = () =>
    page.evaluate(async (send) => {
      const answer = (await (await fetch(`/api/sends/${send}`)).json()) as {
        state: string
        send: { decision: { personalLine: string | null } }
      }
      return [answer.state, answer.send.decision.personalLine]
    }, id)
  await expect.poll(state, { timeout: 30_000 }).toEqual(['approved', 'The kettle is on.'])
  await expect(page.getByText('was not done')).toHaveCount(0)
})

test('a press repeated while the first is on its way does it once', async ({ page }) => {
  await visit(page, '/clients')
  await page
    .getByRole('link', { name: /Oona Siltanen/ })
    .first()
    .click()
  await page
    .getByLabel(/What is to be done|Title|Task/i)
    .first()
    .waitFor()
  const title = 'Ring about the basket'
  await page.route('**/tasks', async (route) => {
    await page.waitForTimeout(1000)
    await route.continue()
  })
  await page
    .getByLabel(/What is to be done|Title|Task/i)
    .first()
    .fill(title)
  await page.getByRole('button', { name: 'Set the task' }).dblclick()
  await expect(page.getByRole('checkbox', { name: title })).toHaveCount(1)
  await page.waitForTimeout(1500)
  await expect(page.getByRole('checkbox', { name: title })).toHaveCount(1)
})
