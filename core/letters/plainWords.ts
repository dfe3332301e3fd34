import type { Inline, Section } from '../model/letter.ts'
import { fieldInfo } from './fieldList.ts'

/** Words on one line, fields by their names. */
export const plainWords = (nodes: readonly Inline[]) =>
  nodes.map((node) => (node.kind === 'text' ? node.text : `‹${fieldInfo(node.field).label}›`)).join('')

/** The typed words of a section, stretch by stretch; a block without words of its own has none. */
export function wordsOfSection(section: Section): readonly (readonly Inline[])[] {
  switch (section.kind) {
    case 'heading':
      return [section.content]
    case 'text':
      return section.paragraphs
    case 'columns':
      return [...section.left, ...section.right]
    case 'button':
      return [section.label]
    default:
      return []
  }
}
