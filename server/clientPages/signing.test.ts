import { createHash } from 'node:crypto'
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import { pino } from 'pino'
import request from 'supertest'
import type { DocumentView } from '#core/api/documentEndpoints.ts'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import type { MailboxView, MailView } from '#core/api/mailboxViews.ts'
import type { DocumentInput } from '#core/engine/commands/documentCommands.ts'
import { linkToField } from '#core/letters/links.ts'
import { textToSign } from '#core/model/document.ts'
import { nothingWished } from '#core/model/enquiry.ts'
import { ownField, signField, type Letter } from '#core/model/letter.ts'
import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { plainStep } from '#core/model/step.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { signingsOf } from '../db/documentStore.ts'
import { putLetter } from '../db/letterStore.ts'
import { createApp } from '../http/app.ts'
import { signedToken } from '../mail/signedLinks.ts'
import { addLive, call, clientInput } from '../testing/seed.ts'
import { asEda, detailOf } from '../testing/asEda.ts'
import { openSignedIn, type SignedIn } from '../testing/signedIn.ts'

/* A document on its way: written, fixed as it is sent, read, signed, kept. */

let running: SignedIn['running']
let app: SignedIn['app']
let session: SignedIn['session']
beforeEach(async () => {
  ;({ running, session } = await openSignedIn())
  app = createApp({ ...running, proxy: 'loopback' }, pino({ level: 'silent' }))
})
afterEach(() => running.end())

const agreement: DocumentInput = {
  name: 'Charter agreement',
  language: 'en',
  consent: 'I have read this and agree to it.',
  isActive: true,
  paragraphs: [
    { kind: 'heading', content: [{ kind: 'text', text: 'What we agree on' }] },
    {
      kind: 'text',
      content: [
        { kind: 'text', text: 'The basket for ' },
        { kind: 'field', field: 'enquiry.what', ifMissing: { kind: 'hold' } },
        { kind: 'text', text: ' takes off at dawn, even in Übersee. Colour: ' },
        { kind: 'field', field: ownField('Colour'), ifMissing: { kind: 'substitute', text: 'any' } },
        { kind: 'text', text: '.' },
      ],
    },
  ],
}
const fixedText = [
  'Charter agreement',
  'What we agree on',
  'The basket for Ruby wedding takes off at dawn, even in Übersee. Colour: any.',
  'I have read this and agree to it.',
].join('\n\n')
const sha256 = (text: string) => createHash('sha256').update(text).digest('hex')

const send: ReturnType<typeof asEda>['send'] = (...asked) => asEda(app, session).send(...asked)
const get = <Answer>(url: string) => asEda(app, session).get<Answer>(url)

/** The document, and a letter that leads to it by a button; sent as an enquiry comes in. */
async function written(): Promise<string> {
  const answer = await send('post', '/api/documents', { document: agreement })
  expect([answer.status, answer.text]).toEqual([200, expect.any(String)])
  const { store, settings } = running.application
  const letter = settings.required().letters.find(({ id }) => id === 'lt_starter-still')
  if (!letter) throw new Error('There is no letter')
  const leads: Letter = {
    ...letter,
    isStarter: false,
    sections: [
      {
        id: 'a',
        kind: 'button',
        label: [{ kind: 'text', text: 'Read and sign' }],
        link: linkToField(signField('Charter agreement')),
      },
    ],
  }
  store.transaction(() => putLetter(store.statements, leads, null))
  const step = exampleStep({
    id: 'st_agreement',
    letterId: letter.id,
    purpose: 'confirmation',
    timing: { kind: 'at once' },
  })
  addLive(running.application, 'sq_agreement', [step], {
    on: 'enquiry stage entered',
    again: { kind: 'every time', gap: null },
  })
  return (answer.body as { id: string }).id
}

let clientId = ''
async function enquired(what = 'Ruby wedding'): Promise<string> {
  const { commands } = running
  const made = commands.addClient(call('addClient'), clientInput('Oona', 'oona@mail.nowhere'))
  if (!made.ok) throw new Error(made.problem.sentence)
  clientId = made.value.id
  const asked = { ...nothingWished, what, clientId, pipelineId: 'pl_enquiries', personInChargeId: null }
  const enquiry = commands.addEnquiry(call('addEnquiry'), asked)
  if (!enquiry.ok) throw new Error(enquiry.problem.sentence)
  await sent()
  return enquiry.value.id
}
const sent = () => running.pump.advance(running.application.clock.now() + minuteMs)

