import { act } from './acts.ts'
import { bundle } from './bundle.ts'
import { mail, outside, sequence } from './playing.ts'
import { playBundle } from './playBundle.ts'
import { report } from './report.ts'

/*
 * For tests: one client, one booking, one or two sequences, and what a business would say happened. Times are written
 * `05-11 09:00` (2026, Berlin), outcomes `sent 05-18 08:00`, `cancelled`.
 */

const full = (text: string) => (/^\d{4}/.test(text) ? text : `2026-${text}`).replace(' ', 'T')

/** Sending hours: every day, or Monday to Friday. */
export function hours(from: string, to: string, days: 'daily' | 'weekdays' = 'daily') {
  return Array.from({ length: 7 }, (_, index) =>
    days === 'weekdays' && index > 4 ? [] : [{ from, to: to as '24:00' }],
  )
}

const anchors = {
  start: { of: 'booking start' },
  end: { of: 'booking end' },
  made: { of: 'booking made' },
  due: { of: 'invoice due' },
} as const

type Unit = 'minutes' | 'hours' | 'days' | 'weeks' | 'months'

/** Some time before or after a moment of the booking. */
export function offset(
  amount: number,
  unit: Unit,
  direction: 'before' | 'after',
  of: keyof typeof anchors,
  atTime: string | null = null,
) {
  const anchor = anchors[of]
  return unit === 'minutes' || unit === 'hours'
    ? { kind: 'elapsed', amount, unit, direction, anchor }
    : { kind: 'calendar', amount, unit, direction, anchor, atTime }
}

export const next = (amount: number, unit: Unit, atTime: string | null = null) => ({
  kind: 'after previous',
  amount,
  unit,
  atTime,
})

export const again = (amount: number, unit: Unit, end: { until?: object; by?: object; atMost?: number }) => ({
  repeat: {
    every: { amount, unit },
    untilCondition: end.until ?? null,
    untilAnchor: end.by ?? null,
    atMost: end.atMost ?? null,
  },
})

export { mail, sequence }

const of = { clientId: 'cl_1' }

/** Booked for a start and an end, both `05-19 08:05`. */
export const booked = (at: string, start: string, end: string, status = 'confirmed', part: object = {}) => ({
  act: 'book',
  at: full(at),
  ...of,
  id: 'bk_1',
  serviceId: 'sv_1',
  start: full(start),
  end: full(end),
  status,
  ...part,
})

/** Moved to a start; it takes as long as before (two hours) unless an end is given. */
export function movedTo(at: string, start: string, end?: string) {
  const [day = '', time = ''] = start.split(' ')
  const later = `${String(Number(time.slice(0, 2)) + 2).padStart(2, '0')}${time.slice(2)}`
  return {
    act: 'move',
    at: full(at),
    ...of,
    bookingId: 'bk_1',
    start: full(start),
    end: full(end ?? `${day} ${later}`),
  }
}

export const did = (name: string, at: string, part: object = { bookingId: 'bk_1' }) => ({
  act: name,
  at: full(at),
  ...of,
  ...part,
})

/** Something the client did, such as opening a message. */
export const happened = (at: string, kind: string, name = '') => did('client', at, { did: kind, name })

/** Something that concerns everybody, such as switching a sequence off. */
export const forAll = (name: string, at: string, part: object) => ({ act: name, at: full(at), ...part })

export interface SmallWorld {
  readonly hours?: ReturnType<typeof hours>
  readonly business?: object
  readonly client?: object
  readonly service?: object
  readonly sequences: readonly object[]
  readonly acts: readonly object[]
  /** Up to which moment it is played. */
  readonly lookedAt: string
}

const officeHours = { weekly: hours('09:00', '17:00', 'weekdays') }

/** Plays a small world and says how each step's messages stand, in an order that does not matter. */
export function played(world: SmallWorld) {
  const until = full(world.lookedAt)
  const read = bundle.parse({
    format: 'vorfreude-bundle-1',
    now: until,
    business: {
      zone: 'Europe/Berlin',
      officeHours,
      sendingHours: { weekly: world.hours ?? hours('08:00', '20:00') },
      ...world.business,
    },
    services: [{ id: 'sv_1', ...world.service }],
    clients: [{ id: 'cl_1', contacts: [{ id: 'ct_1', email: 'oona@siltanen.example' }], ...world.client }],
    sequences: world.sequences,
    events: world.acts.map((one) => act.parse(one)),
  })
  const { settings, worlds, until: end } = playBundle(read, [], until, outside)
  return report(settings, worlds, end)
}

const shown = (iso: string) =>
  (iso.startsWith('2026') ? iso.slice(5, 16) : iso.slice(0, 16)).replace('T', ' ')

/** `sent 05-18 08:00`, `ready …`, `waiting …`; other states alone. */
export function outcomes(world: SmallWorld): Readonly<Record<string, readonly string[]>> {
  const steps: Record<string, string[]> = {}
  for (const { key, state, due, sent } of played(world).sends) {
    const at = state === 'sent' ? sent : ['ready', 'waiting', 'approved'].includes(state) ? due : null
    const step = key.stepId.slice(3)
    steps[step] = [...(steps[step] ?? []), at ? `${state} ${shown(at.iso)}` : state].sort()
  }
  return steps
}
