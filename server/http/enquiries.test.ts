import { randomUUID } from 'node:crypto'
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import type { PipelineView } from '#core/api/enquiryEndpoints.ts'
import type { EnquiryLine, EnquiryView } from '#core/api/enquiryViews.ts'
import { nothingWished, type Wish } from '#core/model/enquiry.ts'
import type { Pipeline } from '#core/model/pipeline.ts'
import { exampleService, exampleStep } from '#core/rehearsal/exampleBusiness.ts'
import { readEnquiry } from '../db/clientStore.ts'
import { putService } from '../db/settingsStore.ts'
import { addLive, call, clientInput } from '../testing/seed.ts'
import { asEda, detailOf } from '../testing/asEda.ts'
import { openSignedIn, type SignedIn } from '../testing/signedIn.ts'
import { faultAtEachStatement } from '../testing/faultEverywhere.ts'

/* Enquiries and pipelines as pages ask for them. */

let running: SignedIn['running']
let app: SignedIn['app']
let session: SignedIn['session']
beforeEach(async () => {
  ;({ running, app, session } = await openSignedIn())
})
afterEach(() => running.end())

const theOne = 'pl_enquiries'
const path = `/api/pipelines/${theOne}`
const send: ReturnType<typeof asEda>['send'] = (...asked) => asEda(app, session).send(...asked)
const get = <Answer>(url: string) => asEda(app, session).get<Answer>(url)
const board = () => get<PipelineView>(path)

function client(name: string): string {
  const made = running.commands.addClient(
    call('addClient'),
    clientInput(name, `${name.toLowerCase()}@mail.nowhere`),
  )
  if (!made.ok) throw new Error(made.problem.sentence)
  return made.value.id
}

async function enquire(name: string, part: Partial<Wish> = {}): Promise<string> {
  const enquiry = {
    ...nothingWished,
    ...part,
    clientId: client(name),
    pipelineId: theOne,
    personInChargeId: null,
  }
  const answer = await send('post', '/api/enquiries', { enquiry })
  expect(answer.status).toBe(200)
  return (answer.body as { id: string }).id
}
const move = (id: string, revision: number, stage: string, part: object = {}) =>
  send('post', `/api/enquiries/${id}/move`, { revision, move: { stage, lostReason: '' }, ...part })

/** The pipeline with other stages. */
async function changed(change: (stages: Pipeline['stages']) => Pipeline['stages'], moved: object[] = []) {
  const { pipeline } = await board()
  const { revision, name, isActive, stages } = pipeline
  return send('put', path, { revision, pipeline: { name, isActive, stages: change(stages) }, moved })
}

const offered = exampleStep({
  id: 'st_offer',
  letterId: 'lt_starter-still',
  purpose: 'follow-up',
  timing: { kind: 'at once' },
  needsApproval: true,
})
const onOffer = () =>
  addLive(running.application, 'sq_offer', [offered], { on: 'enquiry stage entered', name: 'offer' })

