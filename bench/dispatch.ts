import { createTransport } from 'nodemailer'
import { checkAtSending, type OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import { readSend } from '#server/db/sendStore.ts'
import { calendarFile } from '#server/mail/calendarFile.ts'
import { startPostOffice } from '#server/standins/postOffice/start.ts'
import { callOf } from '#server/engine/application.ts'
import { addBookedClient, openExample, testFolder } from '#server/testing/seed.ts'
import { onlyLiving } from '#server/db/livingStore.ts'
import { median, say, sayMachine, sideBySide, spread } from './measuring.ts'

/*
 * Handing messages over to the post office through the outbox, with all its claims, checks and records, as a ratio to
 * the bare mail library handing over the same messages through a pool of the same size.
 */

const count = Number(process.argv[2] ?? 300)
const poolSize = 5

async function throughTheOutbox(): Promise<number> {
  const running = await openExample({ hasPostOfficeBeside: true })
  running.commands.setSending(callOf('setSending', 'hold-back-first'), false)
  for (let index = 0; index < count; index += 1)
    addBookedClient(running.application, running.commands, `Client${index}`, `client${index}@mail.example`)
  running.application.store.statements.run('setSendingOn', { isSendingOn: 1 })
  running.application.settings.forget()
  const from = performance.now()
  await running.pump.advance(running.application.clock.now())
  const ms = performance.now() - from
  if (messages.length === 0) messages = outgoing(running)
  await running.end()
  return ms
}

let messages: OutgoingMessage[] = []

/** The very messages that went, made once more. */
function outgoing({ application }: Awaited<ReturnType<typeof openExample>>): OutgoingMessage[] {
  const now = application.clock.now()
  return application.store.statements.all('allClientIds').flatMap(({ id }) => {
    const slice = application.sliceOf(String(id), onlyLiving)
    const row = slice?.facts.sends.find(({ state }) => state === 'sent')
    const send = row && readSend(application.store.statements, row.id)
    const verdict = slice && send ? checkAtSending(send, slice, now) : null
    return verdict?.goes && verdict.message ? [verdict.message] : []
  })
}

async function byTheBareLibrary(): Promise<number> {
  const postOffice = await startPostOffice(testFolder(), () => undefined)
  const transport = createTransport({ url: postOffice.url(), pool: true, maxConnections: poolSize } as {
    url: string
    pool: true
  })
  const from = performance.now()
  await Promise.all(
    messages.map(({ from: sender, to, subject, text, html, messageId, appointment, at }) =>
      transport.sendMail({
        from: sender,
        to,
        subject,
        text,
        html: html ?? '',
        messageId,
        attachments: appointment ? [{ filename: 'a.ics', content: calendarFile(appointment, at) }] : [],
      }),
    ),
  )
  const ms = performance.now() - from
  transport.close()
  await postOffice.stop()
  return ms
}

await throughTheOutbox()
await byTheBareLibrary()
const { measured, baseline } = await sideBySide(throughTheOutbox, byTheBareLibrary)
const perSecond = (ms: number) => Math.round((count / ms) * 1000)
sayMachine()
say(
  `${messages.length} messages, a pool of ${poolSize}`,
  `through the outbox: ${perSecond(median(measured))} a second (${spread(measured)})`,
  `by the bare library: ${perSecond(median(baseline))} a second (${spread(baseline)})`,
  `ratio: ${(median(baseline) / median(measured)).toFixed(2)} (at least 0.8 is wanted)`,
)
