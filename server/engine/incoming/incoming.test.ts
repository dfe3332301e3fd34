import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import type { Incoming } from '#core/model/incoming.ts'
import { dayMs, hourMs } from '#core/time/calendar.ts'
import { incomingAtDesk, incomingOfClient } from '../../db/incomingStore.ts'
import { readBooking } from '../../db/clientStore.ts'
import { readClientFacts } from '../../db/livingStore.ts'
import { signedAddress } from '../../mail/incoming/signedAddress.ts'
import { handOver } from '../../testing/handOver.ts'
import {
  complaintAbout,
  deliveryReport,
  invitationReply,
  mailOf,
  type MailWords,
} from '../../testing/mails.ts'
import { addBookedClient, addLive, call, clientInput, openExample } from '../../testing/seed.ts'
import type { RunningApplication } from '../runningApplication.ts'

/* Mail handed over by real SMTP, up to what follows from it. */

let running: RunningApplication
let clientId: string
let bookingId: string

const step = (id: string, timing: Parameters<typeof exampleStep>[0]['timing']) =>
  exampleStep({ id, purpose: 'follow-up', letterId: 'lt_starter-confirmation', timing })

beforeEach(async () => {
  running = await openExample()
  const { application, commands, pump } = running
  const once = step('st_first', { kind: 'at once' })
  const later = step('st_later', { kind: 'after previous', amount: 1, unit: 'days', atTime: null })
  addLive(application, 'sq_ask', [once, later], { on: 'booking confirmed' }, [{ on: 'answered', name: null }])
  bookingId = addBookedClient(application, commands, 'enno', 'enno@brackwater.example')
  clientId = readBooking(application.store.statements, bookingId)?.clientId ?? ''
  await pump.advance(application.clock.now() + hourMs)
})
afterEach(() => running.end())

function facts(ofId = clientId) {
  const { store, settings, clock } = running.application
  const found = readClientFacts(store.statements, ofId, 'everything', settings.required(), clock.now())
  if (!found) throw new Error('The client is gone')
  return found
}

const sendOf = (stepId: string, ofId = clientId) => {
  const found = facts(ofId).sends.find((one) => one.stepId === stepId)
  if (!found) throw new Error(`There is no message of ${stepId}`)
  return found
}

/** Hands a mail over and waits until all has followed from it. */
async function comesIn(source: Buffer, envelope: { from?: string; to?: string } = {}) {
  const answer = await handOver(running.listener?.port ?? 0, source, envelope)
  await running.incoming.settled()
  return answer
}

const answer = (words: MailWords = {}) => mailOf({ inReplyTo: sendOf('st_first').messageId, ...words })

function latest(ofId = clientId): Incoming {
  const [found] = incomingOfClient(running.application.store.statements, ofId, 10)
  if (!found) throw new Error('Nothing came in')
  return found
}

const atDesk = (place: 'decide' | 'trouble' | 'to-do') =>
  incomingAtDesk(running.application.store.statements, { place, afterId: null, limit: 50 })

const later = (ms = 2 * dayMs) => running.pump.advance(running.application.clock.now() + ms)

const otherClient = (name: string, email: string) => {
  const made = running.commands.addClient(call('addClient'), clientInput(name, email))
  if (!made.ok) throw new Error(made.problem.sentence)
  return made.value.id
}

const bookingFor = (ofId: string) =>
  running.commands.makeBooking(call('makeBooking'), {
    clientId: ofId,
    serviceId: 'sv_lesson',
    startLocal: '2026-05-20T10:00',
    endLocal: '2026-05-20T12:00',
    partySize: 1,
    status: 'confirmed',
    personInChargeId: null,
  })

