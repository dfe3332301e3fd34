import type { Incoming } from '../../model/incoming.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { reservedEndingOf, reservedSentence } from '../../model/reservedAddress.ts'
import { emailAddress, isSameAddress } from '../../model/values.ts'
import type { AnswerInput, WrittenAnswer } from '../../model/writtenAnswer.ts'
import { businessDate, type Settings } from '../../planning/slice.ts'
import { thereOn } from '../../sequences/standIns.ts'
import { dateAndTime } from '../../time/format.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { messageIdOf } from '../following/replan.ts'

/** A subject as an answer has it (RFC 5322 3.6.5): with one `Re:` before it. */
export const answerSubject = (subject: string): string =>
  /^\s*(re|aw)\s*:/iu.test(subject) ? subject : `Re: ${subject}`.trim()

/** Every line of a mail with a mark before it, under who wrote it when (RFC 3676 4.5). */
function quotedOf({ from, at, text }: Incoming, { zones, business }: Settings): string {
  const who = from.name === '' ? from.address : from.name
  const when = dateAndTime(zones.zone(business.zone), at)
  const lines = text.split('\n').map((line) => (line.startsWith('>') ? `>${line}` : `> ${line}`))
  return [`${who} wrote, ${when}:`, ...lines].join('\n').slice(0, 40_000)
}

/** In whose name an answer goes: that of who writes it, from the address of the business. */
function senderOfAnswer({ business, people }: Settings, personId: string | null, today: string) {
  const person = people.find(({ id }) => id === personId)
  if (!person)
    return {
      from: { name: business.senderName, address: business.senderAddress },
      replyTo: business.replyTo,
    }
  const there = thereOn(people, person, today)
  return {
    from: { name: person.name, address: business.senderAddress },
    replyTo: there.replyTo ?? business.replyTo ?? there.email,
  }
}

/** A person answers a mail that came in; with that it is done. */
export function writeAnswer(
  settings: Settings,
  incoming: Incoming,
  { subject, text }: AnswerInput,
  context: EngineContext,
): Result<readonly Effect[]> {
  const to = emailAddress.safeParse(incoming.from.address)
  if (!to.success) return refused('not allowed now', 'It does not say to which address an answer would go.')
  const ending = settings.isRealMail ? reservedEndingOf(to.data) : null
  if (ending !== null) return refused('not allowed now', reservedSentence(to.data, ending))
  if (settings.onlyTo !== null && !settings.onlyTo.some((one) => isSameAddress(one, to.data))) {
    return refused('not allowed now', 'In quiet mode messages reach only the addresses that were named.')
  }
  if (incoming.what.kind === 'automatic reply' || incoming.what.kind === 'delivery report') {
    // RFC 3834 2: programs do not read answers.
    return refused('not allowed now', 'A program sent it: nobody would read an answer.')
  }
  const id = context.newId('wa')
  const { from, replyTo } = senderOfAnswer(settings, context.personId, businessDate(settings, context.now))
  const { clientId } = incoming.match
  const answer: WrittenAnswer = {
    id,
    incomingId: incoming.id,
    clientId,
    at: context.now,
    personId: context.personId,
    from,
    replyTo,
    to: to.data,
    subject: subject === '' ? answerSubject(incoming.subject) : subject,
    text,
    messageId: messageIdOf(settings, id),
    // RFC 5322 3.6.4: the thread so far, then what is answered.
    references: [...incoming.references.toReversed(), incoming.messageId]
      .filter((one) => one !== '')
      .slice(-30),
    quoted: quotedOf(incoming, settings),
    state: 'ready',
    reason: null,
    attempts: 0,
    sentAt: null,
  }
  const { place, doneAt } = incoming
  const finished: Incoming = {
    ...incoming,
    doneAt: place === null ? doneAt : context.now,
    doneBy: place === null ? incoming.doneBy : context.personId,
    revision: incoming.revision + 1,
  }
  const told = appendEvent(
    context,
    'mail written',
    { clientId, sendId: incoming.match.sendId },
    `Wrote to ${to.data}: “${answer.subject}”.`,
  )
  return done([{ kind: 'put written answer', answer }, { kind: 'put incoming', incoming: finished }, told])
}

/** One that failed, or of which nobody knows whether it went, goes once more. */
export function sendAnswerAgain(answer: WrittenAnswer): Result<readonly Effect[]> {
  if (answer.state !== 'failed' && answer.state !== 'in doubt') {
    return refused('not allowed now', `This answer is ${answer.state} by now.`)
  }
  return done([
    { kind: 'put written answer', answer: { ...answer, state: 'ready', reason: null, attempts: 0 } },
  ])
}
