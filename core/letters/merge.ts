import type { Attachment, FieldName, Inline, Letter, Passage } from '../model/letter.ts'
import { bookingRows } from './bookingWords.ts'
import { compileLetter, compileWords, pictureSource, type CompiledLetter } from './compile.ts'
import { fieldValue, type MergeFacts } from './fields.ts'
import { escapeHtml, factsHtml, footerHtml, letterheadHtml, pageAround, signatureHtml } from './html.ts'
import { labels } from './language.ts'
import type { Language } from '../model/values.ts'
import { fill, type Filling } from './parts.ts'

/** A letter filled for one recipient. */
export interface MergedLetter {
  readonly subject: string
  readonly preheader: string
  readonly html: string
  readonly text: string
  readonly pictureIds: readonly string[]
  readonly attachments: readonly Attachment[]
}

/** Either the merged letter, or the fields without a value that must hold the message back. */
export type MergeOutcome =
  | { readonly ok: true; readonly letter: MergedLetter }
  | { readonly ok: false; readonly missing: readonly FieldName[] }

/** A subject is one header line: control characters and line breaks become spaces, direction marks go. */
function asOneLine(text: string): string {
  return text
    .replace(/[\u202A-\u202E\u2066-\u2069]/g, '')
    .replace(/[\p{Cc}\u2028\u2029]+/gu, ' ')
    .replace(/ {2,}/g, ' ')
    .trim()
}

function factRows({ booking, service, ...zones }: MergeFacts, language: Language) {
  return booking && service ? bookingRows(booking, service, zones, language) : []
}

function factsText(rows: readonly { readonly label: string; readonly value: string }[]): string {
  const width = Math.max(0, ...rows.map(({ label }) => label.length))
  const lines = rows.map(({ label, value }) => `${`${label}:`.padEnd(width + 2)}${value}`)
  return rows.length === 0 ? '' : `${lines.join('\n')}\n\n`
}

function signatureLines({ personInCharge, business }: MergeFacts): string[] {
  const own = personInCharge?.signature.text.split('\n') ?? []
  const name = personInCharge?.name ?? ''
  return [name, ...own, business.name, business.phone, business.postalAddress].filter(Boolean)
}

/** The picture that stands beside a signature; null: there is none. */
const signaturePicture = ({ personInCharge }: MergeFacts) => personInCharge?.signature.pictureId ?? null

/** Pictures of a letter, and that of who signs it. */
function picturesOf(
  { sections }: Letter,
  { pictureIds }: CompiledLetter,
  facts: MergeFacts,
): readonly string[] {
  const own = sections.some(({ kind }) => kind === 'signature') ? signaturePicture(facts) : null
  return own === null || pictureIds.includes(own) ? pictureIds : [...pictureIds, own]
}

function makers(facts: MergeFacts, language: Language, isHtml: boolean): Filling['make'] {
  return (what) => {
    switch (what) {
      case 'facts': {
        const rows = factRows(facts, language)
        return isHtml ? factsHtml(rows) : factsText(rows)
      }
      case 'signature': {
        const lines = signatureLines(facts)
        const pictureId = signaturePicture(facts)
        return isHtml
          ? signatureHtml(lines, pictureId && pictureSource(pictureId))
          : `${lines.join('\n')}\n\n`
      }
      case 'footer': {
        const { postalAddress } = facts.business
        const words = labels[language].links['link.optOut']
        return isHtml
          ? footerHtml(postalAddress, facts.optOutUrl, words)
          : `-- \n${postalAddress}\n${words}: ${facts.optOutUrl}\n`
      }
    }
  }
}

const plainly = (value: string) => value

