import { describe, expect, test } from '@jest/globals'
import { actUrlsBy, clientActPaths } from '#core/model/clientAct.ts'
import { hourMs } from '#core/time/calendar.ts'
import { simpleParser } from 'mailparser'
import { compileLetter } from '#core/letters/compile.ts'
import { fieldValue, type MergeFacts } from '#core/letters/fields.ts'
import { mergeLetter } from '#core/letters/merge.ts'
import { piecesOfLetter, problemsOf } from '#core/letters/problems.ts'
import { misspelt, typedText } from '#core/letters/spelling.ts'
import { letterFor } from '#core/letters/variants.ts'
import { newInvoice } from '#core/model/dealings.ts'
import { newEnquiry } from '#core/model/enquiry.ts'
import type { Letter } from '#core/model/letter.ts'
import { attached } from '#core/engine/atSending/checkAtSending.ts'
import { at, exampleBooking, exampleClient } from '#core/rehearsal/exampleBusiness.ts'
import { realZones } from '#core/time/realZones.ts'
import { composeMessage } from '#server/mail/compose.ts'
import { knownIn } from '#server/testing/dictionaries.ts'
import { business, people, services } from './business.ts'
import { documents } from './documents.ts'
import { letters } from './letters.ts'
import { passages } from './passages.ts'

const moment = (local: string) => at(realZones, business.zone, local)
const service = services.find(({ id }) => id === 'sv_sunrise') ?? null
const person = people.find(({ id }) => id === 'pe_bram') ?? people[0] ?? null

const contactOf = (firstName: string, lastName: string) => ({
  id: 'ct_1',
  firstName,
  lastName,
  email: 'x@mail.example',
  phone: '',
  isPrimary: true,
})

/** Everything any letter of the demo is about, for one made-up client. */
function factsFor(firstName: string, lastName: string): MergeFacts {
  const booking = {
    ...exampleBooking(moment('2026-05-25 05:20'), moment('2026-05-14 07:40')),
    serviceId: 'sv_sunrise',
  }
  const contact = contactOf(firstName, lastName)
  return {
    business,
    client: { ...exampleClient, name: `${firstName} ${lastName}`.trim(), contacts: [contact] },
    contact,
    // Moved, and not told yet.
    booking: { ...booking, told: { ...booking.told, startAt: booking.startAt - 25 * hourMs } },
    service,
    personInCharge: person,
    enquiry: newEnquiry(
      {
        id: 'en_1',
        clientId: exampleClient.id,
        pipelineId: 'pl_enquiries',
        serviceId: 'sv_private',
        what: 'Silver wedding',
        stage: 'asked',
        wishedOn: '2026-07-04',
      },
      0,
    ),
    invoice: newInvoice(
      {
        id: 'in_1',
        clientId: exampleClient.id,
        bookingId: booking.id,
        dueOn: '2026-05-28',
        amountCents: 24_900,
        reason: 'deposit',
      },
      0,
    ),
    progress: ['The meadow is chosen.', 'The toast is ordered.'],
    runStartedAt: moment('2026-05-14 07:40'),
    optOutUrl: 'https://thistledown.example/choose/cl_1.abc',
    payUrl: 'https://thistledown.example/pay/in_1.abc',
    allUrl: 'https://thistledown.example/all/cl_1.abc',
    toSign: documents.map((document) => ({ document, url: 'https://thistledown.example/sign/en_1.abc' })),
    bookingUrl: 'https://thistledown.example/yours/bk_1.abc',
    actUrls: actUrlsBy((act) => `https://thistledown.example/yours/bk_1.${act}/${clientActPaths[act]}`),
    zone: realZones.zone(business.zone),
    readerZone: null,
    sendingAt: moment('2026-05-22 18:00'),
  }
}

