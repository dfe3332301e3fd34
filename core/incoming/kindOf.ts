import type { IncomingWhat } from '../model/incoming.ts'
import type { EpochDay } from '../time/calendar.ts'
import { isAutomatic, returnDateOf } from './automatic.ts'
import { deliveryReportOf } from './deliveryReport.ts'
import { fieldsOf, headerFields, messageIdsIn, type ReadMail } from './mail.ts'
import { ownWordsOf } from './ownWords.ts'

/*
 * Tells what a mail that came in is. Only what a person wrote is an answer; what is not sure is unclear, and a person
 * looks.
 */

const ofType = ({ machineParts }: ReadMail, ...types: readonly string[]) =>
  machineParts.filter(({ type }) => types.includes(type))

/** RFC 5965: what its recipient complains of; null: it is no complaint. */
function complaintOf(mail: ReadMail): IncomingWhat | null {
  const [report] = ofType(mail, 'message/feedback-report')
  if (!report && mail.reportType !== 'feedback-report') return null
  const about = headerFields(report?.text ?? '')['feedback-type']?.[0] ?? ''
  // RFC 6591: a failure of signing is told to who runs the domain; nobody complains.
  if (about.toLowerCase() === 'auth-failure') return { kind: 'automatic reply', returnsOn: null }
  return { kind: 'complaint', about: about.slice(0, 60) }
}

const machines = /^(mailer-?daemon|postmaster|mail-?system|bounces?|mdaemon)\b/iu
const undelivered =
  /undeliver|un-deliver|non-?deliver|delivery (status|failure|failed|has failed|report|delayed|notification)|failure notice|returned (mail|to sender)|mail (delivery|system)|could not be delivered|nicht zugestellt|unzustellbar|zustellung|rückläufer/iu

/** Reports that are words alone: from a program of a mail server, about something that did not arrive. */
function isReportInWords(mail: ReadMail): boolean {
  if (fieldsOf(mail, 'x-failed-recipients').length > 0) return true
  const isFromMachine = mail.envelopeFrom === '' || machines.test(mail.from?.address ?? '')
  return isFromMachine && undelivered.test(`${mail.subject}\n${mail.text.slice(0, 2000)}`)
}

function reportOf(mail: ReadMail): IncomingWhat | null {
  const isStandard =
    mail.reportType === 'delivery-status' ||
    ofType(mail, 'message/delivery-status', 'message/global-delivery-status').length > 0
  if (!isStandard && !isReportInWords(mail)) return null
  return { kind: 'delivery report', reports: [...deliveryReportOf(mail).reports] }
}

const replies: Readonly<Record<string, 'accepted' | 'declined' | 'tentative'>> = {
  ACCEPTED: 'accepted',
  DECLINED: 'declined',
  TENTATIVE: 'tentative',
}

/** RFC 5546 3.2.3: what somebody replied to an invitation; null: it is no such reply. */
function invitationReplyOf(mail: ReadMail): IncomingWhat | null {
  const [calendar] = ofType(mail, 'text/calendar')
  const lines = calendar?.text.replace(/\r\n?/g, '\n').replace(/\n[ \t]/g, '') ?? ''
  if (!/^METHOD:REPLY\s*$/imu.test(lines)) return null
  const status = /^ATTENDEE[^\n]*;PARTSTAT="?([A-Z-]+)"?/imu.exec(lines)?.[1] ?? ''
  const uid = /^UID:(.*)$/imu.exec(lines)?.[1]?.trim() ?? ''
  return { kind: 'invitation reply', reply: replies[status.toUpperCase()] ?? 'other', uid: uid.slice(0, 300) }
}

const challengeWords =
  /\b(confirm|verify|prove|authenticate)\b.{0,60}\b(human|not a (robot|spammer)|real person|sender|your (e-?mail|address|message))\b.{0,200}\b(click|link|reply|visit)\b|\b(click|visit|follow)\b.{0,80}\b(link|address)\b.{0,120}\b(release|deliver|approve|let)\b.{0,40}\b(message|mail)\b|bestätigen sie.{0,80}(absender|kein (roboter|spam)|mensch)/isu

const isChallenge = (mail: ReadMail) =>
  fieldsOf(mail, 'x-challenge').length > 0 ||
  /challenge.?response|sender (verification|confirmation) (required|needed)/iu.test(mail.subject) ||
  challengeWords.test(ownWordsOf(mail.text).slice(0, 2000))

const unclear = (why: string): IncomingWhat => ({ kind: 'unclear', why })

/** What a mail is, seen from a day: what is away until when is said by dates. */
export function kindOf(mail: ReadMail, today: EpochDay): IncomingWhat {
  const machine = complaintOf(mail) ?? reportOf(mail) ?? invitationReplyOf(mail)
  if (machine) return machine
  const automatic = isAutomatic(mail)
  if (isChallenge(mail)) return { kind: 'challenge' }
  // RFC 8098: that it was displayed says nothing of what somebody thinks of it.
  if (automatic === 'yes' || mail.reportType === 'disposition-notification') {
    return { kind: 'automatic reply', returnsOn: returnDateOf(mail, today) }
  }
  if (automatic === 'perhaps') {
    return unclear('Its words sound like an automatic reply, and nothing else says that it is one.')
  }
  if (mail.envelopeFrom === '') return unclear('It has no sender to answer to, as programs write.')
  if (mail.from === null) return unclear('It does not say who wrote it.')
  if (mail.cut !== null) return unclear(mail.cut)
  if (ownWordsOf(mail.text) === '' && mail.files.length === 0) return unclear('It says nothing of its own.')
  return { kind: 'answer' }
}

/** Message-IDs a mail refers to, the nearest first: what it answers, what it brings back, what it quotes. */
export function referencesOf(mail: ReadMail, what: IncomingWhat): readonly string[] {
  const threaded = [...mail.inReplyTo, ...mail.references.toReversed()]
  const isReport = what.kind === 'delivery report' || what.kind === 'complaint'
  const brought = isReport ? deliveryReportOf(mail).messageIds : []
  // An address in angle brackets looks the same: of what is quoted only our own count.
  const quoted = messageIdsIn(mail.text).filter((id) => /^<(sd|wa)_/.test(id))
  return [...new Set([...brought, ...threaded, ...quoted])].slice(0, 30)
}