describe('a pipeline', () => {
  test('is there from the beginning, and shows its enquiries with sums and what comes for each', async () => {
    onOffer()
    const first = await enquire('Oona', {
      what: 'Silver wedding',
      budgetCents: 160_000,
      wishedOn: '2026-08-01',
    })
    await enquire('Inga', { budgetCents: 40_000 })
    expect((await move(first, 1, 'offer')).status).toBe(200)
    const { sums, lines } = await board()
    expect(sums.map(({ name, count, cents }) => [name, count, cents])).toEqual([
      ['new', 1, 40_000],
      ['offer', 1, 160_000],
      ['planning', 0, 0],
      ['asleep', 0, 0],
      ['booked', 0, 0],
      ['lost', 0, 0],
    ])
    expect(sums[1]?.sequences).toEqual([
      { id: 'sq_offer', name: 'sq_offer', state: 'live', first: { label: expect.any(String), waits: true } },
    ])
    const line = lines.find(({ id }) => id === first)
    expect(line).toMatchObject({
      clientName: 'Oona',
      what: 'Silver wedding',
      stage: 'offer',
      deadlineOn: '2026-05-28',
    })
    expect(line?.coming.map(({ state }) => state)).toEqual(['waiting'])
  })

  test('a move is asked about first: nothing happens, and what was announced is held to', async () => {
    onOffer()
    const id = await enquire('Oona')
    const asked = await move(id, 1, 'offer', { onlyAsks: true })
    const { announcementId, consequences } = asked.body as {
      announcementId: string
      consequences: { kind: string; waits: boolean }[]
    }
    expect(consequences).toMatchObject([{ kind: 'added', waits: true }])
    expect((await board()).lines[0]?.stage).toBe('new')
    addLive(running.application, 'sq_more', [{ ...offered, id: 'st_more' }], { on: 'enquiry stage entered' })
    const other = await move(id, 1, 'offer', { announcementId })
    expect(other.status).toBe(409)
    expect((await board()).lines[0]?.stage).toBe('new')
  })

  test('gives what has ended part by part, each once', async () => {
    const ids: string[] = []
    for (let index = 0; index < 7; index += 1) {
      const id = await enquire(`Runa${index}`)
      await move(id, 1, 'lost', { move: { stage: 'lost', lostReason: 'Too dear.' } })
      ids.push(id)
    }
    const found: string[] = []
    let after = ''
    do {
      const part = await get<{ lines: EnquiryLine[]; next: string | null }>(
        `${path}/ended?stage=lost&limit=3${after}`,
      )
      found.push(...part.lines.map(({ id }) => id))
      after = part.next === null ? '' : `&after=${part.next}`
    } while (after !== '')
    expect(found.toSorted()).toEqual(ids.toSorted())
    expect((await board()).lines).toEqual([])
  })

  test('a stage with enquiries goes only where it is said where they go; one that is named stays', async () => {
    const id = await enquire('Oona')
    const without = (name: string) => (all: Pipeline['stages']) => all.filter((one) => one.name !== name)
    await move(id, 1, 'planning')
    const refused = await changed(without('planning'))
    expect([refused.status, detailOf(refused)]).toEqual([
      422,
      '1 enquiry is in “planning”: say which stage they go to.',
    ])
    expect((await changed(without('planning'), [{ from: 'planning', to: 'offer' }])).status).toBe(200)
    expect((await board()).lines.map(({ stage }) => stage)).toEqual(['offer'])
    onOffer()
    const named = await changed(without('offer'), [{ from: 'offer', to: 'new' }])
    expect(detailOf(named)).toContain('“offer” is named by sequence “sq_offer”')
  })
})

