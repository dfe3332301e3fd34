/** A part of a mail that programs read, as text. */
export interface MachinePart {
  /** Lower case, such as `message/delivery-status`. */
  readonly type: string
  readonly text: string
}

/**
 * A mail as it was taken apart: everything bounded, nothing believed yet. It goes from the thread that reads to the one
 * that decides, so it is plain data.
 */
export interface ReadMail {
  readonly from: { readonly name: string; readonly address: string } | null
  /** Envelope sender; empty: the null sender, as reports have it; null: not known. */
  readonly envelopeFrom: string | null
  /** Addresses it was delivered to: of the envelope, else of its header. */
  readonly to: readonly string[]
  readonly subject: string
  readonly text: string
  /** Whether it has an HTML part that can be shown. */
  readonly hasHtml: boolean
  /** With brackets; null: it has none. */
  readonly messageId: string | null
  /** Message-IDs with brackets. */
  readonly inReplyTo: readonly string[]
  readonly references: readonly string[]
  /** Its header fields by lower-case name, unfolded, in their order. */
  readonly headers: Readonly<Record<string, readonly string[]>>
  /** `multipart/report` and the like, lower case. */
  readonly contentType: string
  /** The parameter `report-type`, lower case; empty: none. */
  readonly reportType: string
  readonly machineParts: readonly MachinePart[]
  readonly files: readonly { readonly name: string; readonly type: string; readonly bytes: number }[]
  /** Why not all of it could be read; null: all was. */
  readonly cut: string | null
}

/** The values of a header field; none: it is not there. */
export const fieldsOf = ({ headers }: Pick<ReadMail, 'headers'>, name: string): readonly string[] =>
  headers[name] ?? []

/** Message-IDs in a text, in their order, each once (RFC 5322 3.6.4, loosely: what is not one is passed over). */
export const messageIdsIn = (text: string): readonly string[] => [
  ...new Set(text.match(/<[^<>\s@]{1,400}@[^<>\s]{1,400}>/g) ?? []),
]

/** Header fields of a part or message: RFC 5322 2.2, unfolded, names in lower case. What is no field is passed over. */
export function headerFields(block: string): Record<string, string[]> {
  const fields: Record<string, string[]> = {}
  const unfolded = block.replace(/\r\n?/g, '\n').replace(/\n[ \t]+/g, ' ')
  for (const line of unfolded.split('\n')) {
    const [, name, value] = /^([!-9;-~]{1,100}):(.*)$/.exec(line) ?? []
    if (name === undefined || value === undefined) continue
    const key = name.toLowerCase()
    if (Object.hasOwn(fields, key)) fields[key]?.push(value.trim())
    else Object.defineProperty(fields, key, { value: [value.trim()], enumerable: true, writable: true })
  }
  return fields
}
