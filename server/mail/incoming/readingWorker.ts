import { parentPort } from 'node:worker_threads'
import type { ReadMail } from '#core/incoming/mail.ts'
import { readMail, type Envelope } from './readMail.ts'
import { fileAt, htmlOf, type CameFile } from './shownParts.ts'

/** What is wanted of a mail: all that can be told of it, its HTML part, or a file that came with it. */
export type Wanted =
  | { readonly what: 'mail'; readonly envelope: Envelope }
  | { readonly what: 'html' }
  | { readonly what: 'file'; readonly index: number }

/** A mail to be taken apart. */
export interface ReadingTask {
  readonly id: number
  readonly source: Uint8Array
  readonly wanted: Wanted
}

export type Found = ReadMail | CameFile | string | null

export type ReadingNews =
  { readonly id: number; readonly found: Found } | { readonly id: number; readonly fault: string }

function find(source: Buffer, wanted: Wanted): Promise<Found> {
  switch (wanted.what) {
    case 'mail':
      return readMail(source, wanted.envelope)
    case 'html':
      return htmlOf(source)
    case 'file':
      return fileAt(source, wanted.index)
  }
}

parentPort?.on('message', ({ id, source, wanted }: ReadingTask) => {
  find(Buffer.from(source), wanted).then(
    (found) => parentPort?.postMessage({ id, found } satisfies ReadingNews),
    (fault: unknown) =>
      parentPort?.postMessage({
        id,
        fault: fault instanceof Error ? fault.message : String(fault),
      } satisfies ReadingNews),
  )
})
