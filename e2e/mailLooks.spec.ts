import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { simpleParser } from 'mailparser'
import { expect, test } from './demo.ts'

/*
 * Letters as mail programs draw them, on the rendered page: every text stands out from what is behind it by at least
 * 4.5 to 1 (WCAG 2.2, 1.4.3; the formula is that of its glossary), and nothing is wider than the screen.
 */

const widths = [600, 360] as const
const schemes = ['light', 'dark'] as const

interface Letters {
  readonly letters: readonly { readonly id: string; readonly isStarter: boolean }[]
}

/** The letters of the demo as they go to somebody with a booking, by their ids. */
async function lettersAsMail(page: Page, url: string): Promise<ReadonlyMap<string, string>> {
  const ask = (path: string) => page.request.get(new URL(path, url).toString())
  const { letters } = (await (await ask('/api/letters')).json()) as Letters
  const { candidates } = (await (await ask('/api/letter-candidates')).json()) as {
    candidates: readonly { clientId: string; bookingId: string | null }[]
  }
  const booked = candidates.find(({ bookingId }) => bookingId !== null)
  const mails = new Map<string, string>()
  for (const { id } of letters.filter(({ isStarter }) => !isStarter)) {
    const query = new URLSearchParams({
      clientId: booked?.clientId ?? '',
      bookingId: booked?.bookingId ?? '',
    })
    const answer = await ask(`/api/letters/${id}/message.eml?${query.toString()}`)
    // Some are about an invoice or an enquiry, which a booking does not have.
    if (answer.ok()) mails.set(id, String((await simpleParser(await answer.body())).html))
  }
  return mails
}

interface Text {
  readonly text: string
  readonly contrast: number
}

/** The contrast of every text on the page with what is behind it, by what the browser has drawn. */
function contrasts(page: Page): Promise<readonly Text[]> {
  return page.evaluate(() => {
    type Colour = readonly [number, number, number, number]
    const parts = (css: string): Colour => {
      const [red = 0, green = 0, blue = 0, alpha = 1] = (css.match(/[\d.]+/g) ?? []).map(Number)
      return [red, green, blue, alpha]
    }
    const over = (top: Colour, below: Colour): Colour => {
      const mix = (one: number, other: number) => one * top[3] + other * (1 - top[3])
      return [mix(top[0], below[0]), mix(top[1], below[1]), mix(top[2], below[2]), 1]
    }
    const channel = (value: number) => {
      const part = value / 255
      return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
    }
    const luminance = ([red, green, blue]: Colour) =>
      0.2126 * channel(red) + 0.7152 * channel(green) + 0.0722 * channel(blue)
    const isDark = matchMedia('(prefers-color-scheme: dark)').matches
    const declared = getComputedStyle(document.documentElement).colorScheme
    // What a page that says nothing is drawn on.
    const canvas: Colour = isDark && declared.includes('dark') ? [18, 18, 18, 1] : [255, 255, 255, 1]
    const behind = (element: Element | null): Colour =>
      element === null
        ? canvas
        : over(parts(getComputedStyle(element).backgroundColor), behind(element.parentElement))
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
    const found: Text[] = []
    for (let node = walker.nextNode(); node !== null; node = walker.nextNode()) {
      const element = node.parentElement
      const text = node.textContent?.trim() ?? ''
      if (element === null || text === '' || element.getClientRects().length === 0) continue
      const box = element.getBoundingClientRect()
      const style = getComputedStyle(element)
      // The preview text is for lists of mail programs alone.
      if (box.width < 2 || box.height < 2 || style.visibility === 'hidden' || style.opacity === '0') continue
      const ground = behind(element)
      const ink = over(parts(style.color), ground)
      const [light = 0, dark = 0] = [luminance(ink), luminance(ground)].toSorted((one, other) => other - one)
      found.push({ text, contrast: (light + 0.05) / (dark + 0.05) })
    }
    return found
  })
}

test('at least six letters at 600 and 360 pixels, light and dark: every text is to be read', async ({
  page,
  demos,
}, { file }) => {
  const { url } = await demos.for(file)
  const mails = await lettersAsMail(page, url)
  expect(mails.size).toBeGreaterThanOrEqual(6)
  const shown = await page.context().newPage()
  // What it measures: black on white is 21 to 1, and grey on white too little.
  await shown.setContent('<p>black</p><p style="color:#999">grey</p>')
  const [black, grey] = await contrasts(shown)
  expect(black?.contrast).toBeCloseTo(21, 5)
  expect(grey?.contrast).toBeLessThan(4.5)
  for (const [letterId, html] of mails) {
    for (const width of widths) {
      for (const colorScheme of schemes) {
        await shown.setViewportSize({ width, height: 900 })
        await shown.emulateMedia({ colorScheme })
        await shown.setContent(html)
        const texts = await contrasts(shown)
        const where = `${letterId} at ${width} in ${colorScheme}`
        expect(texts.length, where).toBeGreaterThan(3)
        for (const { text, contrast } of texts) {
          expect(contrast, `${where}: ${text}`).toBeGreaterThanOrEqual(4.5)
        }
        const wide = await shown.evaluate(() => document.documentElement.scrollWidth)
        expect(wide, where).toBeLessThanOrEqual(width)
        const folderOfPictures = process.env['MAIL_PICTURES']
        if (folderOfPictures)
          await shown.screenshot({ path: join(folderOfPictures, `${letterId}-${width}-${colorScheme}.png`) })
      }
    }
  }
})
