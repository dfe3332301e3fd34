import type { Consequence } from '#core/api/announcements.ts'

/** What an act does to a message, in a word. */
export const changeWords: Readonly<Record<Consequence['kind'], string>> = {
  added: 'new',
  dropped: 'dropped',
  moved: 'moves',
  again: 'again',
  'changed recipient': 'other address',
  'changed text': 'other letter',
  'changed approval': 'approval',
  'not going': 'does not go',
  'held back': 'held back',
  released: 'goes again',
}
