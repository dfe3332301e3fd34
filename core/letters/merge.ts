import type { FieldName, Inline, Letter, Section } from '../model/letter.ts'
import { clockTime, longDate } from '../time/format.ts'
import { dayAt } from '../time/zones.ts'
import { fieldValue, type MergeFacts } from './fields.ts'

/** A run of merged text; `isStrong` is emphasis. */
export interface MergedText {
  readonly text: string
  readonly isStrong: boolean
}

export type MergedBlock =
  | { readonly kind: 'heading'; readonly content: readonly MergedText[] }
  | { readonly kind: 'paragraph'; readonly content: readonly MergedText[] }
  | { readonly kind: 'facts'; readonly rows: readonly { readonly label: string; readonly value: string }[] }
  | { readonly kind: 'divider' }
  | { readonly kind: 'signature'; readonly lines: readonly string[] }

export interface MergedLetter {
  readonly subject: string
  readonly blocks: readonly MergedBlock[]
}

/** Either the merged letter, or the fields without a value that must hold the message back. */
export type MergeOutcome =
  | { readonly ok: true; readonly letter: MergedLetter }
  | { readonly ok: false; readonly missing: readonly FieldName[] }

/** A letter's words with its fields filled in for one recipient. */
export function mergeLetter(letter: Letter, facts: MergeFacts): MergeOutcome {
  const missing = new Set<FieldName>()
  const fill = (node: Inline): MergedText => {
    if (node.kind === 'text') return { text: node.text, isStrong: node.strong ?? false }
    const value = fieldValue(node.field, facts)
    if (value === '' && node.ifMissing.kind === 'hold') missing.add(node.field)
    const substitute = node.ifMissing.kind === 'substitute' ? node.ifMissing.text : ''
    return { text: value === '' ? substitute : value, isStrong: false }
  }
  const subject = asOneLine(letter.subject.map((node) => fill(node).text).join(''))
  const blocks = letter.sections.flatMap((section) => mergedSection(section, fill, facts))
  return missing.size > 0 ? { ok: false, missing: [...missing] } : { ok: true, letter: { subject, blocks } }
}

/** A subject is one header line: control characters and line breaks become spaces. */
function asOneLine(text: string): string {
  return text
    .replace(/[\p{Cc}\u2028\u2029]+/gu, ' ')
    .replace(/ {2,}/g, ' ')
    .trim()
}

function mergedSection(
  section: Section,
  fill: (node: Inline) => MergedText,
  facts: MergeFacts,
): MergedBlock[] {
  switch (section.kind) {
    case 'heading':
      return [{ kind: 'heading', content: section.content.map(fill) }]
    case 'text':
      return section.paragraphs.map((nodes) => ({ kind: 'paragraph', content: nodes.map(fill) }))
    case 'facts':
      return [{ kind: 'facts', rows: factRows(facts) }]
    case 'divider':
      return [{ kind: 'divider' }]
    case 'signature':
      return [{ kind: 'signature', lines: signatureLines(facts) }]
  }
}

function factRows({ booking, service, zone }: MergeFacts) {
  if (!booking || !service) return []
  const day = longDate(dayAt(zone, booking.startAt))
  const times = `${clockTime(zone, booking.startAt)} to ${clockTime(zone, booking.endAt)}`
  return [
    { label: 'What', value: service.name },
    { label: 'When', value: `${day}, ${times}` },
    { label: 'Where', value: service.place },
    { label: 'For', value: booking.partySize === 1 ? '1 person' : `${booking.partySize} people` },
  ].filter(({ value }) => value !== '')
}

function signatureLines({ personInCharge, business }: MergeFacts): string[] {
  return [personInCharge?.name ?? '', business.name, business.phone, business.postalAddress].filter(Boolean)
}
