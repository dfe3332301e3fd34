import type { Page } from '@playwright/test'
import { expect, test, visit } from './demo.ts'
import { body, putField } from './letterEditor.ts'

/*
 * A field is whole or not there at all, whatever is typed, pasted, cut or dragged around it, and whatever is undone.
 */

/** The words of the body: fields as `{name}`, paragraphs apart by `|`. A chip whose label is not whole shows. */
async function words(page: Page): Promise<string> {
  return await body(page).evaluate((editor) => {
    const read = (node: Node): string => {
      if (node instanceof Text) return node.data
      if (!(node instanceof HTMLElement)) return ''
      const chip = node.matches('.react-renderer') ? node.querySelector('[role=button][data-field]') : null
      if (chip instanceof HTMLElement) return `{${chip.textContent}}`
      return [...node.childNodes].map(read).join('')
    }
    return [...editor.querySelectorAll('p')].map(read).join('|').replaceAll('\u200B', '')
  })
}

async function paste(page: Page, type: 'text/plain' | 'text/html', data: string) {
  await body(page).evaluate(
    (editor, [kind, content]) => {
      const clipboardData = new DataTransfer()
      clipboardData.setData(kind, content)
      editor.dispatchEvent(new ClipboardEvent('paste', { clipboardData, bubbles: true, cancelable: true }))
    },
    [type, data] as const,
  )
}

const press =
  (...keys: string[]) =>
  async (page: Page) => {
    for (const key of keys) {
      await page.keyboard.press(key)
      // The browser tells of a moved cursor a moment later; no hand is quicker.
      await page.waitForTimeout(40)
    }
  }

/** Gives the body the words `ab{First name}cd`, the cursor right behind the chip. */
async function start(page: Page) {
  await body(page).focus()
  await press('Control+A', 'Delete')(page)
  await expect.poll(() => words(page)).toBe('')
  await page.keyboard.type('ab')
  await putField(page, 'First name')
  await page.keyboard.type('cd')
  await press('ArrowLeft', 'ArrowLeft')(page)
  await expect.poll(() => words(page)).toBe('ab{First name}cd')
}

const type = (text: string) => async (page: Page) => await page.keyboard.type(text)

const inOrder =
  (...acts: ((page: Page) => Promise<unknown>)[]) =>
  async (page: Page) => {
    for (const act of acts) await act(page)
  }

async function dragAcrossHalf(page: Page) {
  const chip = await body(page).locator('[role=button][data-field]').boundingBox()
  if (!chip) throw new Error('no chip')
  const y = chip.y + chip.height / 2
  await page.mouse.move(chip.x - 8, y)
  await page.mouse.down()
  await page.mouse.move(chip.x + chip.width / 2, y, { steps: 4 })
  await page.mouse.up()
  await page.keyboard.type('x')
}

const whole = '{First name}'
/** Either is right here: what matters is that no half is left. */
const either = (...all: string[]) =>
  new RegExp(`^(?:${all.map((one) => one.replace(/[{}|]/g, String.raw`\$&`)).join('|')})$`)

