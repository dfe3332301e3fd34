import { leftOutStates, leftStates, type SendState } from '#core/model/sendState.ts'

interface Placed {
  readonly state: SendState
  readonly shownAt: number
  /** What has no time yet comes after all that has one. */
  readonly hasTime: boolean
}

export interface SendOrder<Line extends Placed> {
  /** What is still to come or in trouble, the next first. */
  readonly coming: readonly Line[]
  /** What has gone, the latest first. */
  readonly gone: readonly Line[]
  /** What was left out or became void, the latest first: much of it after a long history. */
  readonly leftOut: readonly Line[]
}

const latestFirst = (one: Placed, other: Placed) => other.shownAt - one.shownAt

const timeOf = ({ hasTime, shownAt }: Placed) => (hasTime ? shownAt : Number.MAX_SAFE_INTEGER)

/** Messages in the order in which one asks for them: what comes next, what has gone, and last what came to nothing. */
export function sendOrder<Line extends Placed>(sends: readonly Line[]): SendOrder<Line> {
  const isGone = ({ state }: Line) => leftStates.includes(state)
  const isLeftOut = ({ state }: Line) => leftOutStates.includes(state)
  return {
    coming: sends
      .filter((one) => !isGone(one) && !isLeftOut(one))
      .toSorted((one, other) => timeOf(one) - timeOf(other)),
    gone: sends.filter(isGone).toSorted(latestFirst),
    leftOut: sends.filter(isLeftOut).toSorted(latestFirst),
  }
}
