import { describe, expect, test } from '@jest/globals'
import type { Condition } from '../../model/condition.ts'
import type { MailStep } from '../../model/step.ts'
import {
  at,
  exampleBooking,
  exampleClient,
  exampleRun,
  exampleSettings,
  exampleSteps,
} from '../../rehearsal/exampleBusiness.ts'
import { factsOf, type ClientFacts, type Slice } from '../../planning/slice.ts'
import { realZones } from '../../time/realZones.ts'
import { withEffects } from '../effects.ts'
import { replan } from '../following/replan.ts'
import { hypothetical } from './consequences.ts'
import { whyNoSend } from './whyNoSend.ts'

const moment = (local: string) => at(realZones, 'Europe/Berlin', local)
const made = moment('2026-05-14 07:40')

/** Why the evening reminder of the example does not come, after planning. */
function ask(step: Partial<MailStep>, facts: Partial<ClientFacts> = {}, start = '2026-05-16 19:00') {
  const steps = exampleSteps.map((one) => (one.id === 'st_evening' ? { ...one, ...step } : one))
  const settings = exampleSettings(realZones, steps)
  const known = {
    bookings: [exampleBooking(moment(start), made)],
    runs: [exampleRun({ startedAt: made })],
    ...facts,
  }
  const slice: Slice = { settings, facts: factsOf(exampleClient, known) }
  const after = withEffects(slice.facts, replan(slice, hypothetical(made)))
  const [run] = after.runs
  if (!run) throw new Error('no run')
  return whyNoSend(run, 'st_evening', { settings, facts: after }, made)
}

const family: Condition = { field: 'client.tag', comparison: 'is', value: 'family' }
const [contact] = exampleClient.contacts
if (!contact) throw new Error('no contact')

describe('why a step of a run sends nothing', () => {
  test('nothing is in its way', () => expect(ask({})).toBeNull())

  test('it has gone', () => {
    const settings = exampleSettings(realZones)
    const facts = factsOf(exampleClient, {
      bookings: [exampleBooking(moment('2026-05-16 19:00'), made)],
      runs: [exampleRun({ startedAt: made })],
    })
    const planned = withEffects(facts, replan({ settings, facts }, hypothetical(made)))
    const sent = { ...planned, sends: planned.sends.map((send) => ({ ...send, state: 'sent' as const })) }
    expect(whyNoSend(exampleRun(), 'st_evening', { settings, facts: sent }, made)).toBeNull()
  })

  test.each<[string, Partial<MailStep>, Partial<ClientFacts>, string | undefined, object]>([
    ['switched off', { isOff: true }, {}, undefined, { code: 'off', change: 'Switch it on.' }],
    [
      'its condition',
      { onlyIf: family },
      {},
      undefined,
      {
        code: 'condition',
        sentence: 'client.tag is family: it has no value.',
        change: 'client.tag would have to be family.',
      },
    ],
    [
      'nobody to write to',
      { recipients: [{ to: 'other contacts', letterId: null }] },
      {},
      undefined,
      { code: 'no recipient' },
    ],
    [
      'booked too late for it',
      {},
      {},
      '2026-05-14 20:00',
      {
        code: 'late',
        change: 'It would have to be booked earlier, or the step would have to send late ones now.',
      },
    ],
    [
      'no address',
      {},
      { client: { ...exampleClient, contacts: [{ ...contact, email: null }] } },
      undefined,
      { code: 'no address' },
    ],
    [
      'a stopped run',
      {},
      { runs: [exampleRun({ startedAt: made, state: 'stopped', stoppedReason: 'The client answered.' })] },
      undefined,
      { code: 'stopped', sentence: 'The client answered.' },
    ],
    [
      'it came in too late',
      {},
      { runs: [exampleRun({ startedAt: made, passedOver: ['st_evening'] })] },
      undefined,
      { code: 'passed over' },
    ],
    [
      'waiting for the step before',
      { timing: { kind: 'after previous', amount: 1, unit: 'days', atTime: null } },
      {},
      undefined,
      { code: 'previous step' },
    ],
    [
      'an anchor without a value',
      {
        timing: {
          kind: 'elapsed',
          amount: 1,
          unit: 'hours',
          direction: 'after',
          anchor: { of: 'booking status', status: 'completed' },
        },
      },
      {},
      undefined,
      { code: 'no value yet', change: 'What it hangs on would have to have a value.' },
    ],
  ])('%s', (_, step, facts, start, expected) => {
    expect(ask(step, facts, start)).toMatchObject(expected)
  })

  test('a variation that switches it off', () => {
    const variation = {
      id: 'va_1',
      sequenceId: 'sq_1',
      stepId: 'st_evening',
      scope: { of: 'client' as const, clientId: exampleClient.id },
      letterId: null,
      timing: null,
      recipients: null,
      needsApproval: null,
      isOff: true,
      timingSetAt: 0,
    }
    expect(ask({}, { variations: [variation] })).toMatchObject({ code: 'off' })
  })

  test('a step its version does not have', () => {
    const slice = {
      settings: exampleSettings(realZones),
      facts: factsOf(exampleClient, { bookings: [exampleBooking(made + 1, made)] }),
    }
    expect(whyNoSend(exampleRun(), 'st_none', slice, made)).toMatchObject({ code: 'no step' })
  })
})
