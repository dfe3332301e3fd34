import MailComposer from 'nodemailer/lib/mail-composer'
import { attached, type OutgoingMessage } from '#core/engine/atSending/checkAtSending.ts'
import type { MergeFacts } from '#core/letters/fields.ts'
import { mergeLetter } from '#core/letters/merge.ts'
import { exampleFacts } from '#core/rehearsal/exampleFacts.ts'
import { composeMessage } from '#server/mail/compose.ts'
import { letters } from '../demo/letters.ts'
import { passages } from '../demo/passages.ts'
import { median, say, sayMachine, sideBySide, spread } from './measuring.ts'

/*
 * Merging a letter for each of many clients and composing the message, as a ratio to the bare mail library composing
 * the same finished messages. `./run bench merging [MESSAGES]`.
 */

const count = Number(process.argv[2] ?? 2000)
const letter = letters.find(({ id }) => id === 'lt_wear')
if (!letter) throw new Error('The demo has no such letter any more.')

function factsOf(index: number): MergeFacts {
  const { client, contact } = exampleFacts
  return {
    ...exampleFacts,
    client: { ...client, id: `cl_${index}`, name: `Enno ${index} Brandt` },
    contact: { ...contact, id: `ct_${index}`, firstName: `Enno ${index}`, lastName: 'Brandt' },
  }
}

const everybody = Array.from({ length: count }, (_, index) => factsOf(index))

function messageFor(facts: MergeFacts): OutgoingMessage {
  const outcome = letter && mergeLetter(letter, passages, facts)
  if (!outcome?.ok) throw new Error('A field is missing.')
  const { subject, html, text, pictureIds, attachments } = outcome.letter
  return {
    messageId: `<${facts.client.id}@kiteworks.example>`,
    from: { name: 'Kiteworks', address: 'hello@kiteworks.example' },
    replyTo: null,
    to: { name: facts.client.name, address: 'enno@mail.example' },
    subject,
    html,
    text,
    at: facts.sendingAt,
    pictureIds,
    ...attached(attachments, facts),
    optOutUrl: null,
    told: { booking: null, lines: null },
    toSign: [],
  }
}

const finished = everybody.map(messageFor)

async function mergingAndComposing(): Promise<number> {
  const from = performance.now()
  for (const facts of everybody) await composeMessage(messageFor(facts))
  return performance.now() - from
}

async function composingAlone(): Promise<number> {
  const from = performance.now()
  for (const { messageId, at: date, from: sender, to, subject, text, html } of finished) {
    const mail = { messageId, date: new Date(date), from: sender, to, subject, text, html: html ?? '' }
    await new MailComposer(mail).compile().build()
  }
  return performance.now() - from
}

await mergingAndComposing()
await composingAlone()
const { measured, baseline } = await sideBySide(mergingAndComposing, composingAlone)
const perSecond = (ms: number) => Math.round((count / ms) * 1000)
sayMachine()
say(
  `${count} messages of the letter “${letter.name}”`,
  `merged and composed: ${perSecond(median(measured))} a second (${spread(measured)})`,
  `composed by the bare library: ${perSecond(median(baseline))} a second (${spread(baseline)})`,
  `ratio: ${(median(baseline) / median(measured)).toFixed(2)} (at least 0.7 is wanted)`,
)
