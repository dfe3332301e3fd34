import type { JSONContent } from '@tiptap/core'
import { missingRule, fieldName, type Inline, type Section } from '#core/model/letter.ts'

/*
 * A letter's body as the editor's document, and back. A text section is a run of paragraphs; every other section is a
 * block of its own. Both ways lose nothing.
 */

function textNode(node: Extract<Inline, { kind: 'text' }>): JSONContent[] {
  if (node.text === '') return []
  const marks = [
    ...(node.strong ? [{ type: 'bold' }] : []),
    ...(node.emphasis ? [{ type: 'italic' }] : []),
    ...(node.link === undefined ? [] : [{ type: 'link', attrs: { href: node.link } }]),
  ]
  return [{ type: 'text', text: node.text, ...(marks.length === 0 ? {} : { marks }) }]
}

/** Words as the content of a paragraph. */
export function inlineContent(nodes: readonly Inline[]): JSONContent[] {
  return nodes.flatMap((node): JSONContent[] =>
    node.kind === 'field'
      ? [{ type: 'chip', attrs: { field: node.field, ifMissing: node.ifMissing } }]
      : textNode(node),
  )
}

const paragraph = (nodes: readonly Inline[], attrs: JSONContent['attrs'] = {}): JSONContent => ({
  type: 'paragraph',
  attrs,
  content: inlineContent(nodes),
})

function blocksOf(section: Section): JSONContent[] {
  const { id: sectionId, isAdvertising = false } = section
  const attrs = { sectionId, isAdvertising }
  switch (section.kind) {
    case 'heading':
      return [{ type: 'heading', attrs: { ...attrs, level: 2 }, content: inlineContent(section.content) }]
    case 'text':
      return section.paragraphs.map((nodes) => paragraph(nodes, attrs))
    case 'facts':
    case 'divider':
    case 'signature':
      return [{ type: section.kind, attrs }]
    case 'picture': {
      const { pictureId, alternative } = section
      return [{ type: 'picture', attrs: { ...attrs, pictureId, alternative } }]
    }
    case 'button':
      return [
        { type: 'button', attrs: { ...attrs, link: section.link }, content: inlineContent(section.label) },
      ]
    case 'columns':
      return [
        {
          type: 'columns',
          attrs,
          content: [section.left, section.right].map((paragraphs) => ({
            type: 'column',
            content: paragraphs.length === 0 ? [paragraph([])] : paragraphs.map((nodes) => paragraph(nodes)),
          })),
        },
      ]
    case 'passage':
      return [{ type: 'passage', attrs: { ...attrs, passageId: section.passageId } }]
  }
}

/** A letter's sections as a document of the editor; an empty letter has one empty paragraph. */
export function documentOf(sections: readonly Section[]): JSONContent {
  const content = sections.flatMap(blocksOf)
  return { type: 'doc', content: content.length === 0 ? [paragraph([])] : content }
}

function markedText({ text = '', marks = [] }: JSONContent): Inline {
  const has = (type: string) => marks.some((mark) => mark.type === type)
  const link: unknown = marks.find(({ type }) => type === 'link')?.attrs?.['href']
  return {
    kind: 'text',
    text,
    ...(has('bold') ? { strong: true } : {}),
    ...(has('italic') ? { emphasis: true } : {}),
    ...(typeof link === 'string' ? { link } : {}),
  }
}

/** The content of a paragraph as words. What is no text and no whole field is not taken. */
export function inlineOf(content: readonly JSONContent[] | undefined): Inline[] {
  return (content ?? []).flatMap((node): Inline[] => {
    if (node.type === 'text') return [markedText(node)]
    const field = fieldName.safeParse(node.attrs?.['field'])
    const ifMissing = missingRule.safeParse(node.attrs?.['ifMissing'])
    if (node.type !== 'chip' || !field.success) return []
    return [
      {
        kind: 'field',
        field: field.data,
        ifMissing: ifMissing.success ? ifMissing.data : { kind: 'undecided' },
      },
    ]
  })
}

const word = (value: unknown) => (typeof value === 'string' ? value : '')

function sectionOf({ type, attrs = {}, content }: JSONContent, id: string): Section | null {
  const own = { id, ...(attrs['isAdvertising'] === true ? { isAdvertising: true } : {}) }
  switch (type) {
    case 'heading':
      return { ...own, kind: 'heading', content: inlineOf(content) }
    case 'facts':
    case 'divider':
    case 'signature':
      return { ...own, kind: type }
    case 'picture':
      return {
        ...own,
        kind: 'picture',
        pictureId: word(attrs['pictureId']),
        alternative: word(attrs['alternative']),
      }
    case 'button':
      return { ...own, kind: 'button', label: inlineOf(content), link: word(attrs['link']) }
    case 'columns': {
      const [left = [], right = []] = (content ?? []).map((column) =>
        (column.content ?? []).map((one) => inlineOf(one.content)),
      )
      return { ...own, kind: 'columns', left, right }
    }
    case 'passage':
      return { ...own, kind: 'passage', passageId: word(attrs['passageId']) }
    default:
      return null
  }
}

/** A document of the editor as sections, each with an id of its own: those they had, where they had one. */
export function sectionsOf(document: JSONContent): Section[] {
  const sections: Section[] = []
  const taken = new Set<string>()
  const idFor = (wanted: unknown) => {
    let id = word(wanted)
    for (let count = 1; id === '' || taken.has(id); count += 1) id = `n${sections.length}-${count}`
    taken.add(id)
    return id
  }
  for (const node of document.content ?? []) {
    const last = sections.at(-1)
    if (node.type === 'paragraph') {
      const words = inlineOf(node.content)
      const isAdvertising = node.attrs?.['isAdvertising'] === true
      if (last?.kind === 'text' && (last.isAdvertising ?? false) === isAdvertising) {
        last.paragraphs.push(words)
      } else {
        const id = idFor(node.attrs?.['sectionId'])
        const flag = isAdvertising ? { isAdvertising } : {}
        sections.push({ id, ...flag, kind: 'text', paragraphs: [words] })
      }
      continue
    }
    const section = sectionOf(node, 'x')
    if (section) sections.push({ ...section, id: idFor(node.attrs?.['sectionId']) })
  }
  return sections
}
