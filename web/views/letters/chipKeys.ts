import type { Editor, KeyboardShortcutCommand } from '@tiptap/core'
import type { Node as ProseMirrorNode, ResolvedPos } from '@tiptap/pm/model'
import { NodeSelection, TextSelection, type Selection } from '@tiptap/pm/state'

/*
 * Keys beside a chip. Browsers differ in how they step beside what cannot be edited, so every step that begins at a chip
 * is made here.
 */

const characters = new Intl.Segmenter('en', { granularity: 'grapheme' })

/** How far an arrow key goes over a node beside the cursor: a chip whole, words by a character. */
function lengthOfStep(node: ProseMirrorNode, side: 'before' | 'after'): number {
  if (node.text === undefined) return 1
  const all = [...characters.segment(node.text)]
  return (side === 'before' ? all.at(-1) : all[0])?.segment.length ?? 1
}

const headOf = (selection: Selection) =>
  selection instanceof TextSelection ? selection.$head : selection.$to

const isBesideChip = ({ nodeBefore, nodeAfter }: ResolvedPos) =>
  [nodeBefore, nodeAfter].some((one) => one?.type.name === 'chip')

/**
 * An arrow key beside a chip steps over it: were it chosen, the next letter typed would replace it. With Shift it takes
 * it into the selection like a character.
 */
function stepBeside({ state, view }: Editor, side: 'before' | 'after', isExtending = false): boolean {
  const { selection, doc, tr } = state
  if (!isExtending && !selection.empty) return false
  const head = headOf(selection)
  const node = side === 'before' ? head.nodeBefore : head.nodeAfter
  if (!isBesideChip(head) || !node || (node.type.name !== 'chip' && !node.isText)) return false
  const to = head.pos + lengthOfStep(node, side) * (side === 'before' ? -1 : 1)
  view.dispatch(tr.setSelection(TextSelection.create(doc, isExtending ? selection.anchor : to, to)))
  return true
}

/** The end of the line the cursor is in, as it is shown: a paragraph can have several. */
function lineEdge({ state, view }: Editor, side: 'before' | 'after'): number {
  const head = headOf(state.selection)
  const limit = side === 'before' ? head.start() : head.end()
  const step = side === 'before' ? -1 : 1
  const { top, bottom } = view.coordsAtPos(head.pos)
  const middle = (top + bottom) / 2
  let at = head.pos
  while (at !== limit) {
    const next = view.coordsAtPos(at + step)
    if (middle < next.top || middle > next.bottom) break
    at += step
  }
  return at
}

/** Home and End from beside a chip, with Shift or without. */
function toLineEdge(editor: Editor, side: 'before' | 'after', isExtending: boolean): boolean {
  const { selection, doc, tr } = editor.state
  if (!isBesideChip(headOf(selection))) return false
  const to = lineEdge(editor, side)
  editor.view.dispatch(tr.setSelection(TextSelection.create(doc, isExtending ? selection.anchor : to, to)))
  return true
}

/** The chip right before or after the cursor, by its position; null: there is none. */
function chipBeside({ state }: Editor, side: 'before' | 'after'): number | null {
  const { $from, empty } = state.selection
  const node = side === 'before' ? $from.nodeBefore : $from.nodeAfter
  if (!empty || node?.type.name !== 'chip') return null
  return side === 'before' ? $from.pos - node.nodeSize : $from.pos
}

/** Opens the choices of the chip beside the cursor. */
function openChoices(editor: Editor): boolean {
  const at = chipBeside(editor, 'before') ?? chipBeside(editor, 'after')
  const dom = at === null ? null : editor.view.nodeDOM(at)
  if (!(dom instanceof HTMLElement)) return false
  dom.querySelector<HTMLElement>('[data-field]')?.click()
  return true
}

/** Escape leaves a chosen chip: the cursor stands behind it. */
function leaveChip({ state, view }: Editor): boolean {
  const { selection, doc, tr } = state
  if (!(selection instanceof NodeSelection) || selection.node.type.name !== 'chip') return false
  view.dispatch(tr.setSelection(TextSelection.create(doc, selection.to)))
  return true
}

/** Where no chip is chosen, Escape leaves the editor itself: Tab and the keys of the screen count again. */
function leaveEditor({ view }: Editor): boolean {
  view.dom.blur()
  return true
}

export const chipKeys: Readonly<Record<string, KeyboardShortcutCommand>> = {
  ArrowLeft: ({ editor }) => stepBeside(editor, 'before'),
  ArrowRight: ({ editor }) => stepBeside(editor, 'after'),
  'Shift-ArrowLeft': ({ editor }) => stepBeside(editor, 'before', true),
  'Shift-ArrowRight': ({ editor }) => stepBeside(editor, 'after', true),
  Home: ({ editor }) => toLineEdge(editor, 'before', false),
  End: ({ editor }) => toLineEdge(editor, 'after', false),
  'Shift-Home': ({ editor }) => toLineEdge(editor, 'before', true),
  'Shift-End': ({ editor }) => toLineEdge(editor, 'after', true),
  Escape: ({ editor }) => leaveChip(editor) || leaveEditor(editor),
  'Mod-Enter': ({ editor }) => openChoices(editor),
}
