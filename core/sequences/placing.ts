import type { StartRule } from '../model/sequence.ts'
import { isBranch, isMessage, type MessageStep, type Step } from '../model/step.ts'
import type { Purpose } from '../model/timing.ts'
import { pinsOf, usualShape, type Pin } from './dayZero.ts'
import { plainSteps } from './steps.ts'

/*
 * Where a step belongs among the others: in the order of time. What comes after another step stays behind it.
 */

const laneRank = (lane: Pin['lane']) => (lane === 'start' ? 0 : lane === 'event' ? 1 : 2)

/** Whether a place on the line is no later than another. */
function isUpTo(one: Pin, other: Pin): boolean {
  const rank = laneRank(one.lane) - laneRank(other.lane)
  return rank < 0 || (rank === 0 && one.offsetMs <= other.offsetMs)
}

/** A step among its siblings: behind the last of those that go no later, with what hangs from it. */
function placed(siblings: readonly Step[], moving: Step, pins: ReadonlyMap<string, Pin>): readonly Step[] {
  const pin = pins.get(moving.id)
  const others = siblings.filter(({ id }) => id !== moving.id)
  const at = siblings.indexOf(moving)
  const follower = siblings[at + 1]
  const hangs = (step: Step | undefined) =>
    step !== undefined && (step.timing.kind === 'after previous' || pins.get(step.id)?.hangsFrom != null)
  if (!pin || hangs(moving) || hangs(follower)) return siblings
  const last = others.findLastIndex((step) => {
    const own = pins.get(step.id)
    return own !== undefined && !hangs(step) && isUpTo(own, pin)
  })
  let index = last + 1
  while (hangs(others[index])) index += 1
  return others.toSpliced(index, 0, moving)
}

/**
 * Steps with one of them where it belongs in time among its neighbours. One that hangs from the step before, or that
 * another hangs from, stays where it is: its place says what it counts from.
 */
export function inItsPlace(steps: readonly Step[], stepId: string, start: StartRule): readonly Step[] {
  const pins = new Map(pinsOf(steps, start, usualShape).map((pin) => [pin.stepId, pin]))
  const within = (siblings: readonly Step[]): readonly Step[] => {
    const moving = siblings.find(({ id }) => id === stepId)
    if (moving) return placed(siblings, moving, pins)
    return siblings.map((step) =>
      isBranch(step) ? { ...step, yes: [...within(step.yes)], no: [...within(step.no)] } : step,
    )
  }
  return within(steps)
}

/**
 * The step a new message of a purpose takes its letter, approval and recipients from: the last one of that purpose, else
 * the last message; null: there is none yet.
 */
export function neighbourFor(steps: readonly Step[], purpose: Purpose): MessageStep | null {
  const messages = plainSteps(steps).filter((step) => isMessage(step) && step.purpose !== 'internal')
  return messages.findLast((step) => step.purpose === purpose) ?? messages.at(-1) ?? null
}
