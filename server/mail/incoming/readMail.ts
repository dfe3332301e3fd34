import { simpleParser, type AddressObject, type ParsedMail } from 'mailparser'
import { headerFields, messageIdsIn, type MachinePart, type ReadMail } from '#core/incoming/mail.ts'
import { mostText } from '#core/model/incoming.ts'

/** Envelope of a mail, as far as it is known. */
export interface Envelope {
  /** Empty: the null sender; null: not known. */
  readonly from: string | null
  readonly to: readonly string[]
}

/** More than that of a part that programs read says nothing more. */
const mostOfPart = 100_000
const mostFiles = 100
const mostHeader = 256 * 1024
const mostHtml = 2_000_000

const machineTypes =
  /^(message\/(delivery-status|global-delivery-status|feedback-report|rfc822|global|rfc822-headers|disposition-notification)|text\/(rfc822-headers|calendar))$/

const addressesOf = (field: AddressObject | AddressObject[] | undefined) =>
  [field ?? []].flat().flatMap(({ value }) => value.flatMap((one) => one.group ?? [one]))

/** What must not be in one line of text: control characters, and what turns the order of letters around. */
export const onOneLine = (text: string, longest: number): string =>
  text
    .replace(/[\p{Cc}\u2028\u2029\u202A-\u202E\u2066-\u2069]+/gu, ' ')
    .replace(/ {2,}/g, ' ')
    .trim()
    .slice(0, longest)

/** A name of a file that leads nowhere. */
export const fileNameOf = (given: string | undefined): string =>
  onOneLine((given ?? '').replace(/[\\/:*?"<>|]+/g, ' ').replace(/^[.\s]+/, ''), 120) || 'without a name'

/** Text of several lines: of control characters line breaks and tabs alone. */
const plainText = (text: string) =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/[\u0000-\u0008\u000B-\u001F\u007F\u202A-\u202E\u2066-\u2069]/g, '')
    .slice(0, mostText)

/** The block of header fields at the start of a mail. */
export function headerBlock(source: Buffer): string {
  const head = source.subarray(0, mostHeader).toString('latin1')
  const end = /\r?\n\r?\n/.exec(head)
  return end ? head.slice(0, end.index) : head
}

/** Whether a part is a file for people, and not for programs alone. */
export const isFile = ({
  contentType,
  filename,
}: {
  readonly contentType: string
  readonly filename?: string | undefined
}) => filename !== undefined || !machineTypes.test(contentType)

function partsOf({ attachments }: ParsedMail) {
  const machine: MachinePart[] = []
  const files: { name: string; type: string; bytes: number }[] = []
  for (const { contentType, content, filename, size } of attachments) {
    if (machineTypes.test(contentType)) {
      machine.push({ type: contentType, text: content.subarray(0, mostOfPart).toString('utf8') })
    }
    if (isFile({ contentType, filename })) {
      files.push({ name: fileNameOf(filename), type: onOneLine(contentType, 120), bytes: size })
    }
  }
  return { machine, files: files.slice(0, mostFiles) }
}

const firstOf = (fields: Readonly<Record<string, readonly string[]>>, name: string) => fields[name]?.[0] ?? ''

/** Where a mail was delivered to: by its envelope, else by what its header says. */
function deliveredTo(
  fields: Readonly<Record<string, readonly string[]>>,
  { to }: Envelope,
): readonly string[] {
  if (to.length > 0) return to
  const names = ['delivered-to', 'x-original-to', 'envelope-to', 'to', 'cc']
  return names
    .flatMap((name) => fields[name] ?? [])
    .flatMap((value) => value.match(/[^\s<>,;:"()]{1,128}@[^\s<>,;:"()]{1,255}/g) ?? [])
    .slice(0, 50)
}

/** The envelope sender, from `Return-Path` where a mailbox keeps it (RFC 5321 4.4). */
function envelopeFrom(
  fields: Readonly<Record<string, readonly string[]>>,
  { from }: Envelope,
): string | null {
  if (from !== null) return from
  const path = fields['return-path']?.[0]
  return path === undefined ? null : path.replace(/[<>\s]/g, '')
}

function headerPart(source: Buffer, envelope: Envelope) {
  const fields = headerFields(headerBlock(source))
  const [messageId = null] = messageIdsIn(firstOf(fields, 'message-id'))
  return {
    headers: fields,
    envelopeFrom: envelopeFrom(fields, envelope),
    to: deliveredTo(fields, envelope),
    messageId,
    inReplyTo: messageIdsIn(firstOf(fields, 'in-reply-to')).slice(0, 30),
    references: messageIdsIn(firstOf(fields, 'references')).slice(-30),
    contentType:
      /^\s*([\w.+-]+\/[\w.+-]+)/.exec(firstOf(fields, 'content-type'))?.[1]?.toLowerCase() ?? 'text/plain',
    reportType:
      /report-type\s*=\s*"?([\w-]+)/i.exec(firstOf(fields, 'content-type'))?.[1]?.toLowerCase() ?? '',
  }
}

/** A larger mail, or a longer HTML part, is not shown. */
const mostShown = 12 * 1024 * 1024

/** The HTML part of a mail, as far as it can be shown; null: it has none, or it is too long. */
export function shownHtml({ html }: ParsedMail, source: Buffer): string | null {
  const isShort = source.length <= mostShown && typeof html === 'string' && html.length <= mostHtml
  return isShort && html !== '' ? html : null
}

/**
 * A mail taken apart. Whatever it contains is only text here: nothing of it is fetched or run. Throws where it cannot be
 * taken apart at all.
 */
export async function readMail(source: Buffer, envelope: Envelope): Promise<ReadMail> {
  const parsed = await simpleParser(source, {
    keepDeliveryStatus: true,
    skipTextToHtml: true,
    skipImageLinks: true,
    skipTextLinks: true,
    maxHtmlLengthToParse: mostHtml,
  })
  const [from] = addressesOf(parsed.from)
  const { machine, files } = partsOf(parsed)
  return {
    ...headerPart(source, envelope),
    from:
      from?.address === undefined || from.address === ''
        ? null
        : { name: onOneLine(from.name, 200), address: onOneLine(from.address, 320) },
    subject: onOneLine(parsed.subject ?? '', 300),
    text: plainText(parsed.text ?? ''),
    hasHtml: shownHtml(parsed, source) !== null,
    machineParts: machine,
    files,
    cut: null,
  }
}

/** What can be told of a mail that cannot be taken apart: its header, and that a person has to look. */
export function readPlainly(source: Buffer, envelope: Envelope, why: string): ReadMail {
  const own = headerPart(source, envelope)
  const from = firstOf(own.headers, 'from')
  const address = /[^\s<>,;:"()]{1,128}@[^\s<>,;:"()]{1,255}/.exec(from)?.[0]
  const start = source.subarray(headerBlock(source).length).subarray(0, mostText).toString('utf8')
  return {
    ...own,
    from: address === undefined ? null : { name: '', address },
    subject: onOneLine(firstOf(own.headers, 'subject'), 300),
    text: plainText(start).slice(0, 4000),
    hasHtml: false,
    machineParts: [],
    files: [],
    cut: why,
  }
}
