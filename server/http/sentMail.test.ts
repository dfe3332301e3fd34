import { afterEach, beforeEach, expect, test } from '@jest/globals'
import request from 'supertest'
import { hourMs } from '#core/time/calendar.ts'
import { readSend } from '../db/sendStore.ts'
import { mboxOf, type MboxMessage } from '../mail/mbox.ts'
import { sentMails } from '../mail/sentMail.ts'
import { addBookedClient, call } from '../testing/seed.ts'
import { openSignedIn, type SignedIn } from '../testing/signedIn.ts'

/* What an account kept of what went out, against what a backup knows: as after one was put back. */

let running: SignedIn['running']
let app: SignedIn['app']
let session: SignedIn['session']
beforeEach(async () => {
  ;({ running, app, session } = await openSignedIn())
})
afterEach(() => running.end())

let count = 0
async function compare(file: string) {
  count += 1
  const body = { commandId: `sent-mail-${count}`, base64: Buffer.from(file, 'latin1').toString('base64') }
  const answer = await request(app)
    .post('/api/sent-mail')
    .set('Cookie', session.cookie)
    .set('X-CSRF-Token', session.csrf)
    .send(body)
  return { status: answer.status, body: answer.body as Record<string, unknown> }
}

const mailOf = (id: string, at: number, to = 'oona@mail.example'): MboxMessage => ({
  from: 'hello@kiteworks.example',
  at,
  source: Buffer.from(
    `Message-ID: ${id}\r\nDate: ${new Date(at).toUTCString()}\r\nTo: ${to}\r\nSubject: x\r\n\r\nFrom here on it is flat.\r\n`,
  ),
})

const sendsOf = (clientId: string) =>
  running.application.store.statements
    .all('sendsOfClient', { clientId })
    .map(({ id }) => readSend(running.application.store.statements, String(id)))
    .filter((send) => send !== null)

test('what stands in the sent mail has gone and never goes again; what is not known is told, and nothing else is touched', async () => {
  const { application, commands, postOffice, pump } = running
  const { statements } = application.store
  const [oona, jo] = ['Oona', 'Jo'].map((name) =>
    String(
      statements.one('readBooking', {
        id: addBookedClient(application, commands, name, `${name.toLowerCase()}@mail.example`),
      })?.['clientId'],
    ),
  )
  // Held back, as a backup that was put back starts: the confirmations of both are due and have not gone from here.
  commands.setSending(call('setSending'), false)
  const [first, ...later] = sendsOf(oona ?? '')
  if (!first || !jo) throw new Error('nothing is planned')
  const wentAt = application.clock.now() - hourMs
  const file = mboxOf([
    mailOf(first.messageId, wentAt),
    mailOf('<sd_019-of-later@kiteworks.example>', wentAt, 'uma@mail.example'),
    mailOf('<somebody@else.example>', wentAt),
  ])
  expect((await compare(file)).body).toEqual({
    noted: 1,
    known: 0,
    unknown: [{ to: 'uma@mail.example', at: wentAt }],
    unknownCount: 1,
    others: 1,
  })
  expect(readSend(statements, first.id)).toMatchObject({ state: 'sent', sentAt: wentAt })
  expect(sendsOf(oona ?? '').filter(({ id }) => later.some((one) => one.id === id))).toEqual(later)
  expect((await compare(file)).body).toMatchObject({ noted: 0, known: 1 })

  expect(commands.setSending(call('setSending'), true).ok).toBe(true)
  await pump.advance(application.clock.now() + hourMs)
  expect(postOffice?.mailOf('oona@mail.example')).toEqual([])
  expect(readSend(statements, first.id)?.state).toBe('sent')
  expect(sendsOf(jo).map(({ state }) => state)).toContain('missed')
})

test('what was let go of stays so, and of mail of others nothing is noted', async () => {
  const { application, commands } = running
  const bookingId = addBookedClient(application, commands, 'Oona', 'oona@mail.example')
  const clientId = String(application.store.statements.one('readBooking', { id: bookingId })?.['clientId'])
  const [first] = sendsOf(clientId)
  if (!first) throw new Error('nothing is planned')
  const revision = Number(application.store.statements.one('sendRevision', { id: first.id })?.['revision'])
  expect(commands.decideSend(call('decideSend'), { id: first.id, revision }, 'skip').ok).toBe(true)
  const answer = await compare(mboxOf([mailOf(first.messageId, application.clock.now())]))
  expect(answer.body).toMatchObject({ noted: 0, known: 1 })
  expect(readSend(application.store.statements, first.id)?.state).toBe('skipped')
  const strange = await compare(mboxOf([mailOf('<somebody@else.example>', 0)]))
  expect(strange.body).toEqual({ noted: 0, known: 0, unknown: [], unknownCount: 0, others: 1 })
})

test('a mail is known by its header alone, folded or not (RFC 5322 2.2.3), and never by its body', () => {
  const body = '\n\nMessage-ID: <sd_body@kiteworks.example>\n'
  const read = (header: string) => sentMails(Buffer.from(`${header}${body}`))[0]
  expect(read('message-id:\n <sd_1@kiteworks.example>\nTo: a@b.example,\n\tc@d.example')).toEqual({
    sendId: 'sd_1',
    at: null,
    to: 'a@b.example, c@d.example',
  })
  expect(read('Subject: x')?.sendId).toBeNull()
  expect(read('In-Reply-To: <sd_2@kiteworks.example>')?.sendId).toBeNull()
  expect(read('Message-ID: <sd_3@k.example>\nDate: Mon, 4 May 2026 07:06:07 +0200 (CEST)')?.at).toBe(
    Date.UTC(2026, 4, 4, 5, 6, 7),
  )
})
