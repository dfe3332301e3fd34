import { simpleParser } from 'mailparser'
import { fileNameOf, isFile } from './readMail.ts'

/** What is not shown is not taken apart either. */
const mostShown = 12 * 1024 * 1024
const mostHtml = 2_000_000

const options = { keepDeliveryStatus: true, skipTextToHtml: true, skipHtmlToText: true, skipImageLinks: true }

/** The HTML part of a mail, for a frame in which nothing runs or loads; null: it has none, or is too large to show. */
export async function htmlOf(source: Buffer): Promise<string | null> {
  if (source.length > mostShown) return null
  const parsed = await simpleParser(source, options).catch(() => null)
  const html = parsed?.html
  return typeof html === 'string' && html !== '' && html.length <= mostHtml ? html : null
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