async function parsed(letter: Letter, facts: MergeFacts) {
  const outcome = mergeLetter(
    letterFor(letter, { serviceId: 'sv_sunrise', client: facts.client }),
    passages,
    facts,
  )
  if (!outcome.ok) throw new Error(`${letter.name}: ${outcome.missing.join()}`)
  const { subject, html, text, pictureIds, attachments } = outcome.letter
  const source = await composeMessage({
    messageId: '<sd_1@thistledown.example>',
    from: { name: business.senderName, address: business.senderAddress },
    replyTo: null,
    to: { name: facts.client.name, address: 'x@mail.example' },
    subject,
    html,
    text,
    at: facts.sendingAt,
    pictureIds,
    ...attached(attachments, facts),
    optOutUrl: letter.class === 'promotional' ? facts.optOutUrl : null,
    told: { booking: null, lines: null },
    toSign: [],
  })
  return await simpleParser(source)
}

const named = letters.map((letter) => [letter.name, letter] as const)
/** As people read it: tags away, entities as what they stand for, white space as one space. */
const asRead = (html: string) =>
  html
    .replace(/<[^>]+>/g, ' ')
    .replace(
      /&(amp|lt|gt|quot|#39);/g,
      (_, name: string) => ({ amp: '&', lt: '<', gt: '>', quot: '"', '#39': "'" })[name] ?? '',
    )
    .replace(/\s+/g, ' ')
const inOneLine = (text: string) => text.replace(/\s+/g, ' ')

describe('the demo’s letters, parsed back by an independent MIME parser', () => {
  test('are 24 or more, at least one for each moment', () => {
    expect(letters.length).toBeGreaterThanOrEqual(24)
    expect(new Set(letters.map(({ moment: of }) => of)).size).toBeGreaterThanOrEqual(6)
    expect(letters.filter(({ preheader }) => preheader.length === 0)).toEqual([])
  })

  test.each(named)('%s: every field’s value stands in both parts', async (_, letter) => {
    for (const [first, last] of [
      ['Leonie', 'Abendroth'],
      ['Jörg-Günther', 'Käsebier-Ślęzak & Söhne <Erben>'],
    ] as const) {
      const facts = factsFor(first, last)
      const mail = await parsed(letter, facts)
      const { fields } = compileLetter(
        letterFor(letter, { serviceId: 'sv_sunrise', client: facts.client }),
        passages,
      )
      const inSubject = new Set(letter.subject.flatMap((one) => (one.kind === 'field' ? [one.field] : [])))
      expect(mail.subject?.trim().length).toBeGreaterThan(0)
      for (const field of fields) {
        const value = inOneLine(fieldValue(field, facts, letter.language))
        expect(value).not.toBe('')
        const text = inSubject.has(field) ? `${mail.subject ?? ''} ${mail.text ?? ''}` : (mail.text ?? '')
        const html = inSubject.has(field) ? `${mail.subject ?? ''} ${mail.html || ''}` : mail.html || ''
        expect(inOneLine(text)).toContain(value)
        // A link's address stands in its tag, its words in the text.
        expect(field.startsWith('link.') ? html : asRead(html)).toContain(value)
      }
    }
  })

  test.each(named)('%s reads well as plain text', async (_, letter) => {
    const { subject, text } = await parsed(letter, factsFor('Leonie', 'Abendroth'))
    expect(`${subject ?? ''}\n\n${text ?? ''}`).toMatchSnapshot()
  })

  test.each(named)('%s has nothing to see to', (_, letter) => {
    const context = { passages, sendings: [], names: [], hasPostalAddress: true, sisters: [] }
    expect(problemsOf(letter, context)).toEqual([])
  })
})

test('nothing in them is misspelt', () => {
  for (const language of ['en', 'de'] as const) {
    const isKnown = knownIn(language)
    for (const letter of letters) {
      const own = piecesOfLetter(letter).filter((piece) => piece.language === language)
      const text = typedText(own.map(({ nodes }) => nodes))
      expect([letter.name, misspelt(text, language, isKnown, [])]).toEqual([letter.name, []])
    }
  }
})
