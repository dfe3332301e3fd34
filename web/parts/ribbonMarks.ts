import type { RibbonDay } from '#core/api/views.ts'

/** The marks of the time ribbon, in the order in which they stand. */
export const ribbonMarks = [
  { kind: 'trouble', glyph: '✕', words: 'in trouble' },
  { kind: 'waiting', glyph: '◐', words: 'waiting for you' },
  { kind: 'sent', glyph: '▬', words: 'sent' },
  { kind: 'planned', glyph: '○', words: 'planned' },
] as const satisfies readonly { kind: keyof RibbonDay; glyph: string; words: string }[]
