import { AxeBuilder } from '@axe-core/playwright'
import { expect, type Page } from '@playwright/test'

/** The rules of axe-core for WCAG 2.2 AA, and for all it builds on. */
export const accessible = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] as const

/** Looks at a page by those rules; what a frame shows is not ours to change there. */
export async function expectAccessible(page: Page) {
  const { violations } = await new AxeBuilder({ page })
    .withTags([...accessible])
    .exclude('iframe')
    .analyze()
  expect(violations).toEqual([])
}
