/** So much of a file is read and sent at once, in bytes. */
const partBytes = 12_000_000

const latin1 = new TextDecoder('latin1')
/** Where a message begins in an mbox: its line before it stands after an empty one (RFC 4155). */
const beginning = /\r?\n\r?\n(?=From )/g

/**
 * A mailbox file of any size piece by piece, each cut before a message: what is longer than a piece is cut anywhere, its
 * header is in the first. `done`: how many bytes were read with it.
 */
export async function* mailboxParts(
  file: Blob,
  most = partBytes,
): AsyncGenerator<{ readonly bytes: Uint8Array; readonly done: number }> {
  for (let from = 0; from < file.size;) {
    const bytes = new Uint8Array(await file.slice(from, from + most).arrayBuffer())
    const isLast = from + bytes.length >= file.size
    const last = isLast ? undefined : [...latin1.decode(bytes).matchAll(beginning)].at(-1)
    // One byte of text is one byte of the file.
    const end = last ? last.index + last[0].length : bytes.length
    from += end
    yield { bytes: bytes.subarray(0, end), done: from }
  }
}
