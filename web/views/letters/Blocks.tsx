import { NativeSelect, TextInput } from '@mantine/core'
import { Extension, mergeAttributes, Node } from '@tiptap/core'
import { NodeViewContent, NodeViewWrapper, ReactNodeViewRenderer, type NodeViewProps } from '@tiptap/react'
import type { ReactNode } from 'react'
import { fieldInfo } from '#core/letters/fieldList.ts'
import { fieldOfLink, linkFields, linkToField } from '#core/letters/links.ts'
import { signField, type FieldName } from '#core/model/letter.ts'
import { useAsk } from '../../app/queries.ts'
import { useEditing } from './editing.ts'
import styles from './letters.module.css'

/** Attributes every block has: the id of its section, and whether it is marked as advertising. */
export const SectionAttributes = Extension.create({
  name: 'sectionAttributes',
  addGlobalAttributes: () => [
    {
      types: [
        'paragraph',
        'heading',
        'facts',
        'divider',
        'signature',
        'picture',
        'button',
        'columns',
        'passage',
      ],
      attributes: {
        sectionId: { default: '', rendered: false },
        isAdvertising: {
          default: false,
          renderHTML: ({ isAdvertising }: Record<string, unknown>) =>
            isAdvertising === true ? { 'data-advertising': '' } : {},
        },
      },
    },
  ],
})

/** The place of a block that is one whole thing. */
function Whole({ label, selected, children }: { label: string; selected: boolean; children?: ReactNode }) {
  return (
    <NodeViewWrapper
      className={styles.block}
      data-chosen={selected || undefined}
      data-drag-handle
      contentEditable={false}
    >
      <span className={styles.blockName}>{label}</span>
      {children}
    </NodeViewWrapper>
  )
}

function block(
  name: string,
  View: (props: NodeViewProps) => ReactNode,
  attributes: Readonly<Record<string, string>> = {},
) {
  return Node.create({
    name,
    group: 'block',
    atom: true,
    draggable: true,
    addAttributes: () =>
      Object.fromEntries(Object.entries(attributes).map(([key, value]) => [key, { default: value }])),
    parseHTML: () => [{ tag: `div[data-block="${name}"]` }],
    renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-block': name })],
    addNodeView: () => ReactNodeViewRenderer(View),
  })
}

const FactsBlock = block('facts', ({ selected }) => (
  <Whole label="Booking facts" selected={selected}>
    <span>What, when, where, for how many: always whole.</span>
  </Whole>
))

const DividerBlock = block('divider', ({ selected }) => (
  <Whole label="Divider" selected={selected}>
    <hr />
  </Whole>
))

const SignatureBlock = block('signature', ({ selected }) => (
  <Whole label="Signature" selected={selected}>
    <span>The person in charge, the business, telephone and postal address.</span>
  </Whole>
))

const PassageBlock = block(
  'passage',
  function PassageView({ node, selected }) {
    const { passages } = useEditing()
    const passage = passages.find(({ id }) => id === node.attrs['passageId'])
    const text = passage?.paragraphs
      .map((line) => line.map((one) => (one.kind === 'text' ? one.text : '…')).join(''))
      .join(' ')
    return (
      <Whole label={`Passage: ${passage?.name ?? 'not there any more'}`} selected={selected}>
        <span>{text}</span>
      </Whole>
    )
  },
  { passageId: '' },
)

const PictureBlock = block(
  'picture',
  function PictureView({ node, selected, updateAttributes }) {
    const pictureId = String(node.attrs['pictureId'])
    return (
      <Whole label="Picture" selected={selected}>
        <img src={`/api/files/${pictureId}`} alt={String(node.attrs['alternative'])} />
        <TextInput
          size="xs"
          label="What can be seen, for those who cannot see it"
          value={String(node.attrs['alternative'])}
          maxLength={300}
          onChange={(event) => updateAttributes({ alternative: event.currentTarget.value })}
        />
      </Whole>
    )
  },
  { pictureId: '', alternative: '' },
)

const asChoice = (field: FieldName) => ({ value: linkToField(field), label: fieldInfo(field).label })

function ButtonView({ node, updateAttributes }: NodeViewProps) {
  const link = String(node.attrs['link'])
  const field = fieldOfLink(link)
  const settings = useAsk('settings')
  const toSign = (settings.data?.documents ?? [])
    .filter(({ isActive, name }) => isActive || field === signField(name))
    .map(({ name }) => signField(name))
  return (
    <NodeViewWrapper className={styles.block}>
      <span className={styles.blockName} contentEditable={false}>
        Button
      </span>
      <NodeViewContent className={styles.buttonLabel} />
      <div contentEditable={false} className={styles.leadsTo}>
        <NativeSelect
          size="xs"
          label="It leads to"
          data={[{ value: '', label: 'a web address' }, ...linkFields.map(asChoice), ...toSign.map(asChoice)]}
          value={field ? link : ''}
          onChange={(event) => updateAttributes({ link: event.currentTarget.value || 'https://' })}
        />
        {field === null && (
          <TextInput
            size="xs"
            label="Address"
            placeholder="https://"
            value={link}
            onChange={(event) => updateAttributes({ link: event.currentTarget.value })}
          />
        )}
      </div>
    </NodeViewWrapper>
  )
}

const ButtonBlock = Node.create({
  name: 'button',
  group: 'block',
  content: 'inline*',
  draggable: true,
  addAttributes: () => ({ link: { default: 'https://' } }),
  parseHTML: () => [{ tag: 'div[data-block="button"]' }],
  renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-block': 'button' }), 0],
  addNodeView: () => ReactNodeViewRenderer(ButtonView),
})

const ColumnBlock = Node.create({
  name: 'column',
  content: 'paragraph+',
  isolating: true,
  parseHTML: () => [{ tag: 'div[data-block="column"]' }],
  renderHTML: () => ['div', { 'data-block': 'column', class: styles.column ?? '' }, 0],
})

const ColumnsBlock = Node.create({
  name: 'columns',
  group: 'block',
  content: 'column column',
  isolating: true,
  draggable: true,
  parseHTML: () => [{ tag: 'div[data-block="columns"]' }],
  renderHTML: ({ HTMLAttributes }) => [
    'div',
    mergeAttributes(HTMLAttributes, { 'data-block': 'columns', class: styles.columns ?? '' }),
    0,
  ],
})

export const blocks = [
  SectionAttributes,
  FactsBlock,
  DividerBlock,
  SignatureBlock,
  PassageBlock,
  PictureBlock,
  ButtonBlock,
  ColumnBlock,
  ColumnsBlock,
]
