import { deliveryAction, type RecipientReport } from '../model/incoming.ts'
import { fieldsOf, headerFields, messageIdsIn, type ReadMail } from './mail.ts'
import { actionOfCode, replyCodeIn, statusCodeIn } from './statusCode.ts'

/** What a report says of whom, and the messages it is about, by their Message-IDs as far as they are quoted. */
export interface DeliveryReport {
  readonly reports: readonly RecipientReport[]
  readonly messageIds: readonly string[]
}

const mostReports = 100

/** `rfc822; louisl@larry.slip.umd.edu`, with or without its type and brackets (RFC 3464 2.3.1). */
function addressIn(field: string): string {
  const generic = field.includes(';') ? field.slice(field.indexOf(';') + 1) : field
  return /[^\s<>,;:"]{1,64}@[^\s<>,;:"]{1,255}/.exec(generic)?.[0] ?? ''
}

const oneLineOf = (text: string) => text.replace(/\s+/g, ' ').trim().slice(0, 600)

/** One recipient's fields (RFC 3464 2.3); null: it says nothing that can be read. */
function recipientReportOf(block: string): RecipientReport | null {
  const fields = headerFields(block)
  const said = (name: string) => fields[name]?.[0] ?? ''
  const address = addressIn(said('original-recipient')) || addressIn(said('final-recipient'))
  const diagnostic = oneLineOf(said('diagnostic-code').replace(/^[\w-]+\s*;/, ''))
  const status = statusCodeIn(said('status')) ?? statusCodeIn(diagnostic)
  const action = deliveryAction.safeParse(said('action').toLowerCase().trim())
  if (!action.success && status === null && address === '') return null
  const code = status ?? replyCodeIn(diagnostic)
  return { address, action: action.success ? action.data : actionOfCode(code), status, diagnostic }
}

/** The recipients of a report in the standard form: blocks of fields, the first of them about the message (RFC 3464 2.1). */
function standardReports({ machineParts }: ReadMail): readonly RecipientReport[] {
  return machineParts
    .filter(({ type }) => type === 'message/delivery-status' || type === 'message/global-delivery-status')
    .flatMap(({ text }) => text.replace(/\r\n?/g, '\n').split(/\n[ \t]*\n/))
    .filter((block) => /^(original-recipient|final-recipient|action|status):/im.test(block))
    .slice(0, mostReports)
    .flatMap((block) => recipientReportOf(block) ?? [])
}

/** The line that says who it could not be given to, in reports that are words alone. */
const aboutWhom =
  /(?:could not be delivered|was ?n.t delivered|undeliverable|failed|not deliver|konnte nicht|nicht zugestellt|unzustellbar|unknown|rejected|error|recipients?)/i

/** What a report in words says: the first address that stands near such words, else the first at all. */
function reportInWords(mail: ReadMail): readonly RecipientReport[] {
  const named = fieldsOf(mail, 'x-failed-recipients').flatMap((field) => field.split(','))
  const own = mail.text.split(/^-{3,}.*(original|message|header|weitergeleitet|kopie).*$/im)[0] ?? mail.text
  const lines = own.split('\n')
  const near = lines.flatMap((line, index) => {
    const address = addressIn(line)
    const around = lines.slice(Math.max(0, index - 3), index + 3).join(' ')
    return address !== '' && aboutWhom.test(around) ? [address] : []
  })
  const about = named.length > 0 ? named.map(addressIn) : near.slice(0, 1)
  const addresses = [...new Set(about.filter((address) => address !== ''))].slice(0, mostReports)
  const status = statusCodeIn(own) ?? statusCodeIn(mail.subject)
  const code = status ?? replyCodeIn(own)
  const isDelay = /\b(delayed|delay|still trying|verzögert|no need to (do|send) anything)\b/i.test(
    `${mail.subject}\n${own}`,
  )
  const diagnostic = oneLineOf(lines.find((line) => statusCodeIn(line) ?? replyCodeIn(line)) ?? '')
  const action = isDelay ? 'delayed' : 'failed'
  const kept = status ?? (code === null ? null : `${code.charAt(0)}.0.0`)
  return (addresses.length > 0 ? addresses : ['']).map((address) => ({
    address,
    action,
    status: kept,
    diagnostic,
  }))
}

/** Message-IDs of what a report is about: of the message it brings back, else quoted somewhere in it. */
function messageIdsOf(mail: ReadMail): readonly string[] {
  const brought = mail.machineParts
    .filter(
      ({ type }) => type === 'message/rfc822' || type === 'text/rfc822-headers' || type === 'message/global',
    )
    .flatMap(({ text }) => headerFields(text.split(/\r?\n\r?\n/)[0] ?? '')['message-id'] ?? [])
    .flatMap(messageIdsIn)
  const quoted = [...mail.text.matchAll(/^[>\s]*message-id:\s*(\S+)/gim)].flatMap(([, id = '']) =>
    messageIdsIn(id),
  )
  return [...new Set([...brought, ...quoted, ...mail.inReplyTo, ...mail.references])].slice(0, 30)
}

/** What a delivery report says (RFC 3464); one without the standard part by its words. */
export function deliveryReportOf(mail: ReadMail): DeliveryReport {
  const standard = standardReports(mail)
  return {
    reports: standard.length > 0 ? standard : reportInWords(mail),
    messageIds: messageIdsOf(mail),
  }
}
