import { afterAll, beforeAll, expect, test } from '@jest/globals'
import fc from 'fast-check'
import { cancelBooking, confirmBooking, makeBooking, moveBooking } from '#core/engine/bookingCommands.ts'
import { decideSend } from '#core/engine/sendCommands.ts'
import type { Booking } from '#core/model/booking.ts'
import { send, type Send } from '#core/model/send.ts'
import type { ClientFacts } from '#core/planning/slice.ts'
import { startRule } from '#core/model/sequence.ts'
import { step as stepOf } from '#core/model/step.ts'
import { plannedFromHistory, stillToCome, unrest } from '#core/rehearsal/history.ts'
import { createWorld, type World } from '#core/rehearsal/world.ts'
import { hourMs, minuteMs } from '#core/time/calendar.ts'
import { factsOfClient } from '../db/clientStore.ts'
import { addSequence } from '../db/settingsStore.ts'
import { asItStands, call, clientInput, openExample } from '../testing/seed.ts'
import type { RunningOffice } from './runningOffice.ts'

/*
 * One engine, two shells: the same random scripts drive the server's store and post office, and the world in memory.
 * Every send, time and trace must be the same, and the plan of either what its history gives.
 */

let running: RunningOffice

const step = (id: string, part: object) =>
  stepOf.parse({ id: `st_${id}`, timing: { kind: 'at once' }, ...part })
const soon = (amount: number, unit: 'hours' | 'days') => ({
  kind: 'after previous',
  amount,
  unit,
  atTime: null,
})
const letterId = 'lt_starter-reminder'

/** Beside the example's: a chain with a branch and deeds, and what is told of moves and cancellations. */
const furtherSequences = [
  {
    on: 'booking confirmed' as const,
    steps: [
      step('tag', { kind: 'tag', tag: 'booked' }),
      step('ask', {
        kind: 'mail',
        letterId,
        purpose: 'preparation',
        timing: soon(3, 'hours'),
        needsApproval: true,
      }),
      step('did', {
        kind: 'branch',
        condition: { field: 'client.tag', comparison: 'is', value: 'flown' },
        timing: soon(1, 'days'),
        yes: [step('thanks', { kind: 'mail', letterId, purpose: 'follow-up' })],
        no: [
          step('task', { kind: 'task', title: 'Call' }),
          step('fly', { kind: 'tag', tag: 'flown', timing: soon(2, 'days') }),
        ],
      }),
    ],
  },
  { on: 'booking moved' as const, steps: [step('moved', { kind: 'mail', letterId, purpose: 'change' })] },
  {
    on: 'booking cancelled' as const,
    steps: [
      step('sorry', { kind: 'mail', letterId, purpose: 'cancellation' }),
      step('back', { kind: 'mail', letterId, purpose: 'promotional', timing: soon(1, 'days') }),
    ],
  },
]

beforeAll(async () => {
  running = await openExample()
  const { store, settings } = running.office
  furtherSequences.forEach(({ on, steps }, index) => {
    const sequenceId = `sq_${index + 2}`
    const again = { kind: 'every time', gap: null }
    addSequence(
      store.statements,
      { id: sequenceId, name: `Further ${index}`, state: 'live', liveSince: 0, currentVersion: 1 },
      { sequenceId, version: 1, start: startRule.parse({ on, again }), steps, stops: [] },
    )
  })
  settings.forget()
})

afterAll(() => running.end())

/** Which booking, from the latest one on. */
const which = fc.constantFrom(0, 0, 0, 1, 2)

const act = fc.oneof(
  fc.record({
    kind: fc.constant('move' as const),
    which,
    inDays: fc.integer({ min: 1, max: 12 }),
    hour: fc.integer({ min: 5, max: 21 }),
  }),
  fc.record({ kind: fc.constant('wait' as const), minutes: fc.integer({ min: 1, max: 3 * 1440 }) }),
  // Long enough for what is over to come to rest.
  fc.record({ kind: fc.constant('wait' as const), minutes: fc.integer({ min: 9 * 1440, max: 25 * 1440 }) }),
  fc.record({
    kind: fc.constant('book' as const),
    inDays: fc.integer({ min: 1, max: 12 }),
    hour: fc.integer({ min: 5, max: 21 }),
  }),
  fc.record({ kind: fc.constant('cancel' as const), which }),
  fc.record({ kind: fc.constant('confirm' as const), which }),
  fc.record({ kind: fc.constant('skip' as const) }),
  fc.record({ kind: fc.constant('hold back' as const) }),
  fc.record({ kind: fc.constant('approve' as const) }),
)
type Step = { kind: string; which?: number; inDays?: number; hour?: number; minutes?: number }

/** Its message is due at once, and has to wait until the move has settled; a branch waits for it. */
const approvedWhileSettling: Step[] = [
  { kind: 'wait', minutes: 300 },
  { kind: 'move', inDays: 9, hour: 10 },
  { kind: 'approve' },
  { kind: 'wait', minutes: 300 },
]

/** Its approval no longer stands once the booking moves on, still settling: it waits at its own time again. */
const approvalLapsesWhileSettling: Step[] = [
  { kind: 'wait', minutes: 2505 },
  { kind: 'move', inDays: 12, hour: 11 },
  { kind: 'approve' },
  { kind: 'move', inDays: 9, hour: 18 },
]

const pad = (part: number) => String(part).padStart(2, '0')

function timesIn(now: number, days: number, hour: number) {
  const date = new Date(now + days * 24 * hourMs).toISOString().slice(0, 10)
  return { startLocal: `${date}T${pad(hour)}:30`, endLocal: `${date}T${pad(hour + 2)}:30` }
}

