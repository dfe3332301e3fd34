import { simpleParser } from 'mailparser'
import { fileNameOf, isFile, shownHtml } from './readMail.ts'

const options = { keepDeliveryStatus: true, skipTextToHtml: true, skipHtmlToText: true, skipImageLinks: true }

/** The HTML part of a mail, for a frame in which nothing runs or loads; null: it has none, or is too large to show. */
export async function htmlOf(source: Buffer): Promise<string | null> {
  const parsed = await simpleParser(source, options).catch(() => null)
  return parsed && shownHtml(parsed, source)
}

export interface CameFile {
  readonly name: string
  readonly bytes: Uint8Array
}

/** A file that came with a mail, by where it stands among those that are listed; null: there is none. */
export async function fileAt(source: Buffer, index: number): Promise<CameFile | null> {
  const parsed = await simpleParser(source, options).catch(() => null)
  const file = (parsed?.attachments ?? []).filter(isFile)[index]
  return file ? { name: fileNameOf(file.filename), bytes: file.content } : null
}
