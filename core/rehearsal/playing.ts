import { realZones } from '../time/realZones.ts'
import { act, type Act } from './acts.ts'
import { bundle, type Bundle } from './bundle.ts'
import { playBundle } from './playBundle.ts'
import { report } from './report.ts'

/** For tests: small sequences around one booking of one client, played through the real engine. */

export const outside = { zones: realZones, holidaysOf: () => () => false }
export const start = { of: 'booking start' }

export const base = {
  format: 'vorfreude-bundle-1',
  now: '2026-05-14T07:40',
  business: {
    zone: 'Europe/Berlin',
    sendingHours: { weekly: Array.from({ length: 7 }, () => [{ from: '08:00', to: '20:00' }]) },
  },
  services: [{ id: 'sv_1' }],
  clients: [{ id: 'cl_1', contacts: [{ id: 'ct_1', email: 'oona@siltanen.example' }] }],
  events: [],
}

export const mail = (id: string, purpose: string, timing: object, part: object = {}) => ({
  kind: 'mail',
  id: `st_${id}`,
  letterId: 'lt_1',
  purpose,
  timing,
  ...part,
})
export const atOnce = { kind: 'at once' }
export const eve = {
  kind: 'calendar',
  amount: 1,
  unit: 'days',
  direction: 'before',
  anchor: start,
  atTime: '18:00',
}
export const sequence = (id: string, on: string, steps: object[], part: object = {}) => ({
  id: `sq_${id}`,
  start: { on },
  steps,
  ...part,
})
export const every = { kind: 'every time', gap: null }

export const book = (at: string, status = 'confirmed', id = 'bk_1') => ({
  act: 'book',
  at,
  clientId: 'cl_1',
  id,
  serviceId: 'sv_1',
  start: '2026-05-20T10:00',
  end: '2026-05-20T12:00',
  status,
})
export const of = (name: string, at: string, part: object = { bookingId: 'bk_1' }) => ({
  act: name,
  at,
  clientId: 'cl_1',
  ...part,
})

/** Plays sequences against a script, as far as a moment, and reports. */
export function play(sequences: object[], script: object[], until: string, part: object = {}) {
  const read: Bundle = bundle.parse({ ...base, ...part, sequences })
  const acts: Act[] = script.map((one) => act.parse(one))
  const { settings, worlds, until: end } = playBundle(read, acts, until, outside)
  return report(settings, worlds, end)
}

export type Played = ReturnType<typeof play>

/** What went, and when, in the order it went. */
export const went = (of: Played) =>
  of.sends
    .filter(({ state }) => state === 'sent')
    .map(({ key, sent }) => [key.stepId.slice(3), sent?.iso.slice(0, 16)])

/** The state, due time and reason of every send of a step. */
export const sendsOf = (of: Played, step: string) =>
  of.sends
    .filter(({ key }) => key.stepId === `st_${step}`)
    .map(({ state, due, reason }) => [state, due?.iso.slice(0, 16) ?? null, reason?.code ?? null] as const)
