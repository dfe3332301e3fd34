import ICAL from 'ical.js'
import { clientFields, describedFields, type ClientField } from '#core/tables/clientFields.ts'
import type { TableRow } from '#core/tables/clientRows.ts'
import { thrownIn } from '../db/thrown.ts'
import { textOfTable } from './tableText.ts'
import { mostRows, TableFault, type Table } from './readTable.ts'

/** What of a card becomes a column: it does not say who takes promotional mail. */
const columns: readonly ClientField[] = clientFields.filter((field) => field !== 'takesPromotional')

const textOf = (value: unknown): string => {
  if (typeof value === 'string') return value
  return value instanceof ICAL.VCardTime ? value.toString() : ''
}

/** A card (RFC 6350, RFC 2426) as the cells of those columns. */
function cellsOf(card: ICAL.Component): string[] {
  const first = (name: string) => textOf(card.getFirstPropertyValue(name))
  const all = (name: string) =>
    card.getAllProperties(name).flatMap((property) => property.getValues().map(textOf))
  const names: unknown = card.getFirstPropertyValue('n')
  const [lastName = '', firstName = ''] = Array.isArray(names) ? names.map(textOf) : []
  const [email = '', secondEmail = ''] = all('email')
  const found: Partial<Record<ClientField, string>> = {
    name: first('fn'),
    firstName,
    lastName,
    email: email.replace(/^mailto:/i, ''),
    secondEmail: secondEmail.replace(/^mailto:/i, ''),
    phone: (all('tel')[0] ?? '').replace(/^tel:/i, ''),
    language: first('lang'),
    zone: first('tz'),
    tags: all('categories').join(','),
    birthday: first('bday').replace(/T.*$/, ''),
  }
  return columns.map((field) => found[field] ?? '')
}

/** Each card with the line it begins at, so that one that cannot be read costs itself alone. */
function cardsIn(text: string): { readonly line: number; readonly text: string }[] {
  const cards: { line: number; text: string }[] = []
  let open: { line: number; lines: string[] } | null = null
  text.split(/\r\n|\r|\n/).forEach((line, index) => {
    if (/^BEGIN:VCARD\s*$/i.test(line)) open = { line: index + 1, lines: [] }
    open?.lines.push(line)
    if (open && /^END:VCARD\s*$/i.test(line)) {
      cards.push({ line: open.line, text: open.lines.join('\r\n') })
      open = null
    }
  })
  return cards
}

/** Reads cards as a table whose columns are known. Throws a TableFault. */
export function readCards(bytes: Buffer): Table {
  const { text, encoding } = textOfTable(bytes)
  const cards = cardsIn(text)
  if (cards.length === 0) throw new TableFault('There is no whole card in the file: BEGIN:VCARD … END:VCARD.')
  if (cards.length > mostRows) {
    throw new TableFault(`At most ${mostRows.toLocaleString('en')} cards at once. Cut the file into several.`)
  }
  const rows = cards.map(({ line, text: card }): TableRow => {
    try {
      return { line, cells: cellsOf(new ICAL.Component(ICAL.parse(card) as unknown[])) }
    } catch (fault) {
      throw new TableFault(`The card at line ${line} cannot be read: ${thrownIn(fault).message}.`)
    }
  })
  return { heads: columns.map((field) => describedFields[field].label), rows, encoding, delimiter: '' }
}

/** What the columns of cards mean. */
export const cardMatching = columns

export const isCards = (bytes: Buffer) => /BEGIN:VCARD/i.test(textOfTable(bytes.subarray(0, 4000)).text)