const ways: readonly (readonly [string, (page: Page) => Promise<unknown>, string | RegExp])[] = [
  ['Backspace behind it', press('Backspace'), 'abcd'],
  ['Delete in front of it', press('ArrowLeft', 'Delete'), 'abcd'],
  ['typing behind it', type('xy'), `ab${whole}xycd`],
  ['typing in front of it', inOrder(press('ArrowLeft'), type('xy')), `abxy${whole}cd`],
  ['typing over it', inOrder(press('Shift+ArrowLeft'), type('x')), 'abxcd'],
  ['typing over it and a neighbour', inOrder(press('Shift+ArrowLeft', 'Shift+ArrowLeft'), type('x')), 'axcd'],
  [
    'deleting it with both neighbours',
    press('ArrowRight', 'Shift+ArrowLeft', 'Shift+ArrowLeft', 'Shift+ArrowLeft', 'Delete'),
    'ad',
  ],
  ['deleting the word behind the cursor', press('Control+Backspace'), either('abcd', 'cd', `ab${whole}cd`)],
  [
    'deleting the word before the cursor',
    press('ArrowLeft', 'Control+Delete'),
    either('abcd', 'ab', `ab${whole}cd`),
  ],
  ['deleting to the start of the line', press('Shift+Home', 'Backspace'), 'cd'],
  ['deleting to the end of the line', press('ArrowLeft', 'Shift+End', 'Delete'), 'ab'],
  ['deleting everything', press('Control+A', 'Backspace'), ''],
  ['typing over everything', inOrder(press('Control+A'), type('new')), 'new'],
  [
    'copying and pasting it',
    press('Shift+ArrowLeft', 'Control+C', 'End', 'Control+V'),
    `ab${whole}cd${whole}`,
  ],
  ['cutting and pasting it', press('Shift+ArrowLeft', 'Control+X', 'Home', 'Control+V'), `${whole}abcd`],
  ['a new paragraph in front of it', press('ArrowLeft', 'Enter'), `ab|${whole}cd`],
  ['a new paragraph behind it', press('Enter'), `ab${whole}|cd`],
  ['a new paragraph, and joining again', press('Enter', 'Backspace'), `ab${whole}cd`],
  [
    'pasting words over it',
    inOrder(press('Shift+ArrowLeft'), (page) => paste(page, 'text/plain', 'xy')),
    'abxycd',
  ],
  ['pasting lines behind it', (page) => paste(page, 'text/plain', 'x\n\ny'), `ab${whole}x|ycd`],
  [
    'pasting a field there is not',
    (page) => paste(page, 'text/html', '<span data-chip data-field="contact.firs">First na</span>'),
    `ab${whole}First nacd`,
  ],
  [
    'pasting a field out of another letter',
    (page) => paste(page, 'text/html', '<span data-chip data-field="booking.time">Sta</span>'),
    `ab${whole}{Start time}cd`,
  ],
  [
    'pasting a script',
    (page) => paste(page, 'text/html', '<script>alert(1)</script><b>x</b>'),
    `ab${whole}xcd`,
  ],
  ['making everything bold', press('Control+A', 'Control+B'), `ab${whole}cd`],
  [
    'a second one right beside it, and Backspace',
    inOrder((page) => putField(page, 'Weekday'), press('Backspace')),
    `ab${whole}cd`,
  ],
  [
    'selecting half of it with the mouse and typing',
    dragAcrossHalf,
    either('abxcd', `abx${whole}cd`, 'axcd', `ax${whole}cd`, `a${whole}xcd`),
  ],
]

test('a chip is never cut in two, and every change is undone', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await visit(page, '/letters')
  await page.getByRole('button', { name: 'New letter' }).click()
  await body(page).waitFor()
  expect(ways.length).toBeGreaterThanOrEqual(20)
  for (const [way, act, expected] of ways) {
    await test.step(way, async () => {
      await start(page)
      // What was done before belongs to another undo step.
      await page.waitForTimeout(550)
      await act(page)
      const after = expect.poll(() => words(page), { message: way, timeout: 40_000 })
      if (typeof expected === 'string') await after.toBe(expected)
      else await after.toMatch(expected)
      for (let presses = 0; presses < 6 && (await words(page)) !== 'ab{First name}cd'; presses += 1) {
        await press('Control+Z')(page)
      }
      expect(await words(page), `${way}, undone`).toBe('ab{First name}cd')
    })
  }
  // What is saved has the field as a field, and nothing of its label as text.
  await expect(page.getByText('Saved', { exact: true })).toBeVisible()
  const saved = await page.evaluate(async () => {
    const id = location.pathname.split('/').at(-1) ?? ''
    const answer = (await (await fetch(`/api/letters/${id}`)).json()) as {
      draft: { content: { sections: unknown[] } } | null
    }
    return JSON.stringify(answer.draft?.content.sections)
  })
  expect(saved).toContain('"field":"contact.firstName"')
  expect(saved).not.toMatch(/First|‹/)
})