describe('an answer', () => {
  test('ends what waits for one, with its reason, and stands on the Desk', async () => {
    expect(sendOf('st_later').state).toBe('ready')
    expect(await comesIn(answer())).toMatch(/^250/)
    expect(latest().match).toMatchObject({
      by: 'reference',
      clientId,
      sendId: sendOf('st_first').id,
      isOtherAddress: false,
    })
    expect(latest().followed).toEqual(['“sq_ask” has stopped.'])
    expect(sendOf('st_later')).toMatchObject({
      state: 'cancelled',
      reason: { sentence: 'The client answered.' },
    })
    expect(atDesk('decide').map(({ id }) => id)).toEqual([latest().id])
    await later()
    expect(sendOf('st_later').state).toBe('cancelled')
  })

  test('delivered five times is one', async () => {
    const mail = answer()
    for (let turn = 0; turn < 5; turn += 1) expect(await comesIn(mail)).toMatch(/^250/)
    expect(incomingOfClient(running.application.store.statements, clientId, 10)).toHaveLength(1)
    expect(facts().happenings).toHaveLength(1)
  })

  test('without a Message-ID is one all the same, however often it comes', async () => {
    const mail = answer({ messageId: null })
    await comesIn(mail)
    await comesIn(Buffer.concat([Buffer.from('Received: from elsewhere\r\n'), mail]))
    expect(incomingOfClient(running.application.store.statements, clientId, 10)).toHaveLength(1)
  })

  test('with another subject and from another address is still that client’s', async () => {
    await comesIn(answer({ subject: 'Something else', from: 'Enno <enno@work.example>' }))
    expect(latest().match).toMatchObject({ by: 'reference', clientId, isOtherAddress: true })
    expect(sendOf('st_later').state).toBe('cancelled')
  })

  test('that was forwarded is found by what it quotes', async () => {
    const text = `See below.\n\n-------- Forwarded Message --------\nMessage-ID: ${sendOf('st_first').messageId}\nHello`
    await comesIn(mailOf({ from: 'Partner <partner@else.example>', text }))
    expect(latest().match).toMatchObject({ by: 'reference', clientId, isOtherAddress: true })
  })

  test('quotes addresses that are no messages', async () => {
    await comesIn(answer({ text: 'Yes.\n\nOn Thu Kiteworks <hello@kiteworks.example> wrote:\n> Hello' }))
    expect(latest().references).toEqual([sendOf('st_first').messageId])
  })

  test('to the signed address of a message is found by that alone', async () => {
    const { store } = running.application
    const to = signedAddress('hello@kiteworks.example', sendOf('st_first').id, store.keys)
    expect(to).toMatch(/^hello\+[a-z0-9.]+@kiteworks\.example$/)
    await comesIn(mailOf({ from: 'x@unknown.example' }), { to: to.toUpperCase() })
    expect(latest().match).toMatchObject({ by: 'signed address', clientId, sendId: sendOf('st_first').id })
  })

  test('to an address that somebody made up is not', async () => {
    const to = `hello+${sendOf('st_first').id.slice(3)}.abcdefghijkl@kiteworks.example`
    await comesIn(mailOf({ from: 'x@unknown.example' }), { to })
    expect(atDesk('decide').map(({ match }) => match.by)).toEqual(['nobody'])
    expect(sendOf('st_later').state).toBe('ready')
  })

  test('that refers to nothing is found by who wrote it', async () => {
    await comesIn(mailOf({ subject: 'A question' }))
    expect(latest().match).toMatchObject({ by: 'sender', clientId })
    expect(sendOf('st_later').state).toBe('cancelled')
  })

  test('from an address of two clients holds with both until a person has said whose it is', async () => {
    const otherId = otherClient('Frauke', 'enno@brackwater.example')
    const { application, commands, pump } = running
    const made = bookingFor(otherId)
    expect(made.ok).toBe(true)
    await pump.advance(application.clock.now() + hourMs)
    await comesIn(mailOf({ subject: 'A question' }))
    const [asked] = atDesk('decide')
    expect(asked?.match).toMatchObject({ by: 'sender, probably', clientId: null })
    expect(asked?.match.candidateIds.toSorted()).toEqual([clientId, otherId].toSorted())
    expect([sendOf('st_later').state, sendOf('st_later', otherId).state]).toEqual(['waiting', 'waiting'])
    const chosen = commands.chooseIncomingClient(
      call('choose'),
      { id: asked?.id ?? '', revision: 1 },
      otherId,
    )
    expect(chosen).toMatchObject({ ok: true })
    expect(sendOf('st_later', otherId).state).toBe('cancelled')
    expect(sendOf('st_later').state).toBe('ready')
    expect(latest(otherId).match.by).toBe('person')
  })

  test('from somebody unknown waits for a person, and one from the team is none', async () => {
    await comesIn(mailOf({ from: 'New <new@place.example>', subject: 'Do you fly in June?' }))
    await comesIn(answer({ from: 'Ada <ada@kiteworks.example>' }))
    expect(atDesk('decide').map(({ match }) => [match.by, match.isFromTeam])).toEqual([
      ['nobody', false],
      ['reference', true],
    ])
    expect(sendOf('st_later').state).toBe('ready')
  })

  test('by a program changes nothing, and is not on the Desk', async () => {
    await comesIn(answer({ headers: ['Auto-Submitted: auto-replied'], text: 'I am away until 20 May.' }))
    expect(latest().what).toEqual({ kind: 'automatic reply', returnsOn: '2026-05-20' })
    expect(sendOf('st_later').state).toBe('ready')
    expect(atDesk('decide')).toEqual([])
    // Nothing is sent in answer to it: two such programs end after one.
    const { postOffice, pump, application } = running
    const before = postOffice?.mailOf('enno@brackwater.example').length
    await pump.advance(application.clock.now() + hourMs)
    expect(postOffice?.mailOf('enno@brackwater.example')).toHaveLength(before ?? -1)
  })

  test('to a message of years ago is an answer of today', async () => {
    const { store } = running.application
    await comesIn(answer())
    await later(800 * dayMs)
    const again = addBookedClient(running.application, running.commands, 'other', 'other@place.example')
    expect(again).not.toBe('')
    await comesIn(answer({ text: 'We would like to come again.' }))
    expect(incomingOfClient(store.statements, clientId, 10)).toHaveLength(2)
    expect(latest().match).toMatchObject({ by: 'reference', sendId: sendOf('st_first').id })
  })
})

