import { Document } from '@tiptap/extension-document'
import { Extension, type Editor, type JSONContent } from '@tiptap/core'
import { NodeSelection, Plugin, Selection, TextSelection } from '@tiptap/pm/state'
import type { EditorView } from '@tiptap/pm/view'
import StarterKit from '@tiptap/starter-kit'
import { blocks } from './Blocks.tsx'
import { ChipNode } from './Chip.tsx'

/** Moves the block at the cursor one place up or down. */
export function moveBlock(editor: Editor, direction: -1 | 1): boolean {
  const { state, view } = editor
  const { $from } = state.selection
  const index = $from.index(0)
  const target = index + direction
  const node = state.doc.maybeChild(index)
  const other = state.doc.maybeChild(target)
  if (!node || !other) return false
  const offset = (upTo: number) => {
    let at = 0
    for (let one = 0; one < upTo; one += 1) at += state.doc.child(one).nodeSize
    return at
  }
  const from = offset(index)
  const first = Math.min(from, offset(target))
  const both = direction === 1 ? [other, node] : [node, other]
  const transaction = state.tr.replaceWith(first, first + node.nodeSize + other.nodeSize, both)
  const start = direction === 1 ? first + other.nodeSize : first
  const within = Math.min($from.pos - from, node.nodeSize - 1)
  view.dispatch(transaction.scrollIntoView())
  editor.commands.setTextSelection(start + Math.max(1, within))
  return true
}

/**
 * Puts a block behind the one the cursor is in or that is chosen; an empty paragraph makes room for it. What stood there
 * stays, and the new block is chosen, or the cursor is in its words.
 */
export function addBlock(editor: Editor, content: JSONContent): void {
  const { state, view } = editor
  const { $from } = state.selection
  const index = $from.index(0)
  const present = state.doc.maybeChild(index)
  let end = 0
  for (let one = 0; one <= index && one < state.doc.childCount; one += 1) end += state.doc.child(one).nodeSize
  const isEmptyWords = present?.type.name === 'paragraph' && present.content.size === 0
  const start = isEmptyWords ? end - present.nodeSize : end
  const block = state.schema.nodeFromJSON(content)
  const transaction = isEmptyWords ? state.tr.replaceWith(start, end, block) : state.tr.insert(start, block)
  const selection = block.isAtom
    ? NodeSelection.create(transaction.doc, start)
    : block.isTextblock
      ? TextSelection.create(transaction.doc, start + 1, start + 1 + block.content.size)
      : Selection.near(transaction.doc.resolve(start + 1))
  view.dispatch(transaction.setSelection(selection).scrollIntoView())
  view.focus()
  // Once more with the next frame: a menu that closes takes the focus back.
  editor.commands.focus()
}

const keys = (onAskField: () => void) =>
  Extension.create({
    name: 'letterKeys',
    addKeyboardShortcuts: () => ({
      'Mod-.': () => {
        onAskField()
        return true
      },
      'Alt-ArrowUp': ({ editor }) => moveBlock(editor, -1),
      'Alt-ArrowDown': ({ editor }) => moveBlock(editor, 1),
    }),
  })

/** Where a whole block or a field is chosen, a place for words behind it; true: there is one now. */
function placeBehindChosen({ state, dispatch }: EditorView): boolean {
  const { selection, schema, tr } = state
  if (!(selection instanceof NodeSelection)) return false
  const at = selection.to
  if (selection.node.isInline) {
    dispatch(tr.setSelection(TextSelection.create(tr.doc, at)))
    return true
  }
  const paragraph = schema.nodes['paragraph']?.createAndFill()
  if (!paragraph) return false
  tr.insert(at, paragraph)
  dispatch(tr.setSelection(TextSelection.create(tr.doc, at + 1)))
  return true
}

/** What is typed or pasted while a block or a field is chosen goes behind it, never into its place. */
const chosenStays = Extension.create({
  name: 'chosenStays',
  addProseMirrorPlugins: () => [
    new Plugin({
      props: {
        handleTextInput: (view, _from, _to, text) => {
          if (!placeBehindChosen(view)) return false
          view.dispatch(view.state.tr.insertText(text))
          return true
        },
        handlePaste: (view) => {
          placeBehindChosen(view)
          return false
        },
      },
    }),
  ],
})

const plainKit = {
  blockquote: false,
  bulletList: false,
  code: false,
  codeBlock: false,
  hardBreak: false,
  horizontalRule: false,
  listItem: false,
  listKeymap: false,
  orderedList: false,
  strike: false,
  underline: false,
  trailingNode: false,
} as const

/** A link is made by a person, never by typing or pasting, and followed by no click in the editor. */
const linkOptions = { openOnClick: false, autolink: false, linkOnPaste: false }

/** The body of a letter. */
export function bodyExtensions(onAskField: () => void) {
  return [
    StarterKit.configure({
      ...plainKit,
      heading: { levels: [2] },
      link: linkOptions,
    }),
    ChipNode,
    ...blocks,
    chosenStays,
    keys(onAskField),
  ]
}

/** Some paragraphs without blocks. */
export function textExtensions(onAskField: () => void) {
  return [
    Document.extend({ content: 'paragraph+' }),
    StarterKit.configure({
      ...plainKit,
      document: false,
      heading: false,
      link: linkOptions,
    }),
    ChipNode,
    chosenStays,
    keys(onAskField),
  ]
}

/** One line, such as a subject: no blocks, no line breaks, no marks. */
export function lineExtensions(onAskField: () => void) {
  return [
    Document.extend({ content: 'paragraph' }),
    StarterKit.configure({
      ...plainKit,
      document: false,
      heading: false,
      bold: false,
      italic: false,
      link: false,
    }),
    ChipNode,
    chosenStays,
    keys(onAskField),
    Extension.create({ name: 'oneLine', addKeyboardShortcuts: () => ({ Enter: () => true }) }),
  ]
}
