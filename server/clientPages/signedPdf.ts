import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import PdfDocument from 'pdfkit'
import type { FixedDocument, Signature } from '#core/model/document.ts'
import type { Language } from '#core/model/values.ts'
import { dateAndTime } from '#core/time/format.ts'
import type { Zone } from '#core/time/zones.ts'

const require = createRequire(import.meta.url)
const fonts = join(dirname(require.resolve('dejavu-fonts-ttf/package.json')), 'ttf')

interface PdfWords {
  readonly signedBy: string
  readonly on: string
  readonly from: string
  readonly hash: string
}

const pdfWords: Readonly<Record<Language, PdfWords>> = {
  en: { signedBy: 'Signed by', on: 'On', from: 'Network address', hash: 'SHA-256 of the text' },
  de: {
    signedBy: 'Unterschrieben von',
    on: 'Am',
    from: 'Netzwerkadresse',
    hash: 'SHA-256 des Textes',
  },
}

export interface SignedCopy {
  readonly document: FixedDocument
  readonly signed: Signature
  readonly hash: string
  readonly businessName: string
  /** That of the business. */
  readonly zone: Zone
}

/** The copy of a signed document for both: its text, what was agreed to, by whom, when, from where, and its hash. A4. */
export function signedPdf({ document, signed, hash, businessName, zone }: SignedCopy): Promise<Buffer> {
  const { name, paragraphs, consent, language } = document
  const words = pdfWords[language]
  const at = new Date(signed.at)
  const pdf = new PdfDocument({
    size: 'A4',
    margin: 64,
    lang: language,
    displayTitle: true,
    tagged: true,
    pdfVersion: '1.7',
    info: { Title: name, Author: businessName, CreationDate: at, ModDate: at },
  })
  const parts: Buffer[] = []
  const whole = new Promise<Buffer>((resolve, reject) => {
    pdf.on('data', (part: Buffer) => parts.push(part))
    pdf.on('end', () => resolve(Buffer.concat(parts)))
    pdf.on('error', reject)
  })
  pdf.registerFont('plain', join(fonts, 'DejaVuSans.ttf'))
  pdf.registerFont('bold', join(fonts, 'DejaVuSans-Bold.ttf'))
  pdf.font('plain').fontSize(9).text(businessName).moveDown(1.5)
  pdf.font('bold').fontSize(17).text(name).moveDown(1)
  for (const { kind, text } of paragraphs) {
    if (kind === 'heading') pdf.moveDown(0.4).font('bold').fontSize(12).text(text).moveDown(0.3)
    else pdf.font('plain').fontSize(10.5).text(text, { lineGap: 2 }).moveDown(0.7)
  }
  pdf.moveDown(0.5).font('bold').fontSize(10.5).text(`☑ ${consent}`).moveDown(0.8)
  const rows = [
    [words.signedBy, signed.typedName],
    [words.on, `${dateAndTime(zone, signed.at)} (${zone.name}, ${at.toISOString()})`],
    [words.from, signed.address],
    [words.hash, hash],
  ]
  for (const [label = '', value = ''] of rows) {
    pdf.font('plain').fontSize(9).text(`${label}: ${value}`).moveDown(0.25)
  }
  pdf.end()
  return whole
}
