/** The rules of axe-core for WCAG 2.2 AA, and for all it builds on. */
export const accessible = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] as const
