import { randomUUID } from 'node:crypto'
import { afterEach, beforeEach, describe, expect, test } from '@jest/globals'
import request from 'supertest'
import type { BookingView, SettingsView } from '#core/api/views.ts'
import type { EnquiryView } from '#core/api/enquiryViews.ts'
import type { MoveView } from '#core/api/moveEndpoints.ts'
import type { OfferedMove } from '#core/api/moveViews.ts'
import type { MoveInput } from '#core/engine/commands/moveSettings.ts'
import { nothingWished } from '#core/model/enquiry.ts'
import { exampleBookingInput } from '#core/rehearsal/exampleBusiness.ts'
import { readClient } from '../db/clientStore.ts'
import { putLetter } from '../db/letterStore.ts'
import { faultAtEachStatement } from '../testing/faultEverywhere.ts'
import { call, clientInput } from '../testing/seed.ts'
import { asEda, detailOf } from '../testing/asEda.ts'
import { openSignedIn, type SignedIn } from '../testing/signedIn.ts'

/* Moves of one press as pages ask for them. */

let running: SignedIn['running']
let app: SignedIn['app']
let session: SignedIn['session']
beforeEach(async () => {
  ;({ running, app, session } = await openSignedIn())
  const { store, settings } = running.application
  const letter = settings.required().letters.find(({ id }) => id === 'lt_starter-still')
  store.transaction(() => {
    if (letter) putLetter(store.statements, { ...letter, isStarter: false }, null)
  })
  settings.forget()
})
afterEach(() => running.end())

const send: ReturnType<typeof asEda>['send'] = (...asked) => asEda(app, session).send(...asked)
const get = <Answer>(url: string) => asEda(app, session).get<Answer>(url)

function must<Value>(made: { ok: true; value: Value } | { ok: false; problem: { sentence: string } }): Value {
  if (!made.ok) throw new Error(made.problem.sentence)
  return made.value
}

const commands = () => running.commands
const newClient = (name: string) =>
  must(commands().addClient(call('addClient'), clientInput(name, `${name.toLowerCase()}@mail.nowhere`))).id
const enquire = (name: string) => {
  const clientId = newClient(name)
  const asked = { ...nothingWished, clientId, pipelineId: 'pl_enquiries', personInChargeId: null }
  return { clientId, id: must(commands().addEnquiry(call('addEnquiry'), asked)).id }
}
const book = (name: string) => {
  const input = { ...exampleBookingInput, clientId: newClient(name) }
  return must(commands().makeBooking(call('makeBooking'), input)).id
}

const agreement: MoveInput = {
  name: 'Send the agreement',
  of: 'enquiry',
  onlyIf: { field: 'enquiry.stage', comparison: 'is', value: 'new' },
  parts: [
    { kind: 'stage', stage: 'offer', reason: '' },
    { kind: 'date stamp', label: 'agreement sent' },
    { kind: 'tag', tag: 'charter', adds: true },
    { kind: 'task', title: 'Ask whether it came', dueInDays: 5 },
    { kind: 'field', field: 'Agreement', value: 'sent' },
  ],
  isActive: true,
}
const sendsIt = { letterId: 'lt_starter-still', waits: true }

async function added(move: MoveInput = agreement, letter: typeof sendsIt | null = sendsIt): Promise<string> {
  const answer = await send('post', '/api/moves', { move, letter })
  expect([answer.status, answer.text]).toEqual([200, expect.any(String)])
  return (answer.body as { id: string }).id
}
const press = (moveId: string, on: object[], part: object = {}) =>
  send('post', `/api/moves/${moveId}/press`, { on, ...part })
const offeredFor = async (...ids: string[]) =>
  (await get<{ moves: OfferedMove[] }>(`/api/moves?ids=${ids.join(',')}`)).moves