/** The link of the last mail to the client that leads to something to sign. */
async function link(): Promise<string> {
  const { messages } = await get<MailboxView>('/api/mailboxes/oona@mail.nowhere')
  const mail = await get<MailView>(`/api/mail/${messages[0]?.id ?? 0}`)
  const found = /http\S+(\/sign\/\S+)/.exec(mail.text)?.[1]
  if (found === undefined) throw new Error('No link leads to anything to sign')
  return found
}
const stampOf = (ageMs: number) =>
  signedToken('form', String(Date.now() - ageMs), running.application.store.keys)
const sign = (path: string, part: Readonly<Record<string, string>> = {}) =>
  request(app)
    .post(path)
    .set('X-Forwarded-For', '203.0.113.7')
    .type('form')
    .send({ name: 'Oona Lindqvist', consent: 'yes', hash: sha256(fixedText), stamp: stampOf(9_000), ...part })
const signings = (id: string) => signingsOf(running.application.store.statements, id)

/** All text of a PDF, by a reader that has nothing to do with who wrote it. */
async function textOf(pdf: Buffer): Promise<string> {
  const file = await getDocument({ data: new Uint8Array(pdf), useSystemFonts: false }).promise
  const pages: string[] = []
  for (let number = 1; number <= file.numPages; number += 1) {
    const { items } = await (await file.getPage(number)).getTextContent()
    pages.push(items.map((one) => ('str' in one ? one.str : '')).join(' '))
  }
  await file.destroy()
  return pages.join(' ').replace(/\s+/g, ' ')
}

