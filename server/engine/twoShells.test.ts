import { expect, test } from '@jest/globals'
import fc from 'fast-check'
import {
  cancelBooking,
  confirmBooking,
  makeBooking,
  moveBooking,
  type MakeBookingInput,
  type MoveBookingInput,
} from '#core/engine/commands/bookingCommands.ts'
import { decideSend, type SendDecision } from '#core/engine/commands/sendCommands.ts'
import type { Booking } from '#core/model/booking.ts'
import type { Client } from '#core/model/client.ts'
import { send, type Send } from '#core/model/send.ts'
import type { ClientFacts, Settings, Slice } from '#core/planning/slice.ts'
import { startRule } from '#core/model/sequence.ts'
import { step as stepOf } from '#core/model/step.ts'
import { plannedFromHistory, stillToCome, unrest } from '#core/rehearsal/history.ts'
import { createWorld, type World } from '#core/rehearsal/world.ts'
import { hourMs, minuteMs } from '#core/time/calendar.ts'
import { factsOfClient } from '../db/clientStore.ts'
import { addSequence } from '../db/settingsStore.ts'
import { asItStands, call, clientInput, exampleStartsAt, openExample } from '../testing/seed.ts'
import type { RunningApplication } from './runningApplication.ts'

/*
 * One engine, two shells: the same random scripts drive the server's store and post office, and the world in memory.
 * Every send, time and trace must be the same, and the plan of either what its history gives.
 */

const step = (id: string, part: object) =>
  stepOf.parse({ id: `st_${id}`, timing: { kind: 'at once' }, ...part })
const soon = (amount: number, unit: 'hours' | 'days') => ({
  kind: 'after previous',
  amount,
  unit,
  atTime: null,
})
const letterId = 'lt_starter-reminder'

/** Beside the example's: a chain with a branch and actions, and what is told of moves and cancellations. */
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

/** An application of its own for each script, so that a script that fails does so again alone. */
async function openWithFurther(startsAt: number): Promise<RunningApplication> {
  const running = await openExample({ clockStartsAt: startsAt })
  const { store, settings } = running.application
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
  return running
}

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

/** Two years on, so that the clocks change in both directions, and days off come. */
const starts = fc
  .integer({ min: 0, max: 2 * 365 * 24 * 60 })
  .map((minutes) => exampleStartsAt + minutes * minuteMs)

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

