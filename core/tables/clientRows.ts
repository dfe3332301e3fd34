import { clientInput, type ClientInput } from '../engine/commands/clientCommands.ts'
import { folded } from '../model/folded.ts'
import { reservedEndingOf, reservedSentence } from '../model/reservedAddress.ts'
import { emailAddress, type Language } from '../model/values.ts'
import { noSuchZone, type ZoneTable } from '../time/zones.ts'
import { describedFields, type ClientField, type Matching } from './clientFields.ts'
import { readDate, type DateOrder } from './dates.ts'
import { cellsByField } from './matching.ts'

/** A row of a table, with the line of the file it begins at. */
export interface TableRow {
  readonly line: number
  readonly cells: readonly string[]
}

/** What is wrong in a row, and in which field; null: in all of it. */
export interface RowFault {
  readonly field: ClientField | null
  readonly sentence: string
}

/** A row as a client, or what is wrong with it. */
export type RowRead =
  | { readonly line: number; readonly input: ClientInput; readonly faults: readonly [] }
  | { readonly line: number; readonly input: null; readonly faults: readonly RowFault[] }

/** What rows are read by. */
export interface RowReading {
  readonly matching: Matching
  readonly dateOrder: DateOrder
  readonly zones: Pick<ZoneTable, 'has'>
  /** Whether messages reach real mailboxes: addresses that cannot are refused. */
  readonly isRealMail: boolean
  /** Of clients of whom the table says none. */
  readonly language: Language
}

export const birthdayLabel = 'Birthday'

type Cells = Readonly<Partial<Record<ClientField, string>>>

const languageWords: Readonly<Record<string, Language>> = {
  en: 'en',
  english: 'en',
  englisch: 'en',
  de: 'de',
  german: 'de',
  deutsch: 'de',
}
const yesWords: readonly string[] = ['yes', 'y', 'ja', 'j', 'true', '1', 'x', 'wahr']
const noWords: readonly string[] = ['no', 'n', 'nein', 'false', '0', '-', 'falsch']

class Fault extends Error {
  constructor(
    readonly field: ClientField,
    sentence: string,
  ) {
    super(sentence)
  }
}

function emailIn(cells: Cells, field: 'email' | 'secondEmail', { isRealMail }: RowReading): string | null {
  const text = cells[field]
  if (text === undefined) return null
  if (!emailAddress.safeParse(text).success) throw new Fault(field, `“${text}” is not an e-mail address.`)
  const ending = isRealMail ? reservedEndingOf(text) : null
  if (ending !== null) throw new Fault(field, reservedSentence(text, ending))
  return text
}

function languageIn({ language: text }: Cells, usual: Language): Language {
  if (text === undefined) return usual
  const found = languageWords[folded(text).replace(/[-_].*$/, '')]
  if (!found)
    throw new Fault('language', `“${text}” is no language that letters can be in: English or German.`)
  return found
}

function zoneIn({ zone: text }: Cells, zones: RowReading['zones']): string | null {
  if (text !== undefined && !zones.has(text)) throw new Fault('zone', noSuchZone(text))
  return text ?? null
}

/** Whether somebody takes promotional mail: nobody does who has not said so. */
function promotionalIn({ takesPromotional: text }: Cells): boolean {
  if (text === undefined) return false
  const word = folded(text)
  if (yesWords.includes(word)) return true
  if (noWords.includes(word)) return false
  throw new Fault('takesPromotional', `“${text}” is neither yes nor no.`)
}

function datesIn({ birthday: text }: Cells, order: DateOrder): ClientInput['namedDates'] {
  if (text === undefined) return []
  // A vCard may leave the year out (RFC 6350 4.3.1).
  const [, month, day] = /^--(\d\d)-?(\d\d)$/.exec(text) ?? []
  const date = month !== undefined ? `2000-${month}-${day ?? ''}` : readDate(text, order)
  if (date === null)
    throw new Fault('birthday', `“${text}” is no date. It looks like 2026-05-14 or 14.5.2026.`)
  const year = month === undefined ? Number(date.slice(0, 4)) : null
  return [{ label: birthdayLabel, monthDay: date.slice(5), year }]
}

function tagsIn({ tags: text = '' }: Cells): string[] {
  const words = text.split(/[,;|]/).map((word) => word.trim())
  return [...new Set(words.filter((word) => word !== ''))]
}

function contactsIn(cells: Cells, reading: RowReading): ClientInput['contacts'] {
  const { firstName = '', lastName = '', phone = '' } = cells
  const person = { id: null, firstName, lastName }
  const email = emailIn(cells, 'email', reading)
  const second = emailIn(cells, 'secondEmail', reading)
  return [
    { ...person, email: email ?? second, phone, isPrimary: true },
    ...(email !== null && second !== null ? [{ ...person, email: second, phone: '', isPrimary: false }] : []),
  ]
}

/** Each part by itself, so that all that is wrong in a row is said at once. */
function collected<Parts extends Readonly<Record<string, unknown>>>(readers: {
  readonly [Name in keyof Parts]: () => Parts[Name]
}): { readonly parts: Parts; readonly faults: readonly RowFault[] } {
  const parts: Partial<Record<keyof Parts, unknown>> = {}
  const faults: RowFault[] = []
  for (const [name, reader] of Object.entries(readers) as [keyof Parts, () => unknown][]) {
    try {
      parts[name] = reader()
    } catch (fault) {
      if (!(fault instanceof Fault)) throw fault
      faults.push({ field: fault.field, sentence: fault.message })
    }
  }
  return { parts: parts as Parts, faults }
}

const fieldOfPath: Readonly<Record<string, ClientField>> = {
  name: 'name',
  tags: 'tags',
  'contacts.0.firstName': 'firstName',
  'contacts.0.lastName': 'lastName',
  'contacts.0.phone': 'phone',
}

/** A row of a table as a client. */
export function readClientRow(row: TableRow, reading: RowReading): RowRead {
  const { line } = row
  const cells: Cells = cellsByField(row.cells, reading.matching)
  const { parts, faults } = collected({
    contacts: () => contactsIn(cells, reading),
    language: () => languageIn(cells, reading.language),
    zone: () => zoneIn(cells, reading.zones),
    takesPromotional: () => promotionalIn(cells),
    namedDates: () => datesIn(cells, reading.dateOrder),
  })
  if (faults.length > 0) return { line, input: null, faults }
  const person = [cells.firstName, cells.lastName].filter(Boolean).join(' ')
  const name = cells.name ?? (person || (cells.email ?? ''))
  if (name === '') {
    const sentence = `There is neither a name nor an address: match a column to “${describedFields.name.label}”.`
    return { line, input: null, faults: [{ field: null, sentence }] }
  }
  const parsed = clientInput.safeParse({ ...parts, name, tags: tagsIn(cells), isActive: true })
  if (parsed.success) return { line, input: parsed.data, faults: [] }
  return {
    line,
    input: null,
    faults: parsed.error.issues.map(({ path, message }) => ({
      field: fieldOfPath[path.join('.')] ?? fieldOfPath[String(path[0])] ?? null,
      sentence: message,
    })),
  }
}
