import { Menu, TextInput } from '@mantine/core'
import { mergeAttributes, Node } from '@tiptap/core'
import { NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from '@tiptap/react'
import { useState } from 'react'
import { freshField } from '#core/letters/fieldList.ts'
import { fieldName, missingRule, type FieldName, type MissingRule } from '#core/model/letter.ts'
import { chipKeys } from './chipKeys.ts'
import { labelOf, useEditing, valueFor } from './editing.ts'
import styles from './letters.module.css'

const ruleWords: Readonly<Record<MissingRule['kind'], string>> = {
  undecided: 'not decided yet',
  hold: 'hold the message',
  'leave out': 'leave the sentence out',
  substitute: 'put another word',
}

function Rules({ rule, onRule }: { rule: MissingRule; onRule: (rule: MissingRule) => void }) {
  const [word, setWord] = useState(rule.kind === 'substitute' ? rule.text : '')
  const mark = (kind: MissingRule['kind']) => (rule.kind === kind ? '● ' : '○ ')
  return (
    <>
      <Menu.Label>When it is missing</Menu.Label>
      <Menu.Item onClick={() => onRule({ kind: 'leave out' })}>
        {mark('leave out')}Leave the sentence out
      </Menu.Item>
      <Menu.Item onClick={() => onRule({ kind: 'hold' })}>
        {mark('hold')}Hold the message for a person
      </Menu.Item>
      <form
        className={styles.substitute}
        onSubmit={(event) => {
          event.preventDefault()
          if (word.trim() !== '') onRule({ kind: 'substitute', text: word.trim() })
        }}
      >
        <TextInput
          size="xs"
          label={`${mark('substitute')}Put another word, then Enter`}
          value={word}
          maxLength={200}
          onChange={(event) => setWord(event.currentTarget.value)}
          onKeyDown={(event) => event.stopPropagation()}
        />
      </form>
    </>
  )
}

function ChipView({ editor, getPos, node, updateAttributes, deleteNode, selected }: NodeViewProps) {
  const editing = useEditing()
  const field = fieldName.safeParse(node.attrs['field'])
  const read = missingRule.safeParse(node.attrs['ifMissing'])
  const rule: MissingRule = read.success ? read.data : { kind: 'undecided' }
  if (!field.success) return <NodeViewWrapper as="span">unknown field</NodeViewWrapper>
  const value = valueFor(field.data, editing)
  const shown = editing.showsValues && value !== '' ? value : labelOf(field.data)
  return (
    <NodeViewWrapper as="span" className={styles.chipSpot}>
      <Menu
        position="bottom-start"
        withinPortal
        trapFocus
        returnFocus={false}
        onClose={() => {
          // Whoever leaves the choices goes on writing behind the field.
          const at = getPos()
          if (at !== undefined)
            editor
              .chain()
              .setTextSelection(at + 1)
              .focus()
              .run()
        }}
      >
        <Menu.Target>
          <span
            role="button"
            tabIndex={-1}
            className={styles.chip}
            data-missing={rule.kind === 'undecided' || undefined}
            data-chosen={selected || undefined}
            data-field={field.data}
            title={`${labelOf(field.data)}${value === '' ? '' : `: ${value}`} · when missing: ${ruleWords[rule.kind]} · Ctrl+Enter beside it: its choices`}
          >
            {shown}
          </span>
        </Menu.Target>
        <Menu.Dropdown>
          <Rules rule={rule} onRule={(next) => updateAttributes({ ifMissing: next })} />
          <Menu.Divider />
          <Menu.Item onClick={() => deleteNode()}>Take the field out</Menu.Item>
        </Menu.Dropdown>
      </Menu>
    </NodeViewWrapper>
  )
}

declare module '@tiptap/core' {
  interface Commands<ReturnType> {
    chip: { insertField: (field: FieldName) => ReturnType }
  }
}

/** A merge field: one whole thing that can be put in, moved and deleted, and never be cut in two. */
export const ChipNode = Node.create({
  name: 'chip',
  group: 'inline',
  inline: true,
  atom: true,
  selectable: true,
  draggable: true,
  addAttributes: () => ({
    field: { default: null, parseHTML: (element: HTMLElement) => element.dataset['field'] ?? null },
    ifMissing: {
      default: { kind: 'undecided' },
      parseHTML: (element: HTMLElement): unknown => {
        try {
          return JSON.parse(element.dataset['missing'] ?? 'null') ?? { kind: 'undecided' }
        } catch {
          return { kind: 'undecided' }
        }
      },
      renderHTML: ({ ifMissing }: Record<string, unknown>) => ({ 'data-missing': JSON.stringify(ifMissing) }),
    },
  }),
  parseHTML: () => [
    {
      tag: 'span[data-chip]',
      // Only fields there are: whatever else was pasted stays text.
      getAttrs: (element) => (fieldName.safeParse(element.dataset['field']).success ? null : false),
    },
  ],
  renderHTML: ({ node, HTMLAttributes }) => [
    'span',
    mergeAttributes(HTMLAttributes, { 'data-chip': '', 'data-field': String(node.attrs['field']) }),
    `‹${fieldName.safeParse(node.attrs['field']).success ? labelOf(node.attrs['field'] as FieldName) : ''}›`,
  ],
  renderText: ({ node }) => `‹${labelOf(node.attrs['field'] as FieldName)}›`,
  addCommands: () => ({
    insertField:
      (field) =>
      ({ commands }) =>
        commands.insertContent({ type: 'chip', attrs: { field, ifMissing: freshField(field).ifMissing } }),
  }),
  addKeyboardShortcuts: () => chipKeys,
  addNodeView: () => ReactNodeViewRenderer(ChipView, { as: 'span', className: styles.chipSpot ?? '' }),
})