describe('what came back', () => {
  const about = () => sendOf('st_first').messageId

  test('for good blocks the address: all to it is in Trouble, as one entry', async () => {
    await comesIn(deliveryReport({ about: about() }), { from: '' })
    expect(sendOf('st_first')).toMatchObject({ state: 'bounced', reason: { code: 'address blocked' } })
    expect(sendOf('st_later')).toMatchObject({ state: 'blocked', reason: { code: 'address blocked' } })
    expect(sendOf('st_first').reason?.sentence).toContain('there is no such mailbox (5.1.1)')
    expect(atDesk('trouble').map(({ match }) => match.clientId)).toEqual([clientId])
    expect(
      running.application.store.statements.one('countNeeds', { today: '9999-12-31', dueBy: '9999-12-31' }),
    ).toMatchObject({
      trouble: 1,
    })
    // A second report about the same says nothing new.
    await comesIn(deliveryReport({ about: about() }), { from: '' })
    expect(atDesk('trouble')).toHaveLength(1)
    await later()
    expect(sendOf('st_later').state).toBe('blocked')
  })

  test('of an address that several clients have blocks it for all of them', async () => {
    const otherId = otherClient('Frauke', 'Enno@Brackwater.example')
    await comesIn(deliveryReport({ about: about() }), { from: '' })
    expect(facts(otherId).undelivered).toMatchObject([
      { address: 'enno@brackwater.example', isBlocked: true },
    ])
  })

  test('twice, for two messages to one address, is one entry; who else has that address stands there message by message', async () => {
    const otherId = otherClient('Frauke', 'enno@brackwater.example')
    const { application, commands, pump } = running
    addLive(application, 'sq_second', [step('st_second', { kind: 'at once' })], {
      on: 'booking cancelled',
    })
    commands.cancelBooking(call('cancel'), bookingId, Number(facts().bookings[0]?.revision))
    const other = bookingFor(otherId)
    expect(other.ok).toBe(true)
    await pump.advance(application.clock.now() + hourMs)
    for (const id of ['st_first', 'st_second']) {
      await comesIn(deliveryReport({ about: sendOf(id).messageId }), { from: '' })
      expect(sendOf(id).state).toBe('bounced')
    }
    expect(atDesk('trouble')).toHaveLength(1)
    const listed = application.store.statements
      .all('listTroubleInTime', { afterId: null, limit: 50, now: application.clock.now() })
      .map(({ clientId: own }) => own)
    expect(new Set(listed)).toEqual(new Set([otherId]))
    expect(sendOf('st_later', otherId).state).toBe('blocked')
  })

  test('another address of the contact lifts that, and so does a person', async () => {
    await comesIn(deliveryReport({ about: about() }), { from: '' })
    const lifted = running.commands.unblockAddress(call('unblock'), clientId, 'enno@brackwater.example')
    expect(lifted).toMatchObject({ ok: true })
    expect(sendOf('st_later').state).toBe('ready')
    await comesIn(deliveryReport({ about: sendOf('st_first').messageId }), { from: '' })
    expect(sendOf('st_later').state).toBe('ready')
  })

  test('for now goes once more with the same Message-ID, three times', async () => {
    const { messageId } = sendOf('st_first')
    const sent = () =>
      running.postOffice?.mailOf('enno@brackwater.example').filter((one) => one.messageId === messageId)
    for (let turn = 1; turn <= 3; turn += 1) {
      await comesIn(
        deliveryReport({ about: messageId, status: '4.4.7', said: `connection timed out ${turn}` }),
        { from: '' },
      )
      expect(sendOf('st_first').state).toBe('ready')
      await later(5 * hourMs)
      expect(sent()).toHaveLength(turn + 1)
    }
    await comesIn(
      deliveryReport({ about: messageId, status: '4.4.7', said: 'connection timed out at last' }),
      { from: '' },
    )
    expect(sendOf('st_first')).toMatchObject({ state: 'bounced', reason: { code: 'came back' } })
    expect(facts().undelivered).toEqual([])
  })

  test('delayed is only told', async () => {
    await comesIn(deliveryReport({ about: about(), action: 'delayed', status: '4.4.1' }), { from: '' })
    expect(sendOf('st_first').state).toBe('sent')
    expect(latest()).toMatchObject({ place: null, followed: [expect.stringContaining('still on its way')] })
  })

  test('from a full mailbox is waited for three times, then the address is blocked', async () => {
    for (let turn = 1; turn <= 3; turn += 1) {
      await comesIn(deliveryReport({ about: about(), status: '5.2.2', said: `mailbox full ${turn}` }), {
        from: '',
      })
      expect(facts().undelivered).toMatchObject([{ isBlocked: false, timesFull: turn }])
      await later(5 * hourMs)
    }
    await comesIn(deliveryReport({ about: about(), status: '5.2.2', said: 'mailbox full, again' }), {
      from: '',
    })
    expect(facts().undelivered).toMatchObject([{ isBlocked: true }])
    expect(atDesk('trouble')).toHaveLength(1)
  })

  test('forged for an address never written to, or about somebody else’s message, changes nothing', async () => {
    await comesIn(deliveryReport({ about: null, address: 'nobody@never.example' }), { from: '' })
    expect(atDesk('trouble')).toEqual([])
    await comesIn(deliveryReport({ about: about(), address: 'nobody@never.example' }), { from: '' })
    expect(sendOf('st_first').state).toBe('sent')
    // It names a message of ours and another address: a person looks.
    expect(atDesk('trouble').map(({ match }) => match.by)).toEqual(['report, probably'])
  })

  test('a report about a report is about nothing from here', async () => {
    await comesIn(
      deliveryReport({
        about: '<mail-1@mx.brackwater.example>',
        address: 'mailer-daemon@mx.brackwater.example',
      }),
      {
        from: '',
      },
    )
    expect([...atDesk('trouble'), ...atDesk('decide')]).toEqual([])
  })
})

test('a complaint ends promotional mail at once', async () => {
  await comesIn(complaintAbout(sendOf('st_first').messageId))
  expect(facts().client.takesPromotional).toBe(false)
  expect(facts().happenings).toMatchObject([{ kind: 'opted out' }])
  expect(atDesk('trouble')).toHaveLength(1)
})

test('a declined invitation is a task, and the booking stands', async () => {
  await comesIn(invitationReply(`${bookingId}@kiteworks.example`, 'DECLINED'))
  const [task] = running.application.store.statements.all('openTasks', { afterId: null, limit: 10 })
  expect(task?.['title']).toBe('enno declined the appointment “Kite lesson”: ask whether they are coming')
  expect(facts().bookings[0]?.status).toBe('confirmed')
  await comesIn(invitationReply(`${bookingId}@kiteworks.example`, 'ACCEPTED'))
  expect(running.application.store.statements.all('openTasks', { afterId: null, limit: 10 })).toHaveLength(1)
})
