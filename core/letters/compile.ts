import {
  documentOfSignField,
  isSignField,
  type FieldName,
  type Inline,
  type Letter,
  type Passage,
  type Section,
} from '../model/letter.ts'
import { passageIn } from './translations.ts'
import { escapeHtml, pieces } from './html.ts'
import { labels } from './language.ts'
import type { Language } from '../model/values.ts'
import { fieldOfLink, safeLink } from './links.ts'
import { group, type Part } from './parts.ts'
import { sentencesOf } from './sentences.ts'

/** A version of a letter made ready: its parts for HTML and for plain text, and the fields it tells. */
export interface CompiledLetter {
  readonly letter: Letter
  readonly subject: readonly Part[]
  readonly preheader: readonly Part[]
  readonly html: readonly Part[]
  readonly text: readonly Part[]
  readonly fields: readonly FieldName[]
  readonly pictureIds: readonly string[]
}

interface Writer {
  readonly language: Language
  readonly passages: ReadonlyMap<string, Passage>
  readonly isHtml: boolean
}

/** Some parts in a row, as one that stands whatever is in them. */
const row = (...parts: Part[]) => group(parts, '', '', false)

function nodeParts(node: Inline, { isHtml, language }: Writer): readonly Part[] {
  const { open, middle, close } = pieces.link
  if (node.kind === 'field') {
    const slot: Part = { kind: 'slot', field: node.field, ifMissing: node.ifMissing }
    const words = isSignField(node.field)
      ? documentOfSignField(node.field)
      : labels[language].links[node.field]
    if (words === undefined) return [slot]
    // An address alone does not say what it is for.
    if (!isHtml) return [row(`${words}: `, slot)]
    return [row(open, slot, middle, escapeHtml(words), close)]
  }
  const link = node.link === undefined ? null : safeLink(node.link)
  if (!isHtml) return [link === null || node.text === link ? node.text : `${node.text} (${link})`]
  let text = escapeHtml(node.text)
  if (node.strong) text = `<strong>${text}</strong>`
  if (node.emphasis) text = `<em>${text}</em>`
  return [link === null ? text : `${open}${escapeHtml(link)}${middle}${text}${close}`]
}

/** Fields of a sentence that is left out where one of them has no value. */
function leavingOut(sentence: readonly Inline[]): readonly FieldName[] {
  return sentence.flatMap((node) =>
    node.kind === 'field' && node.ifMissing.kind === 'leave out' ? [node.field] : [],
  )
}

/** Some words: sentence by sentence where one of them may be left out. */
function lineParts(nodes: readonly Inline[], writer: Writer): readonly Part[] {
  const plain = (some: readonly Inline[]) => some.flatMap((node) => nodeParts(node, writer))
  if (leavingOut(nodes).length === 0) return plain(nodes)
  return sentencesOf(nodes, writer.language).map((sentence) =>
    group(plain(sentence), '', '', false, leavingOut(sentence)),
  )
}

function paragraphParts(paragraphs: readonly (readonly Inline[])[], writer: Writer): readonly Part[] {
  const [before, after] = writer.isHtml ? pieces.paragraph : ['', '\n\n']
  return paragraphs.map((line) => group(lineParts(line, writer), before, after))
}

function columnParts(
  { left, right }: Extract<Section, { kind: 'columns' }>,
  writer: Writer,
): readonly Part[] {
  const columns = [left, right].map((paragraphs) => paragraphParts(paragraphs, writer))
  const [one = [], other = []] = columns
  if (!writer.isHtml) return [...one, ...other]
  const [open, between, close] = pieces.columns
  return [open, ...one, between, ...other, close]
}

function buttonParts({ label, link }: Extract<Section, { kind: 'button' }>, writer: Writer): readonly Part[] {
  const words = lineParts(label, writer)
  const field = fieldOfLink(link)
  const target: Part | null = field ? { kind: 'slot', field, ifMissing: { kind: 'hold' } } : safeLink(link)
  if (target === null) return writer.isHtml ? [] : [group(words, '', '\n\n')]
  if (!writer.isHtml) return [group(words, '', row(': ', target, '\n\n'))]
  const { open, middle, close } = pieces.button
  const address = typeof target === 'string' ? escapeHtml(target) : target
  return [group(words, row(open, address, middle), close)]
}

/** Where a picture of a message comes from: a part of the message itself (RFC 2392). */
export const pictureSource = (pictureId: string) => `cid:${pictureId}@vorfreude`

function sectionParts(section: Section, writer: Writer): readonly Part[] {
  const { isHtml } = writer
  switch (section.kind) {
    case 'heading': {
      const [before, after] = isHtml ? pieces.heading : ['', '\n\n']
      return [group(lineParts(section.content, writer), before, after)]
    }
    case 'text':
      return paragraphParts(section.paragraphs, writer)
    case 'facts':
      return [{ kind: 'made', make: 'facts' }]
    case 'divider':
      return [isHtml ? pieces.divider : `${'-'.repeat(40)}\n\n`]
    case 'signature':
      return [{ kind: 'made', make: 'signature' }]
    case 'picture': {
      const { pictureId, alternative } = section
      if (isHtml) return [pieces.picture(pictureSource(pictureId), escapeHtml(alternative))]
      return alternative === '' ? [] : [`[${alternative}]\n\n`]
    }
    case 'button':
      return buttonParts(section, writer)
    case 'columns':
      return columnParts(section, writer)
    case 'passage':
      return paragraphParts(passageIn(writer.passages.get(section.passageId), writer.language), writer)
  }
}

const factFields: readonly FieldName[] = [
  'booking.service',
  'booking.date',
  'booking.time',
  'booking.endTime',
  'booking.place',
  'booking.partySize',
]

function fieldsIn(parts: readonly Part[]): readonly FieldName[] {
  return parts.flatMap((part): readonly FieldName[] => {
    if (typeof part === 'string') return []
    if (part.kind === 'slot') return [part.field]
    if (part.kind === 'group') return fieldsIn([part.before, ...part.parts, part.after])
    return part.make === 'facts' ? factFields : []
  })
}

/** Makes a version of a letter ready, with the passages it uses. */
export function compileLetter(letter: Letter, passages: readonly Passage[]): CompiledLetter {
  const known = new Map(passages.map((one) => [one.id, one]))
  const writer = (isHtml: boolean): Writer => ({ language: letter.language, passages: known, isHtml })
  const parts = (isHtml: boolean): readonly Part[] => {
    const body = letter.sections.flatMap((section) => sectionParts(section, writer(isHtml)))
    return letter.class === 'promotional' ? [...body, { kind: 'made', make: 'footer' }] : body
  }
  const subject = lineParts(letter.subject, writer(false))
  const preheader = lineParts(letter.preheader, writer(false))
  const html = parts(true)
  return {
    letter,
    subject,
    preheader,
    html,
    text: parts(false),
    fields: [...new Set([...fieldsIn(subject), ...fieldsIn(preheader), ...fieldsIn(html)])],
    pictureIds: letter.sections.flatMap((one) => (one.kind === 'picture' ? [one.pictureId] : [])),
  }
}

/** Words outside a letter, such as a text message: in plain text. */
export function compileWords(words: readonly Inline[], language: Language): readonly Part[] {
  return lineParts(words, { language, passages: new Map(), isHtml: false })
}