/** Approved after the last hour of sending it goes in the morning, also once its booking stands again. */
const approvedByNightAndUndone: Step[] = [
  { kind: 'wait', minutes: 735 },
  { kind: 'approve' },
  { kind: 'cancel', which: 0 },
  { kind: 'confirm', which: 0 },
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

/** What a script acts on: the server's store and post office, or the world in memory. */
interface Shell {
  now(): number
  slice(): Slice
  advance(to: number): void | Promise<void>
  book(input: MakeBookingInput): void
  cancel(booking: Booking): void
  move(booking: Booking, to: MoveBookingInput): void
  confirm(booking: Booking): void
  decide(sendId: string, decision: SendDecision): void
}

function shellOfServer({
  application,
  commands,
  pump,
}: RunningApplication): Shell & { readonly clientId: string } {
  const added = commands.addClient(call('addClient'), clientInput('Agatha', 'agatha@mail.nowhere'))
  if (!added.ok) throw new Error(added.problem.sentence)
  const facts = () => {
    const found = factsOfClient(application.store.statements, added.value.id)
    if (!found) throw new Error('no client')
    return found
  }
  return {
    clientId: added.value.id,
    now: () => application.clock.now(),
    slice: () => ({ settings: application.settings.required(), facts: facts() }),
    advance: (to) => pump.advance(to),
    book: (input) => void commands.makeBooking(call('makeBooking'), input),
    cancel: ({ id, revision }) => void commands.cancelBooking(call('cancelBooking'), id, revision),
    move: ({ id, revision }, to) => void commands.moveBooking(call('moveBooking'), id, revision, to),
    confirm: ({ id, revision }) => void commands.confirmBooking(call('confirmBooking'), id, revision),
    decide: (id, decision) =>
      void commands.decideSend(call('decideSend'), asItStands(application, id), decision),
  }
}

function shellInMemory(settings: Settings, client: Client, startsAt: number): Shell {
  const world = createWorld(settings, client, startsAt)
  const slice = () => world.slice()
  const context = () => world.context()
  const carryOut = (result: Parameters<World['carryOut']>[0]) => {
    if (result.ok) world.carryOut(result)
  }
  return {
    now: () => world.now(),
    slice,
    advance: (to) => world.advance(to),
    book: (input) => carryOut(makeBooking(slice(), input, () => 0, context())),
    cancel: ({ id, revision }) => carryOut(cancelBooking(slice(), id, revision, context())),
    move: ({ id, revision }, to) => carryOut(moveBooking(slice(), id, revision, to, () => 0, context())),
    confirm: ({ id, revision }) => carryOut(confirmBooking(slice(), id, revision, context())),
    decide: (id, decision) => carryOut(decideSend(slice(), id, decision, context())),
  }
}

function book(shell: Shell, inDays: number, hour: number) {
  const { client } = shell.slice().facts
  shell.book({
    clientId: client.id,
    serviceId: 'sv_lesson',
    ...timesIn(shell.now(), inDays, hour),
    partySize: 1,
    status: 'confirmed',
    personInChargeId: null,
  })
}

async function carryOut(shell: Shell, step: Step) {
  const { facts } = shell.slice()
  const booking = fromTheLatest(facts.bookings, step.which ?? 0)
  if (step.kind === 'book') book(shell, step.inDays ?? 1, step.hour ?? 10)
  else if (step.kind === 'wait') await shell.advance(shell.now() + (step.minutes ?? 1) * minuteMs)
  else if (step.kind === 'cancel') shell.cancel(booking)
  else if (step.kind === 'move') shell.move(booking, timesIn(shell.now(), step.inDays ?? 1, step.hour ?? 10))
  else if (step.kind === 'confirm') shell.confirm(booking)
  else {
    const decision = step.kind === 'skip' || step.kind === 'hold back' ? step.kind : 'approve'
    const open = firstOf(facts, ({ state }) => state === (decision === 'approve' ? 'waiting' : 'ready'))
    if (open) shell.decide(open.id, decision)
  }
}

/** Plays a script. After each step the plan is what the history gives, and planning again changes nothing. */
async function play(shell: Shell, steps: readonly Step[]): Promise<readonly Send[]> {
  book(shell, 6, 10)
  await shell.advance(shell.now())
  for (const step of steps) {
    await carryOut(shell, step)
    await shell.advance(shell.now())
    const slice = shell.slice()
    expect(unrest(slice, shell.now())).toEqual([])
    expect(plannedFromHistory(slice, shell.now())).toEqual(stillToCome(slice.facts.sends))
  }
  return shell.slice().facts.sends
}

const scripts = fc.array<Step>(act, { minLength: 1, maxLength: 8 })

test('the same scripts give the same sends, times and traces', async () => {
  const numRuns = process.env['VORFREUDE_FULL'] === 'yes' ? 150 : 25
  await fc.assert(
    fc.asyncProperty(scripts, starts, async (steps, startsAt) => {
      const running = await openWithFurther(startsAt)
      try {
        const server = shellOfServer(running)
        const { settings, facts } = server.slice()
        const memory = shellInMemory(settings, facts.client, startsAt)
        expect(comparable(await play(server, steps))).toEqual(comparable(await play(memory, steps)))
      } finally {
        await running.end()
      }
    }),
    {
      numRuns,
      examples: [
        [approvedWhileSettling, exampleStartsAt],
        [approvalLapsesWhileSettling, exampleStartsAt],
        [approvedByNightAndUndone, exampleStartsAt],
      ],
    },
  )
}, 1_200_000)

test('many more of them in memory alone', async () => {
  const numRuns = process.env['VORFREUDE_FULL'] === 'yes' ? 25_000 : 500
  const running = await openWithFurther(exampleStartsAt)
  const { settings, facts } = shellOfServer(running).slice()
  await running.end()
  await fc.assert(
    fc.asyncProperty(scripts, starts, async (steps, startsAt) => {
      await play(shellInMemory(settings, facts.client, startsAt), steps)
    }),
    { numRuns },
  )
}, 1_200_000)