/** Fills a letter that was made ready for one recipient. */
export function mergeCompiled(compiled: CompiledLetter, facts: MergeFacts): MergeOutcome {
  const { letter } = compiled
  const { language } = letter
  const missing = new Set<FieldName>()
  const values = new Map<FieldName, string>()
  const value = (field: FieldName) => {
    const known = values.get(field)
    if (known !== undefined) return known
    const found = fieldValue(field, facts, language)
    values.set(field, found)
    return found
  }
  const onMissing = (field: FieldName) => missing.add(field)
  const text: Filling = { value, write: plainly, make: makers(facts, language, false), onMissing }
  const html: Filling = { value, write: escapeHtml, make: makers(facts, language, true), onMissing }
  const subject = asOneLine(fill(compiled.subject, text))
  const preheader = asOneLine(fill(compiled.preheader, text))
  const [start, title, body, end] = pageAround(language, letter.letterhead)
  const head = letter.letterhead === 'none' ? '' : letterheadHtml(facts.business.name)
  const page =
    start +
    escapeHtml(subject) +
    title +
    escapeHtml(preheader) +
    body +
    head +
    fill(compiled.html, html) +
    end
  const plain = `${fill(compiled.text, text).trimEnd()}\n`
  if (missing.size > 0) return { ok: false, missing: [...missing] }
  return {
    ok: true,
    letter: {
      subject,
      preheader,
      html: page,
      text: plain,
      pictureIds: picturesOf(letter, compiled, facts),
      attachments: letter.attachments,
    },
  }
}

const ready = new WeakMap<Letter, { passages: readonly Passage[]; compiled: CompiledLetter }>()

/** A letter made ready, once for each version of it and its passages. */
export function readyLetter(letter: Letter, passages: readonly Passage[]): CompiledLetter {
  const known = ready.get(letter)
  if (known?.passages === passages) return known.compiled
  const compiled = compileLetter(letter, passages)
  ready.set(letter, { passages, compiled })
  return compiled
}

/** A letter's words with its fields filled in for one recipient. */
export function mergeLetter(letter: Letter, passages: readonly Passage[], facts: MergeFacts): MergeOutcome {
  return mergeCompiled(readyLetter(letter, passages), facts)
}

/** The fields without a value that must hold a letter back for one recipient. */
export function missingFields(
  letter: Letter,
  passages: readonly Passage[],
  facts: MergeFacts,
): readonly FieldName[] {
  const { subject, preheader, html, text } = readyLetter(letter, passages)
  const missing = new Set<FieldName>()
  const asking: Filling = {
    value: (field) => fieldValue(field, facts, letter.language),
    write: plainly,
    make: () => '',
    onMissing: (field) => missing.add(field),
  }
  for (const part of [subject, preheader, html, text]) fill(part, asking)
  return [...missing]
}

/** The fields a letter says, whatever their values. */
export function fieldsIn(letter: Letter, passages: readonly Passage[]): readonly FieldName[] {
  const { subject, preheader, html, text } = readyLetter(letter, passages)
  const said = new Set<FieldName>()
  const asking: Filling = {
    value: (field) => {
      said.add(field)
      return field
    },
    write: plainly,
    make: () => '',
    onMissing: () => undefined,
  }
  for (const part of [subject, preheader, html, text]) fill(part, asking)
  return [...said]
}

/** Words with their fields filled in, on one line, in the language of whoever reads them; or the fields that are missing. */
export function mergeWords(
  words: readonly Inline[],
  facts: MergeFacts,
  language: Language,
):
  | { readonly ok: true; readonly text: string }
  | { readonly ok: false; readonly missing: readonly FieldName[] } {
  const missing = new Set<FieldName>()
  const text = fill(compileWords(words, language), {
    value: (field) => fieldValue(field, facts, language),
    write: plainly,
    make: () => '',
    onMissing: (field) => missing.add(field),
  })
  return missing.size > 0 ? { ok: false, missing: [...missing] } : { ok: true, text: text.trim() }
}

/** Typed words as a message of their own, for notes to the team. */
export function plainPage(subject: string, words: string, language: Language): string {
  const [start, title, body, end] = pageAround(language, 'none')
  return `${start}${escapeHtml(subject)}${title}${body}<p>${escapeHtml(words)}</p>\n${end}`
}