describe('a move of one press', () => {
  test('is put together with its letter, which is a sequence that starts on it', async () => {
    const id = await added()
    const { move, sequences, namedBy } = await get<MoveView>(`/api/moves/${id}`)
    expect(move).toMatchObject({ ...agreement, revision: 1 })
    expect(sequences).toMatchObject([{ name: 'Send the agreement', state: 'live', first: { waits: true } }])
    expect(namedBy).toEqual(['sequence “Send the agreement”'])
    const renamed = await send('put', `/api/moves/${id}`, {
      revision: 1,
      move: { ...agreement, name: 'Off it goes' },
      letter: null,
    })
    expect([renamed.status, detailOf(renamed)]).toEqual([
      409,
      '“Send the agreement” is what starts sequence “Send the agreement”. Let that start on something else first.',
    ])
    const archived = await send('put', `/api/moves/${id}`, {
      revision: 1,
      move: { ...agreement, isActive: false },
      letter: null,
    })
    expect(archived.status).toBe(200)
    expect((await send('delete', `/api/moves/${id}`)).status).toBe(409)
    const { onePressMoves } = await get<SettingsView>('/api/settings')
    expect(onePressMoves).toMatchObject([{ id, isActive: false, revision: 2 }])
  })

  test.each<[string, Partial<MoveInput>, string]>([
    ['a part it cannot have', { of: 'booking' }, 'A booking has no stage.'],
    [
      'two ways at once',
      { parts: [...agreement.parts, { kind: 'stage', stage: 'lost', reason: '' }] },
      'One stage or status is enough.',
    ],
    ['no name', { name: '' }, 'A move needs a name, such as “Send the agreement”.'],
  ])('is refused with %s', async (_, part, sentence) => {
    const answer = await send('post', '/api/moves', { move: { ...agreement, ...part }, letter: null })
    expect(answer.status).toBe(422)
    expect(JSON.stringify(answer.body)).toContain(sentence)
  })

  test('shows before what it does, does it, tells what it did, and takes it back while nothing has gone', async () => {
    const moveId = await added()
    const { id, clientId } = enquire('Oona')
    const before = await get<EnquiryView>(`/api/enquiries/${id}`)
    expect(before.moves.map(({ name, does }) => [name, does.at(-1)])).toEqual([
      ['Send the agreement', '“Are you still thinking about it?”, after a look'],
    ])
    const asked = await press(moveId, [{ id, revision: 1 }], { onlyAsks: true })
    const { announcementId, consequences } = asked.body as { announcementId: string; consequences: object[] }
    expect(consequences).toMatchObject([{ kind: 'added', waits: true }])
    expect((await get<EnquiryView>(`/api/enquiries/${id}`)).enquiry.stage).toBe('new')
    const done = await press(moveId, [{ id, revision: 1 }], { announcementId })
    expect([done.status, done.body]).toEqual([200, { done: 1, refused: [] }])
    const after = await get<EnquiryView>(`/api/enquiries/${id}`)
    expect(after.enquiry).toMatchObject({
      stage: 'offer',
      answers: [{ question: 'Agreement', answer: 'sent' }],
    })
    expect(after.moves).toEqual([])
    expect(after.pressed).toMatchObject({ name: 'Send the agreement', personName: 'Eda', whyNot: null })
    expect(after.pressed?.said).toHaveLength(5)
    expect(after.sends.map(({ state }) => state)).toEqual(['waiting'])
    const { statements } = running.application.store
    expect(readClient(statements, clientId)?.tags).toEqual(['charter'])
    const back = await send('post', `/api/pressed-moves/${after.pressed?.id ?? ''}/take-back`)
    expect(back.status).toBe(200)
    const again = await get<EnquiryView>(`/api/enquiries/${id}`)
    expect(again.enquiry).toEqual({ ...before.enquiry, revision: again.enquiry.revision })
    expect(again.pressed).toBeNull()
    expect(again.moves).toEqual(before.moves)
    expect(again.sends.map(({ state }) => state)).toEqual(['cancelled'])
    expect(readClient(statements, clientId)?.tags).toEqual([])
    expect(statements.all('tasksOfClient', { clientId })).toEqual([])
    const twice = await send('post', `/api/pressed-moves/${after.pressed?.id ?? ''}/take-back`)
    expect([twice.status, detailOf(twice)]).toEqual([409, 'This was taken back already.'])
  })

  test('pressed twice by a double press it is pressed once', async () => {
    const moveId = await added()
    const { id } = enquire('Oona')
    const commandId = randomUUID()
    const [one, other] = [
      await press(moveId, [{ id, revision: 1 }], { commandId }),
      await press(moveId, [{ id, revision: 1 }], { commandId }),
    ]
    expect(one.body).toEqual(other.body)
    expect((await get<EnquiryView>(`/api/enquiries/${id}`)).sends).toHaveLength(1)
  })

  test('on many: offered for those it makes sense for, and the others are told of', async () => {
    const moveId = await added()
    const [oona, inga] = [enquire('Oona'), enquire('Inga')]
    await press(moveId, [{ id: oona.id, revision: 1 }])
    const offered = await offeredFor(oona.id, inga.id)
    expect(offered.map(({ name, ids }) => [name, ids])).toEqual([['Send the agreement', [inga.id]]])
    const done = await press(moveId, [
      { id: oona.id, revision: 3 },
      { id: inga.id, revision: 1 },
    ])
    expect(done.body).toMatchObject({ done: 1, refused: [{ id: oona.id, clientName: 'Oona' }] })
    const wrong = await request(app).get('/api/moves?ids=x').set('Cookie', session.cookie)
    expect(wrong.status).toBe(422)
  })

  test('on a booking, with a status', async () => {
    const parts: MoveInput['parts'] = [{ kind: 'status', status: 'cancelled' }]
    const moveId = await added({ ...agreement, name: 'Wind', of: 'booking', onlyIf: null, parts }, null)
    const id = book('Runa')
    const before = await get<BookingView>(`/api/bookings/${id}`)
    expect(before.moves.map(({ does }) => does)).toEqual([['Make the booking cancelled']])
    const { revision } = before.booking
    expect((await press(moveId, [{ id, revision }])).status).toBe(200)
    const after = await get<BookingView>(`/api/bookings/${id}`)
    expect(after.booking.status).toBe('cancelled')
    await send('post', `/api/pressed-moves/${after.pressed?.id ?? ''}/take-back`)
    const back = await get<BookingView>(`/api/bookings/${id}`)
    expect(back.booking).toEqual({ ...before.booking, revision: back.booking.revision })
    const states = ({ sends }: BookingView) => sends.map((one) => [one.state, one.shownAt]).sort()
    expect(states(back)).toEqual(states(before))
  })

  test('all of it or nothing: a fault at any statement leaves everything as it was', async () => {
    const moveId = await added()
    const { id } = enquire('Oona')
    const { application } = running
    const { places, leftAt } = faultAtEachStatement(
      application,
      () => commands().pressMove(call('pressMove'), moveId, [{ id, revision: 1 }]).ok,
    )
    expect(leftAt).toEqual([])
    expect(places).toBeGreaterThan(20)
    const { pressed } = await get<EnquiryView>(`/api/enquiries/${id}`)
    const back = faultAtEachStatement(
      application,
      () => commands().takeMoveBack(call('takeMoveBack'), pressed?.id ?? '').ok,
    )
    expect(back.leftAt).toEqual([])
    expect(back.places).toBeGreaterThan(20)
  })
})
