import { uptime } from 'node:os'
import { minuteMs } from '#core/time/calendar.ts'
import type { Statements } from '../../db/statements.ts'

/** The machine's clock went another way than time itself: which of the two is right, a person has to say. */
export interface ClockJump {
  /** The time as it would be without the jump; business goes by it meanwhile. */
  readonly heldAt: number
  /** What the machine's clock says. */
  readonly machineAt: number
}

/** Business time. Leases, time-outs and sign-in use real time and never this. */
export interface Clock {
  readonly kind: 'real' | 'demo'
  now(): number
  /** Called by the loop before it handles what is due at a moment. The real clock moves by itself. */
  reach(moment: number): void
  /** Null: the clock is to be trusted. */
  jump(): ClockJump | null
  /** What the machine's clock says now is right. */
  trustMachine(): void
}

/** Where the real clock reads time, all in milliseconds. */
export interface TimeSources {
  /** The machine's clock, which can be set. */
  readonly machine: () => number
  /** Runs evenly and cannot be set; it stands while the machine sleeps. */
  readonly steady: () => number
  /** Runs evenly, also while the machine sleeps. Dear to ask. */
  readonly sinceBoot: () => number
}

const ofThisMachine: TimeSources = {
  machine: () => Date.now(),
  steady: () => performance.now(),
  sinceBoot: () => uptime() * 1000,
}

/** Clocks are set right by seconds every day; what is more than this is no setting right. */
const jumpMs = 3 * minuteMs
/** How often the dear source is asked while all is well. */
const bootAgainMs = 60 * minuteMs

/**
 * The machine's clock, as long as it goes as time does. When it jumps, time goes on as it was until the clock is set back
 * or somebody says that it is right.
 */
export function createRealClock(sources: TimeSources = ofThisMachine): Clock {
  const { machine, steady, sinceBoot } = sources
  let offset = machine() - steady()
  let bootOffset = machine() - sinceBoot()
  let bootAskedAt = steady()
  const trustMachine = () => {
    offset = machine() - steady()
    bootOffset = machine() - sinceBoot()
    bootAskedAt = steady()
  }
  const jump = (): ClockJump | null => {
    const machineAt = machine()
    if (Math.abs(machineAt - steady() - offset) < jumpMs) {
      // Small corrections add up over the years, and are no jump.
      if (steady() - bootAskedAt > bootAgainMs) trustMachine()
      else offset = machineAt - steady()
      return null
    }
    const drift = machineAt - sinceBoot() - bootOffset
    if (Math.abs(drift) < jumpMs) {
      // The machine has slept.
      trustMachine()
      return null
    }
    return { heldAt: machineAt - drift, machineAt }
  }
  return {
    kind: 'real',
    now: () => jump()?.heldAt ?? machine(),
    reach: () => undefined,
    jump,
    trustMachine,
  }
}

/** Thursday 14 May 2026, 07:40 in Berlin. */
export const demoStartAt = Date.UTC(2026, 4, 14, 5, 40)

/** A clock that stands still until told to move, and only forward. It remembers where it stands. */
export function createDemoClock(statements: Statements, startAt: number): Clock {
  const stored = statements.one('readMeta', { key: 'demo clock' })?.['value']
  let standsAt = typeof stored === 'string' ? Number(stored) : startAt
  return {
    kind: 'demo',
    now: () => standsAt,
    reach(moment) {
      if (moment <= standsAt) return
      standsAt = moment
      statements.run('writeMeta', { key: 'demo clock', value: String(moment) })
    },
    jump: () => null,
    trustMachine: () => undefined,
  }
}
