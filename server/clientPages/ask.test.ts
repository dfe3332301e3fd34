import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import { pino } from 'pino'
import request from 'supertest'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import type { PipelineView } from '#core/api/enquiryEndpoints.ts'
import type { FormView } from '#core/api/formEndpoints.ts'
import type { FormInput } from '#core/model/form.ts'
import { ownField } from '#core/model/letter.ts'
import { exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { readClient } from '../db/clientStore.ts'
import { putLetter } from '../db/letterStore.ts'
import { createApp } from '../http/app.ts'
import { signedToken } from '../mail/signedLinks.ts'
import { faultAtEachStatement } from '../testing/faultEverywhere.ts'
import { addLive, call, clientInput } from '../testing/seed.ts'
import { asEda, detailOf } from '../testing/asEda.ts'
import { openSignedIn, type SignedIn } from '../testing/signedIn.ts'

/* Forms as people fill them in who are not signed in, and what the team sees of it. */

let running: SignedIn['running']
let app: SignedIn['app']
let session: SignedIn['session']
let networks = 0
beforeEach(async () => {
  ;({ running, session } = await openSignedIn())
  // Each test from networks of its own: limits are tried apart.
  app = createApp({ ...running, proxy: 'loopback' }, pino({ level: 'silent' }))
  networks += 1
})
afterEach(() => running.end())

const charter: FormInput = {
  name: 'Charters',
  title: 'A balloon of your own',
  intro: 'Two minutes, and we write back.',
  language: 'en',
  asksPhone: 'if they like',
  pipelineId: 'pl_enquiries',
  serviceId: null,
  fields: [
    {
      id: 'fi_kind',
      kind: 'choice',
      label: 'What do you think of?',
      help: '',
      isRequired: true,
      fills: 'what',
      options: [
        { words: 'A wedding', serviceId: 'sv_lesson' },
        { words: 'Something else', serviceId: null },
      ],
      shownIf: null,
    },
    {
      id: 'fi_couple',
      kind: 'line',
      label: 'Who marries?',
      help: 'Both names',
      isRequired: true,
      fills: null,
      options: [],
      shownIf: { fieldId: 'fi_kind', values: ['A wedding'] },
    },
    {
      id: 'fi_words',
      kind: 'text',
      label: 'Anything else?',
      help: '',
      isRequired: false,
      fills: null,
      options: [],
      shownIf: null,
    },
  ],
  thanks: 'Thank you.\nWe write back soon.',
  isActive: true,
}

const send: ReturnType<typeof asEda>['send'] = (...asked) => asEda(app, session).send(...asked)
const get = <Answer>(url: string) => asEda(app, session).get<Answer>(url)
async function added(form: FormInput = charter): Promise<string> {
  const answer = await send('post', '/api/forms', { form })
  expect([answer.status, answer.text]).toEqual([200, expect.any(String)])
  return (answer.body as { id: string }).id
}
const stampOf = (ageMs: number) =>
  signedToken('form', String(Date.now() - ageMs), running.application.store.keys)
const oona = {
  fi_kind: 'A wedding',
  fi_couple: 'Oona and Per',
  fi_words: '',
  firstName: 'Oona',
  lastName: 'Lindqvist',
  email: 'oona@mail.nowhere',
  phone: '',
}
const fill = (id: string, part: Readonly<Record<string, string>> = {}) =>
  request(app)
    .post(`/ask/${id}`)
    .set('X-Forwarded-For', `10.1.0.${networks}`)
    .type('form')
    .send({ ...oona, stamp: stampOf(10_000), version: '1', key: 'a', website: '', ...part })
const board = () => get<PipelineView>('/api/pipelines/pl_enquiries')
const enquiry = async (): Promise<EnquiryView> => {
  const [line] = (await board()).lines
  return get<EnquiryView>(`/api/enquiries/${line?.id ?? ''}`)
}

describe('a form on its page', () => {
  test('is filled in without signing in or scripts, can stand within another page, and thanks', async () => {
    const id = await added()
    const page = await request(app).get(`/ask/${id}`)
    expect(page.status).toBe(200)
    expect(page.text).toContain('A balloon of your own')
    expect(page.text).not.toContain('<script')
    expect(page.headers['content-security-policy']).toContain('frame-ancestors *')
    expect(page.headers['x-frame-options']).toBeUndefined()
    // Shown only once it is a wedding, by style alone.
    expect(page.text).toContain('form:not(:has(#fi_kind-0:checked)) #row-fi_couple{display:none}')
    const sent = await fill(id)
    expect([sent.status, sent.headers['location']]).toEqual([303, `/ask/${id}/thanks`])
    const thanks = await request(app).get(`/ask/${id}/thanks`)
    expect(thanks.text).toContain('<p>Thank you.</p><p>We write back soon.</p>')
  })

  test('makes an enquiry in the first stage, of a new client, with its answers, and starts what starts on it', async () => {
    const step = exampleStep({ id: 'st_a', purpose: 'confirmation', timing: { kind: 'at once' } })
    const byForm = { on: 'form received', name: 'Charters' } as const
    addLive(running.application, 'sq_received', [{ ...step, letterId: 'lt_starter-still' }], byForm)
    const id = await added()
    await fill(id)
    const view = await enquiry()
    expect(view.enquiry).toMatchObject({
      stage: 'new',
      what: 'A wedding',
      serviceId: 'sv_lesson',
      source: 'Charters',
      answers: [
        { question: 'What do you think of?', answer: 'A wedding' },
        { question: 'Who marries?', answer: 'Oona and Per' },
      ],
    })
    expect(view.clientName).toBe('Oona Lindqvist')
    expect(view.receipt).toMatchObject({ formName: 'Charters', revision: 1, differs: [] })
    const sends = await get<{ lines: { sequenceName: string }[] }>(
      `/api/clients/${view.enquiry.clientId}/sends`,
    )
    expect(sends.lines).toHaveLength(1)
  })

  test('sent twice by a double press it is one enquiry; the same person with another wish is the same client', async () => {
    const id = await added()
    await Promise.all([fill(id), fill(id)])
    expect((await board()).lines).toHaveLength(1)
    await fill(id, { key: 'b', fi_kind: 'Something else' })
    const { lines } = await board()
    expect(lines).toHaveLength(2)
    expect(new Set(lines.map(({ clientId }) => clientId)).size).toBe(1)
  })

  test('says what differs from what is known, writes nothing over, and a person takes it over or leaves it', async () => {
    const made = running.commands.addClient(call('addClient'), clientInput('Oona Berg', 'OONA@mail.nowhere'))
    if (!made.ok) throw new Error(made.problem.sentence)
    const clientId = made.value.id
    const { statements } = running.application.store
    const before = readClient(statements, clientId)
    const id = await added()
    await fill(id, { phone: '0170 555 01' })
    expect(readClient(statements, clientId)).toEqual(before)
    const { receipt, enquiry: asked } = await enquiry()
    expect(asked.clientId).toBe(clientId)
    const differs = receipt?.differs.map(({ fact, given }) => [fact, given])
    expect(differs).toContainEqual(['phone', '0170 555 01'])
    expect(statements.all('tasksOfClient', { clientId })).toHaveLength(1)
    const decide = () => send('post', `/api/receipts/${receipt?.id ?? ''}/decide`, { taken: ['phone'] })
    expect((await decide()).status).toBe(200)
    expect(readClient(statements, clientId)?.contacts).toEqual(
      before?.contacts.map((one) => ({ ...one, phone: '0170 555 01' })),
    )
    const twice = await decide()
    expect([twice.status, detailOf(twice)]).toEqual([409, 'Somebody has looked at this already.'])
  })

  test.each<[string, Readonly<Record<string, string>>, number, string]>([
    ['a name that is missing', { lastName: '' }, 422, 'Please give your name.'],
    ['an answer that is missing', { fi_couple: '' }, 422, 'Please fill this in.'],
    [
      '10,000 characters',
      { fi_words: 'x'.repeat(10_000) },
      422,
      'At most 2,000 characters, please; these are 10,000.',
    ],
    ['more than can be sent', { fi_words: 'x'.repeat(600_000) }, 413, 'That is more than can be sent here.'],
    ['what a program fills in', { website: 'x' }, 422, 'it is there for programs'],
    ['a form that was given out by nobody', { stamp: 'x.y' }, 422, 'This page has been open for long.'],
    ['an option there is not', { fi_kind: '<b>A</b>' }, 422, 'Please choose one of the options.'],
  ])('%s: said where it is, and nothing typed is lost', async (_, part, status, sentence) => {
    const id = await added()
    const answer = await fill(id, part)
    expect(answer.status).toBe(status)
    expect(answer.text).toContain(sentence)
    expect(answer.text).not.toContain('<b>A</b>')
    if (status === 422) expect(answer.text).toContain('value="oona@mail.nowhere"')
    expect((await board()).lines).toHaveLength(0)
  })

  test('a file where none is asked for is refused with a sentence', async () => {
    const id = await added()
    const answer = await request(app)
      .post(`/ask/${id}`)
      .field('fi_kind', 'A wedding')
      .attach('fi_words', Buffer.from('x'), '../../evil.exe')
    expect([answer.status, answer.text]).toEqual([415, expect.stringContaining('Files cannot be sent here.')])
    expect((await board()).lines).toHaveLength(0)
  })

  test('closed or unknown it says so', async () => {
    const id = await added({ ...charter, isActive: false })
    for (const path of [`/ask/${id}`, '/ask/fm_none', `/ask/${id}/thanks`]) {
      const page = await request(app).get(path)
      expect([page.status, page.text]).toEqual([404, expect.stringContaining('This form is closed.')])
    }
    expect((await fill(id)).status).toBe(404)
  })

  test('comes in as a whole or not at all: a fault at any statement leaves everything as it was', async () => {
    const id = await added()
    const { application, commands } = running
    const form = application.settings.required().forms.find((one) => one.id === id)
    if (!form) throw new Error('There is no form')
    const { firstName, lastName, email, phone } = oona
    const filled = {
      answers: [{ question: 'Who marries?', answer: 'Oona and Per' }],
      what: 'A wedding',
      wishedOn: null,
      partySize: null,
      budgetCents: null,
      source: '',
      serviceId: null,
      takesPromotional: null,
    }
    const filler = { firstName, lastName, email, phone }
    const { places, leftAt } = faultAtEachStatement(
      application,
      () => commands.receiveForm(call('receiveForm'), form, filler, filled).ok,
    )
    expect(leftAt).toEqual([])
    expect(places).toBeGreaterThan(10)
  })
})

describe('a form is changed', () => {
  const change = (id: string, revision: number, form: FormInput) =>
    send('put', `/api/forms/${id}`, { revision, form })

  test('by versions: what was begun on an earlier one counts as it was then', async () => {
    const id = await added()
    const fewer = { ...charter, fields: charter.fields.slice(2), title: 'Ask us' }
    expect((await change(id, 1, fewer)).body).toMatchObject({ revision: 2 })
    await fill(id)
    const { receipt } = await enquiry()
    expect(receipt?.revision).toBe(1)
    expect(receipt?.answers.map(({ question }) => question)).toContain('Who marries?')
    const view = await get<FormView>(`/api/forms/${id}`)
    expect([view.receipts, view.form.title, view.url]).toEqual([
      1,
      'Ask us',
      expect.stringMatching(`/ask/${id}$`),
    ])
    expect((await change(id, 1, charter)).status).toBe(409)
    const gone = await send('delete', `/api/forms/${id}`)
    expect([gone.status, detailOf(gone)]).toEqual([409, '1 person has filled it in. Close it instead.'])
  })

  test('a field that a letter says cannot go, and the letter is named', async () => {
    const { store, settings } = running.application
    const letter = settings.required().letters.find(({ id }) => id === 'lt_starter-still')
    if (!letter) throw new Error('There is no letter')
    const said = { kind: 'field', field: ownField('Who marries?'), ifMissing: { kind: 'hold' } } as const
    store.transaction(() => putLetter(store.statements, { ...letter, subject: [said] }, null))
    settings.forget()
    const id = await added()
    const answer = await change(id, 1, { ...charter, fields: charter.fields.slice(2) })
    expect([answer.status, detailOf(answer)]).toEqual([
      409,
      `“Who marries?” is said in letter “${letter.name}”. Take it out there first; then it can go, or be called something else.`,
    ])
  })

  test('a name that sequences go by stays, one that is taken is refused', async () => {
    const step = exampleStep({ id: 'st_a', purpose: 'confirmation', timing: { kind: 'at once' } })
    addLive(running.application, 'sq_received', [step], { on: 'form received', name: 'Charters' })
    const id = await added()
    const renamed = await change(id, 1, { ...charter, name: 'Balloons' })
    expect([renamed.status, detailOf(renamed)]).toEqual([
      409,
      '“Charters” is named by sequence “sq_received”. Change that first.',
    ])
    const twice = await send('post', '/api/forms', { form: charter })
    expect(JSON.stringify(twice.body)).toContain('There is a form “Charters” already.')
    const nowhere = await send('post', '/api/forms', {
      form: { ...charter, name: 'B', pipelineId: 'pl_none' },
    })
    expect(JSON.stringify(nowhere.body)).toContain('There is no such pipeline.')
  })

  test('its page can be looked at before', async () => {
    const answer = await send('post', '/api/form-previews', { form: charter, commandId: undefined })
    expect((answer.body as { html: string }).html).toContain('Who marries?')
  })
})
