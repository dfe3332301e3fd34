import { parentPort } from 'node:worker_threads'
import type { ReadMail } from '#core/incoming/mail.ts'
import { readMail, type Envelope } from './readMail.ts'

/** A mail to be taken apart. */
export interface ReadingTask {
  readonly id: number
  readonly source: Uint8Array
  readonly envelope: Envelope
}

export type ReadingNews =
  { readonly id: number; readonly mail: ReadMail } | { readonly id: number; readonly fault: string }

parentPort?.on('message', ({ id, source, envelope }: ReadingTask) => {
  readMail(Buffer.from(source), envelope).then(
    (mail) => parentPort?.postMessage({ id, mail } satisfies ReadingNews),
    (fault: unknown) =>
      parentPort?.postMessage({
        id,
        fault: fault instanceof Error ? fault.message : String(fault),
      } satisfies ReadingNews),
  )
})
