import { done, refused, type Result } from '../../model/problem.ts'
import { mendableStates, troubleStates } from '../../model/sendState.ts'
import { stepTraits } from '../../model/step.ts'
import { reservedEndingOf, reservedSentence } from '../../model/reservedAddress.ts'
import { emailAddress } from '../../model/values.ts'
import type { Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'
import { decideSend } from './sendCommands.ts'

/**
 * Gives a client's contact another address and sends what did not get through. What is planned for later goes there at
 * its time.
 */
export function mendAddress(
  slice: Slice,
  sendId: string,
  address: string,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { facts, settings } = slice
  const send = facts.sends.find(({ id }) => id === sendId)
  if (!send) return refused('not found', 'There is no such message.')
  if (!mendableStates.includes(send.state)) {
    return refused('not allowed now', `This message is ${send.state} by now: there is nothing to mend.`)
  }
  const email = emailAddress.safeParse(address.trim())
  if (!email.success) return refused('invalid', 'An address looks like name@place.example.', 'address')
  const ending = settings.isRealMail ? reservedEndingOf(email.data) : null
  if (ending !== null) return refused('invalid', reservedSentence(email.data, ending), 'address')
  const { client } = facts
  const contact = client.contacts.find(({ id }) => id === send.recipientId)
  if (!contact || stepTraits[send.stepKind].goesTo !== 'email') {
    return refused(
      'not allowed now',
      'It goes to no contact of the client: mend its address where it stands.',
    )
  }
  const contacts = client.contacts.map((one) => (one === contact ? { ...one, email: email.data } : one))
  const put: Effect = { kind: 'put client', client: { ...client, contacts, revision: client.revision + 1 } }
  const words = `Address of ${client.name} mended: ${email.data}.`
  const told = appendEvent(context, 'client changed', { clientId: client.id }, words)
  const mended = conclude(slice, [put, told], context)
  const after: Slice = { settings, facts: withEffects(facts, mended) }
  const present = after.facts.sends.find(({ id }) => id === sendId)
  if (!present || !troubleStates.includes(present.state)) return done(mended)
  const sent = decideSend(after, sendId, 'send now', context)
  return sent.ok ? done([...mended, ...sent.value]) : sent
}

/**
 * Sends what did not go with another letter, now. A person chose the words, so the moment up to which the step's own
 * letter made sense no longer binds.
 */
export function sendByLetter(
  slice: Slice,
  sendId: string,
  letterId: string,
  context: EngineContext,
): Result<readonly Effect[]> {
  const send = slice.facts.sends.find(({ id }) => id === sendId)
  if (!send) return refused('not found', 'There is no such message.')
  if (!mendableStates.includes(send.state)) {
    return refused(
      'not allowed now',
      `This message is ${send.state} by now: no other letter can take its place.`,
    )
  }
  if (send.stepKind !== 'mail') return refused('not allowed now', 'Only mail can go with another letter.')
  const letter = slice.settings.letters.find(({ id }) => id === letterId)
  if (!letter || letter.isArchived) return refused('not found', 'There is no such letter.', 'letterId')
  if (letter.isStarter)
    return refused('not allowed now', 'This letter has not been published yet.', 'letterId')
  if (letter.class === 'promotional' && send.purpose !== 'promotional') {
    return refused('invalid', 'A promotional letter cannot stand in for one about a booking.', 'letterId')
  }
  const decision = { ...send.decision, letterId, ownWords: null }
  const other = { ...send, letterId, notAfter: null, approvedWords: null, decision }
  const facts = withEffects(slice.facts, [{ kind: 'put send', send: other }])
  return decideSend({ ...slice, facts }, sendId, 'send now', context)
}