describe('an enquiry', () => {
  const line = { id: 'ln_meadow', words: 'Meadow agreed', sentence: 'The meadow is agreed.' }
  const withLine = () =>
    changed((all) => all.map((one) => (one.name === 'new' ? { ...one, checklist: [line] } : one)))

  test('has its checklist: who ticked and when, and what the evening letter would tell', async () => {
    const evening = { ...offered, id: 'st_evening', timing: { kind: 'evening', atTime: '18:00' } as const }
    addLive(running.application, 'sq_evening', [{ ...evening, needsApproval: false }], {
      on: 'enquiry received',
    })
    await withLine()
    const id = await enquire('Oona')
    const on = (act: string, body: object) => send('post', `/api/enquiries/${id}/${act}`, body)
    const view = () => get<EnquiryView>(`/api/enquiries/${id}`)
    expect(await view()).toMatchObject({ hasEveningStep: true, eveningSendId: null })
    expect((await on('evening', { isOn: true, tellsEarlier: false })).status).toBe(200)
    expect((await on('tick', { lineId: line.id })).status).toBe(200)
    expect(detailOf(await on('tick', { lineId: line.id }))).toBe('This line is ticked already.')
    expect(detailOf(await on('tick', { lineId: 'ln_none' }))).toBe('There is no such line any more.')
    const ticked = await view()
    expect(ticked.enquiry.ticks).toMatchObject([
      { lineId: line.id, sentence: line.sentence, personId: 'pe_eda' },
    ])
    expect(ticked.eveningSendId).not.toBeNull()
    expect((await on('untick', { lineId: line.id })).status).toBe(200)
    expect((await view()).eveningSendId).toBeNull()
    expect(ticked.history.map(({ sentence }) => sentence)).toContain('Ticked: Meadow agreed')
  })

  test('keeps its notes, and is found under its client and by name', async () => {
    const id = await enquire('Oona', { what: 'Silver wedding' })
    expect((await send('post', `/api/enquiries/${id}/notes`, { text: 'Afraid of heights.' })).status).toBe(
      200,
    )
    const { history, enquiry } = await get<EnquiryView>(`/api/enquiries/${id}`)
    expect(history[0]).toMatchObject({
      kind: 'note written',
      sentence: 'Afraid of heights.',
      personName: 'Eda',
    })
    const { lines } = await get<{ lines: EnquiryLine[] }>(`/api/clients/${enquiry.clientId}/enquiries`)
    expect(lines.map((one) => one.id)).toEqual([id])
    const { found } = await get<{ found: object[] }>('/api/find?text=oona')
    expect(found).toContainEqual({ kind: 'enquiry', id, title: 'Silver wedding', words: 'Oona · new' })
  })

  test.each<[string, object]>([
    ['500 characters too many', { what: 'x'.repeat(700) }],
    ['half a person', { partySize: 1.5 }],
    ['less than nothing', { budgetCents: -1 }],
    ['a day there is not', { wishedOn: '2026-02-30' }],
    ['41 answers', { answers: Array.from({ length: 41 }, () => ({ question: 'a', answer: 'b' })) }],
    ['an answer of 10,000 characters', { answers: [{ question: 'a', answer: 'b'.repeat(10_000) }] }],
    ['what nobody asked', { file: 'a.pdf' }],
  ])('is refused with %s, and nothing is kept', async (_, part) => {
    const enquiry = {
      ...nothingWished,
      clientId: client('Oona'),
      pipelineId: theOne,
      personInChargeId: null,
      ...part,
    }
    const answer = await send('post', '/api/enquiries', { enquiry })
    expect(answer.status).toBe(422)
    expect((await board()).lines).toEqual([])
  })

  test('pressed twice is one', async () => {
    const commandId = randomUUID()
    const enquiry = { ...nothingWished, clientId: client('Oona'), pipelineId: theOne, personInChargeId: null }
    const [one, other] = [
      await send('post', '/api/enquiries', { commandId, enquiry }),
      await send('post', '/api/enquiries', { commandId, enquiry }),
    ]
    expect(one.body).toEqual(other.body)
    expect((await board()).lines).toHaveLength(1)
  })

  test('becomes a booking as it was announced, also where an invoice is issued and written about', async () => {
    const { application } = running
    const paying = { deposit: { percent: 20, withinDays: 3 }, balanceDaysBefore: 14 }
    const offer = { ...exampleService.offer, paying, price: { cents: 50_000, per: 'booking' as const } }
    application.store.transaction(() =>
      putService(application.store.statements, { ...exampleService, seats: 100, offer }),
    )
    addLive(application, 'sq_invoice', [{ ...offered, id: 'st_invoice' }], { on: 'invoice issued' })
    const id = await enquire('Oona')
    const times = { startLocal: '2026-08-01T06:00', endLocal: '2026-08-01T09:00' }
    const booking = { serviceId: exampleService.id, ...times, partySize: 2, status: 'confirmed' }
    const book = (part: object) =>
      send('post', `/api/enquiries/${id}/booking`, { revision: 1, booking, ...part })
    const asked = (await book({ onlyAsks: true })).body as { announcementId: string; consequences: object[] }
    expect(asked.consequences.length).toBeGreaterThan(2)
    const made = await book({ announcementId: asked.announcementId })
    expect([made.status, made.body]).toEqual([200, { id: expect.stringMatching(/^bk_/) }])
  })

  test('becomes a booking as a whole or not at all: a fault at any statement leaves it as it was', async () => {
    onOffer()
    const id = await enquire('Oona', { wishedOn: '2026-08-01' })
    const times = { startLocal: '2026-08-01T06:00', endLocal: '2026-08-01T09:00' }
    const input = { serviceId: exampleService.id, ...times, partySize: 2, status: 'confirmed' as const }
    const { application, commands } = running
    const { statements } = application.store
    const { places, leftAt } = faultAtEachStatement(
      application,
      () => commands.bookEnquiry(call('bookEnquiry'), { id, revision: 1 }, input).ok,
    )
    expect(leftAt).toEqual([])
    expect(places).toBeGreaterThan(15)
    const booking = statements.all('listBookings', { from: 0, to: 9e15 })
    expect(booking).toHaveLength(1)
    expect(readEnquiry(statements, id)).toMatchObject({ stage: 'booked', bookingId: booking[0]?.['id'] })
  })
})
