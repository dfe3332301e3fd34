import AxeBuilder from '@axe-core/playwright'
import type { Page } from '@playwright/test'
import { expect, test } from './demo.ts'

/*
 * Messages as they go, drawn as a mail program draws them. Contrast: WCAG 2.2, 1.4.3, at least 4.5 to 1 for words of these
 * sizes; axe-core works it out on the drawn page.
 */

interface Preview {
  readonly html: string | null
}

/** The HTML of messages that are on their way, one for each letter. */
async function messages(page: Page): Promise<readonly string[]> {
  return page.evaluate(async () => {
    const get = async (path: string) => (await fetch(path)).json() as Promise<unknown>
    const asked = await get(
      '/api/sends?from=2026-05-14&to=2026-08-31&states=ready,waiting,approved&limit=200',
    )
    const { sends } = asked as { sends: readonly { id: string; letterId: string | null }[] }
    const one = new Map(sends.map(({ id, letterId }) => [letterId, id]))
    one.delete(null)
    const previews = await Promise.all([...one.values()].map((id) => get(`/api/sends/${id}/preview`)))
    return (previews as Preview[]).flatMap(({ html }) => html ?? [])
  })
}

/** The same without a letterhead: no paper, no colour behind it. */
const withoutLetterhead = (html: string) =>
  html
    .replace(' class="vp"', '')
    .replaceAll(/;?background:#F{6}|;background:#F6F4F9|;border-top:4px solid #5A2D6E/g, '')

test('every word of a message can be read, light and dark, on a desk and on a telephone', async ({
  page,
  context,
}) => {
  const all = await messages(page)
  expect(all.length).toBeGreaterThanOrEqual(3)
  const drawn = await context.newPage()
  for (const html of all.flatMap((one) => [one, withoutLetterhead(one)])) {
    for (const colorScheme of ['light', 'dark'] as const) {
      await drawn.emulateMedia({ colorScheme })
      for (const width of [600, 360]) {
        await drawn.setViewportSize({ width, height: 800 })
        await drawn.setContent(html)
        const { violations } = await new AxeBuilder({ page: drawn }).withRules(['color-contrast']).analyze()
        expect(violations.flatMap(({ nodes }) => nodes.map(({ html: where }) => where))).toEqual([])
        const overflow = await drawn.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)
        expect(overflow).toBeLessThanOrEqual(0)
      }
    }
  }
  // The dark one is dark, and not only a light one that says otherwise.
  const back = () => drawn.evaluate(() => getComputedStyle(document.body).backgroundColor)
  expect(await back()).toBe('rgb(23, 19, 31)')
})
