/** A text with what it was written in. */
export interface TableText {
  readonly text: string
  /** As a person knows it, such as `UTF-8`. */
  readonly encoding: string
}

const marks: readonly (readonly [readonly number[], string, string])[] = [
  [[0xef, 0xbb, 0xbf], 'utf-8', 'UTF-8'],
  [[0xff, 0xfe], 'utf-16le', 'UTF-16'],
  [[0xfe, 0xff], 'utf-16be', 'UTF-16'],
]

/** Of UTF-16 without a mark every other byte of Latin text is zero. */
function zerosAt(bytes: Buffer, odd: 0 | 1): boolean {
  const some = bytes.subarray(0, 2000)
  const at = [...some].filter((byte, index) => index % 2 === odd && byte === 0).length
  return some.length > 3 && at > some.length * 0.3
}

/**
 * What some bytes say: by their byte order mark (Unicode 16 23.8), as UTF-8 where they are (RFC 3629), else as the
 * Windows character set that spreadsheets still write, of which Latin-1 is a part (WHATWG Encoding 4.2).
 */
export function textOfTable(bytes: Buffer): TableText {
  for (const [mark, name, encoding] of marks) {
    if (mark.every((byte, index) => bytes[index] === byte)) {
      return { text: new TextDecoder(name).decode(bytes), encoding }
    }
  }
  if (zerosAt(bytes, 1)) return { text: new TextDecoder('utf-16le').decode(bytes), encoding: 'UTF-16' }
  if (zerosAt(bytes, 0)) return { text: new TextDecoder('utf-16be').decode(bytes), encoding: 'UTF-16' }
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes), encoding: 'UTF-8' }
  } catch {
    return { text: new TextDecoder('windows-1252').decode(bytes), encoding: 'Windows-1252' }
  }
}
