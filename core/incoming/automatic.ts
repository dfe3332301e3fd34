import { isoDateOf, type EpochDay } from '../time/calendar.ts'
import { datesInWords } from './datesInWords.ts'
import { languageOf } from './language.ts'
import { fieldsOf, type ReadMail } from './mail.ts'
import { ownWordsOf } from './ownWords.ts'

/*
 * Mail that a program sent by itself. Fields of the header come first (RFC 3834), then a subject that says so.
 */

/** RFC 3834 5: anything but `no` says that no person sent it; what may follow it are parameters. */
const isAutoSubmitted = (mail: ReadMail) =>
  fieldsOf(mail, 'auto-submitted').some((value) => !/^\s*no\b/iu.test(value) && value.trim() !== '')

/** Fields that programs set on what they answer by themselves. Common practice, no source. */
const byOtherFields = (mail: ReadMail) =>
  ['x-autoreply', 'x-autorespond', 'x-autoresponder', 'x-auto-reply-from', 'x-mail-autoreply'].some(
    (name) => fieldsOf(mail, name).length > 0,
  ) ||
  fieldsOf(mail, 'precedence').some((value) => /^(auto_reply|bulk|junk|list)\b/iu.test(value)) ||
  // RFC 2919, RFC 2369: what comes from a list is nobody's answer.
  fieldsOf(mail, 'list-id').length > 0

const subjectSaysSo =
  /^\s*(auto(matic|mated)?[ -]?(reply|response|answer)|autoreply|out of (the )?office|away from (the|my) (office|desk)|automatische (antwort|rückmeldung)|abwesenheits?(notiz|nachricht|meldung)?\b|abwesend|urlaubs?(notiz|nachricht|abwesenheit)|ich bin (derzeit )?nicht im (büro|haus)|eingangsbestätigung|we have received your (message|request|e-?mail))/iu

const wordsSaySo =
  /\b(i am|i'm|i’m|we are|i will be) (currently |presently )?(out of (the )?office|on (annual )?(leave|vacation|holiday)|away from (the|my) office)\b|\b(bin|sind) (derzeit|zurzeit|zur zeit|aktuell|momentan)?.{0,40}(nicht im (büro|haus)|abwesend|im urlaub|außer haus)\b|this is an automat(ed|ic) (reply|response|message)|dies ist eine automatische (antwort|nachricht)/iu

/** Whether a program sent it by itself: for certain, perhaps (only its words say so), or not. */
export function isAutomatic(mail: ReadMail): 'yes' | 'perhaps' | 'no' {
  if (isAutoSubmitted(mail) || byOtherFields(mail)) return 'yes'
  if (subjectSaysSo.test(mail.subject)) return 'yes'
  return wordsSaySo.test(ownWordsOf(mail.text)) ? 'perhaps' : 'no'
}

/** Words before a date that say somebody is back on it, or away up to and with it. */
const backOn = /(back|return(ing)?|available again|wieder|zurück|erreichbar|ab)\b[^.!?]{0,40}$/iu
const awayUpTo = /(until|till|through|up to|bis)\b[^.!?]{0,30}$/iu
const withIt = /(inclusive|included|einschlie(ß|ss)lich|including|inkl\.?)/iu

/** The day somebody who is away is back, as the mail says it; null: it does not. */
export function returnDateOf(
  { subject, text }: Pick<ReadMail, 'subject' | 'text'>,
  today: EpochDay,
): string | null {
  const words = `${subject}. ${ownWordsOf(text)}`
  const dates = datesInWords(words, today, languageOf(words, 'en'))
  const before = (index: number) => words.slice(Math.max(0, index - 60), index)
  const back = dates.find(({ index }) => backOn.test(before(index)))
  if (back) return isoDateOf(back.from)
  const until = dates.find(({ index }) => awayUpTo.test(before(index)))
  if (!until) {
    // “From 4 to 11 May” is one stretch: away on its last day.
    const stretch = dates.find(({ from, to }) => to > from)
    return stretch ? isoDateOf(stretch.to + 1) : null
  }
  const around = words.slice(Math.max(0, until.index - 30), until.index + until.text.length + 20)
  return isoDateOf(until.to + (withIt.test(around) ? 1 : 0))
}