describe('a document to sign', () => {
  test('is fixed as its letter goes, read without signing in, and says what it said then', async () => {
    await written()
    const id = await enquired()
    const path = await link()
    const page = await request(app).get(path)
    expect(page.status).toBe(200)
    expect(page.text).toContain(
      'The basket for Ruby wedding takes off at dawn, even in Übersee. Colour: any.',
    )
    expect(page.text).not.toContain('<script')
    const [first] = signings(id)
    expect(first).toMatchObject({ hash: sha256(fixedText), signed: null })
    expect(first && textToSign(first.document)).toBe(fixedText)
    const { signings: seen } = await get<EnquiryView>(`/api/enquiries/${id}`)
    expect(seen).toMatchObject([{ name: 'Charter agreement', signed: null }])
  })

  test('signed, it is kept with name, time, address and hash; both have the copy, whose text another reader finds', async () => {
    await written()
    const id = await enquired()
    const path = await link()
    expect((await request(app).get(`${path}/document.pdf`)).status).toBe(404)
    const answer = await sign(path)
    expect([answer.status, answer.headers['location']]).toEqual([303, path])
    const [kept] = signings(id)
    const now = running.application.clock.now()
    expect(kept?.signed).toEqual({ at: now, typedName: 'Oona Lindqvist', address: '203.0.113.7' })
    const page = await request(app).get(path)
    expect(page.text).toContain('Signed by Oona Lindqvist')
    const own = await request(app).get(`${path}/document.pdf`).buffer(true)
    expect(own.headers['content-type']).toContain('application/pdf')
    const team = await request(app)
      .get(`/api/signings/${kept?.id ?? ''}/document.pdf`)
      .set('Cookie', session.cookie)
      .buffer(true)
    const pdf = own.body as Buffer
    expect(pdf.equals(team.body as Buffer)).toBe(true)
    const text = await textOf(pdf)
    for (const part of fixedText.split('\n\n')) expect(text).toContain(part)
    expect(text).toContain('Signed by: Oona Lindqvist')
    expect(text).toContain('Network address: 203.0.113.7')
    expect(text).toContain(sha256(fixedText))
  })

  test('signed, it starts what starts on it and ends what ends on it; pressed twice it is signed once', async () => {
    await written()
    const later = exampleStep({
      id: 'st_remind',
      letterId: 'lt_starter-still',
      purpose: 'follow-up',
      timing: {
        kind: 'elapsed',
        amount: 72,
        unit: 'hours',
        direction: 'after',
        anchor: { of: 'run started' },
      },
    })
    const { application } = running
    addLive(application, 'sq_remind', [later], { on: 'enquiry received' }, [{ on: 'signed' }])
    const timing = { kind: 'at once' }
    const task = plainStep.parse({ kind: 'task', id: 'st_task', title: 'Book the day', timing })
    addLive(application, 'sq_signed', [task], {
      on: 'signed',
      name: 'Charter agreement',
    })
    const id = await enquired()
    const path = await link()
    const [one, other] = await Promise.all([sign(path), sign(path)])
    expect([one.status, other.status]).toEqual([303, 303])
    expect(signings(id)).toHaveLength(1)
    await sent()
    const states = application.store.statements.all('listOfSubject', { subjectId: id })
    expect(states.find(({ stepId }) => stepId === 'st_remind')?.['state']).toBe('cancelled')
    expect(application.store.statements.all('tasksOfClient', { clientId })).toHaveLength(1)
    const { history } = await get<EnquiryView>(`/api/enquiries/${id}`)
    expect(history.filter(({ sentence }) => sentence.includes('was signed by Oona Lindqvist'))).toHaveLength(
      1,
    )
  })

  test('sent again in the same words it is the same; in others it is read anew, and the old page signs nothing', async () => {
    const documentId = await written()
    const id = await enquired()
    const path = await link()
    const move = (stage: string, revision: number) =>
      running.commands.moveEnquiry(call('moveEnquiry'), { id, revision }, { stage, lostReason: '' })
    expect(move('offer', 1).ok).toBe(true)
    await sent()
    expect(signings(id)).toHaveLength(1)
    const other = { ...agreement, consent: 'I agree to all of it.' }
    const changed = await send('put', `/api/documents/${documentId}`, { revision: 1, document: other })
    expect(changed.status).toBe(200)
    expect((await request(app).get(path)).text).toContain(agreement.consent)
    expect(move('planning', 2).ok).toBe(true)
    await sent()
    expect(await link()).toBe(path)
    const stale = await sign(path)
    expect(stale.status).toBe(409)
    expect(stale.text).toContain('This has been changed since you opened it.')
    expect(stale.text).toContain('I agree to all of it.')
    expect(signings(id).map(({ signed }) => signed)).toEqual([null, null])
    const hash = sha256(fixedText.replace(agreement.consent, other.consent))
    expect((await sign(path, { hash })).status).toBe(303)
    expect(signings(id).map(({ signed }) => signed?.typedName ?? null)).toEqual(['Oona Lindqvist', null])
  })

  test.each<[string, Readonly<Record<string, string>>, string]>([
    ['no name', { name: '  ' }, 'Please type your name.'],
    ['no tick', { consent: '' }, 'Please tick that you agree.'],
    ['a page given out by nobody', { stamp: 'a.b' }, 'This page has been open for long.'],
    ['a name that is a page', { name: '<i>Oona</i>', consent: '' }, '&lt;i&gt;Oona&lt;/i&gt;'],
  ])('%s: said where it is, and nothing is signed', async (_, part, sentence) => {
    await written()
    const id = await enquired()
    const answer = await sign(await link(), part)
    expect(answer.status).toBe(422)
    expect(answer.text).toContain(sentence)
    expect(signings(id)[0]?.signed).toBeNull()
  })

  test('a link nobody gave out leads nowhere', async () => {
    for (const path of ['/sign/en_1~dc_1.abc', '/sign/x', '/sign/en_1~dc_1.abc/document.pdf']) {
      const page = await request(app).get(path)
      expect([page.status, page.text]).toEqual([
        404,
        expect.stringContaining('There is nothing to sign here.'),
      ])
    }
  })

  test('what it says and is missing holds the letter for a person', async () => {
    await written()
    const id = await enquired('')
    const { sends } = await get<EnquiryView>(`/api/enquiries/${id}`)
    expect(sends.map(({ state }) => state)).toEqual(['blocked'])
    expect(signings(id)).toEqual([])
  })

  test('is deleted only while nothing goes by its name, and keeps a name that letters lead to', async () => {
    const id = await written()
    const view = await get<DocumentView>(`/api/documents/${id}`)
    expect(view.namedBy).toEqual([expect.stringMatching(/^letter “/)])
    const renamed = await send('put', `/api/documents/${id}`, {
      revision: 1,
      document: { ...agreement, name: 'Terms' },
    })
    expect([renamed.status, detailOf(renamed)]).toEqual([
      409,
      expect.stringContaining('is named by letter “'),
    ])
    const gone = await send('delete', `/api/documents/${id}`)
    expect([gone.status, detailOf(gone)]).toEqual([409, expect.stringContaining('Archive it instead.')])
    const twice = await send('post', '/api/documents', { document: agreement })
    expect(JSON.stringify(twice.body)).toContain('There is a document “Charter agreement” already.')
  })
})