/** What must be the same in both shells: everything but ids made by chance and the number of attempts. */
function comparable(sends: readonly Send[]) {
  const anywhere = {
    id: 'sd_x',
    runId: 'ru_x',
    messageId: '',
    recipientId: 'ct_x',
    clientId: 'cl_x',
    attempts: 0,
  }
  const subject = { kind: 'booking', id: 'bk_x' }
  // Read through the schema, so that the order of the keys is one and the same.
  return sends.map((one) => JSON.stringify(send.parse({ ...one, ...anywhere, subject }))).sort()
}

/** The same message in both shells, whatever their ids. */
function firstOf({ sends, runs }: ClientFacts, which: (send: Send) => boolean): Send | undefined {
  const key = ({ stepId, anchorValue, dueAt, runId }: Send) => {
    const startedAt = runs.find(({ id }) => id === runId)?.startedAt
    return [stepId, anchorValue, dueAt, startedAt].join('|')
  }
  return sends.filter(which).sort((one, other) => (key(one) < key(other) ? -1 : 1))[0]
}

function fromTheLatest(bookings: readonly Booking[], which: number): Booking {
  const inOrder = [...bookings].sort(
    (one, other) => other.madeAt - one.madeAt || other.startAt - one.startAt || other.endAt - one.endAt,
  )
  const found = inOrder[which % inOrder.length]
  if (!found) throw new Error('no booking')
  return found
}

async function playBoth(
  steps: readonly Step[],
  name: string,
): Promise<{ server: string[]; memory: string[] }> {
  const { office, commands, pump } = running
  const { statements } = office.store
  const added = commands.addClient(call('addClient'), clientInput(name, `${name}@mail.example`))
  if (!added.ok) throw new Error(added.problem.sentence)
  const facts = () => {
    const found = factsOfClient(statements, added.value.id)
    if (!found) throw new Error('no client')
    return found
  }
  const world: World = createWorld(office.settings.required(), facts().client, office.clock.now())
  const book = (inDays: number, hour: number) => {
    const input = {
      clientId: added.value.id,
      serviceId: 'sv_lesson',
      ...timesIn(office.clock.now(), inDays, hour),
      partySize: 1,
      status: 'confirmed' as const,
      personInChargeId: null,
    }
    commands.makeBooking(call('makeBooking'), input)
    world.carryOut(makeBooking(world.slice(), input, () => 0, world.context()))
  }
  book(6, 10)
  await pump.advance(office.clock.now())
  world.advance(world.now())
  for (const step of steps) {
    const mine = fromTheLatest(facts().bookings, step.which ?? 0)
    const theirs = fromTheLatest(world.facts().bookings, step.which ?? 0)
    if (step.kind === 'book') book(step.inDays ?? 1, step.hour ?? 10)
    else if (step.kind === 'wait') {
      const to = office.clock.now() + (step.minutes ?? 1) * minuteMs
      await pump.advance(to)
      world.advance(to)
    } else if (step.kind === 'cancel') {
      commands.cancelBooking(call('cancelBooking'), mine.id, mine.revision)
      const result = cancelBooking(world.slice(), theirs.id, theirs.revision, world.context())
      if (result.ok) world.carryOut(result)
    } else if (step.kind === 'move') {
      const times = timesIn(office.clock.now(), step.inDays ?? 1, step.hour ?? 10)
      commands.moveBooking(call('moveBooking'), mine.id, mine.revision, times)
      const result = moveBooking(world.slice(), theirs.id, theirs.revision, times, () => 0, world.context())
      if (result.ok) world.carryOut(result)
    } else if (step.kind === 'confirm') {
      commands.confirmBooking(call('confirmBooking'), mine.id, mine.revision)
      const result = confirmBooking(world.slice(), theirs.id, theirs.revision, world.context())
      if (result.ok) world.carryOut(result)
    } else {
      const decision = step.kind === 'skip' || step.kind === 'hold back' ? step.kind : 'approve'
      const isOpen = ({ state }: Send) => state === (decision === 'approve' ? 'waiting' : 'ready')
      const open = firstOf(facts(), isOpen)
      const same = firstOf(world.facts(), isOpen)
      if (!open || !same) continue
      commands.decideSend(call('decideSend'), asItStands(office, open.id), decision)
      const result = decideSend(world.slice(), same.id, decision, world.context())
      if (result.ok) world.carryOut(result)
    }
    await pump.advance(office.clock.now())
    world.advance(world.now())
    // Here as in memory the plan is what the history gives, and planning again changes nothing.
    const slice = { settings: office.settings.required(), facts: facts() }
    const now = office.clock.now()
    expect(unrest(slice, now)).toEqual([])
    expect(plannedFromHistory(slice, now)).toEqual(stillToCome(slice.facts.sends))
  }
  return { server: comparable(facts().sends), memory: comparable(world.facts().sends) }
}

test('the same scripts give the same sends, times and traces', async () => {
  let count = 0
  const numRuns = process.env['VORFREUDE_FULL'] === 'yes' ? 150 : 25
  await fc.assert(
    fc.asyncProperty(fc.array<Step>(act, { minLength: 1, maxLength: 8 }), async (steps) => {
      const { server, memory } = await playBoth(steps, `client${(count += 1)}`)
      expect(server).toEqual(memory)
    }),
    { numRuns, examples: [[approvedWhileSettling], [approvalLapsesWhileSettling]] },
  )
}, 1_200_000)
