/*
 * The states of a message, each described once. The groups that planning, lists and queries go by follow from that; a
 * query names a group in braces, such as `state IN ({claimable})`.
 */

/** Where people look for a message in such a state. */
type Place = 'ahead' | 'gone' | 'left out' | 'trouble'

interface Traits<State extends string> {
  readonly place: Place
  /** Planning may still change it. */
  readonly isPlannable: boolean
  /** It ends when what the message is about is gone. */
  readonly isVoidable: boolean
  /** A dispatcher may take it. */
  readonly isClaimable: boolean
  /** It has reached its recipient or may have. */
  readonly isPerhapsTold: boolean
  /** It has ended, or waits for a person, without having gone. */
  readonly isEnded: boolean
  /** It has left the house. */
  readonly hasLeft: boolean
  /** Nobody knows whether it has gone. */
  readonly isUncertain: boolean
  /** Its step is done: what comes after that counts from here. */
  readonly isStepDone: boolean
  /** `sent` may only turn out to have bounced; what came back a person may send anew, and goes again where it came back for now. */
  readonly becomes: readonly State[]
}

const no = {
  isPlannable: false,
  isVoidable: false,
  isClaimable: false,
  isPerhapsTold: false,
  isEnded: false,
  hasLeft: false,
  isUncertain: false,
  isStepDone: false,
}
const planned = { ...no, place: 'ahead', isPlannable: true, isVoidable: true } as const

const described = {
  expected: {
    ...planned,
    becomes: ['waiting', 'ready', 'skipped', 'dropped', 'cancelled', 'blocked'],
  },
  waiting: {
    ...planned,
    becomes: [
      'approved',
      'ready',
      'skipped',
      'dropped',
      'cancelled',
      'stale',
      'blocked',
      'expected',
      'missed',
    ],
  },
  approved: {
    ...planned,
    isClaimable: true,
    becomes: [
      'sending',
      'waiting',
      'expected',
      'skipped',
      'dropped',
      'cancelled',
      'stale',
      'blocked',
      'missed',
    ],
  },
  ready: {
    ...planned,
    isClaimable: true,
    becomes: ['sending', 'waiting', 'expected', 'skipped', 'dropped', 'cancelled', 'blocked', 'missed'],
  },
  sending: {
    ...no,
    place: 'ahead',
    isPerhapsTold: true,
    becomes: ['sent', 'failed', 'in doubt', 'ready', 'approved'],
  },
  sent: { ...no, place: 'gone', isPerhapsTold: true, hasLeft: true, isStepDone: true, becomes: ['bounced'] },
  skipped: { ...no, place: 'left out', isEnded: true, isStepDone: true, becomes: [] },
  dropped: {
    ...no,
    place: 'left out',
    becomes: ['ready', 'waiting', 'expected', 'cancelled', 'blocked'],
  },
  cancelled: {
    ...no,
    place: 'left out',
    // A change that had voided it and was taken back leaves it as it was.
    becomes: ['ready', 'waiting', 'approved', 'expected', 'dropped', 'blocked', 'missed', 'stale', 'failed'],
  },
  stale: {
    ...no,
    place: 'trouble',
    isVoidable: true,
    isEnded: true,
    isStepDone: true,
    becomes: ['ready', 'skipped', 'cancelled'],
  },
  missed: {
    ...no,
    place: 'trouble',
    isVoidable: true,
    isEnded: true,
    isStepDone: true,
    becomes: ['ready', 'skipped', 'cancelled'],
  },
  blocked: {
    ...planned,
    place: 'trouble',
    becomes: ['ready', 'waiting', 'expected', 'skipped', 'dropped', 'cancelled', 'missed'],
  },
  failed: {
    ...no,
    place: 'trouble',
    isVoidable: true,
    isEnded: true,
    becomes: ['ready', 'skipped', 'cancelled'],
  },
  bounced: {
    ...no,
    place: 'trouble',
    isPerhapsTold: true,
    hasLeft: true,
    isStepDone: true,
    becomes: ['ready', 'skipped'],
  },
  'in doubt': {
    ...no,
    place: 'trouble',
    isPerhapsTold: true,
    isUncertain: true,
    becomes: ['sent', 'ready', 'skipped'],
  },
} as const

export type SendState = keyof typeof described
/** A state that a person has to look at. */
export type TroubleState = {
  [State in SendState]: (typeof described)[State]['place'] extends 'trouble' ? State : never
}[SendState]

export const sendStateTraits: Readonly<Record<SendState, Traits<SendState>>> = described

export const sendStates = Object.keys(described) as readonly SendState[]

const those = (has: (traits: Traits<SendState>) => boolean): readonly SendState[] =>
  sendStates.filter((state) => has(sendStateTraits[state]))
const placed = (place: Place) => those((traits) => traits.place === place)

/** States that planning may still change. In `sending` and after it the message is out of its hands. */
export const plannableStates = those(({ isPlannable }) => isPlannable)
/** States that end when what the message is about is gone: the plannable ones and those waiting for a person's mending. */
export const voidableStates = those(({ isVoidable }) => isVoidable)
/** States a dispatcher may claim. */
export const claimableStates = those(({ isClaimable }) => isClaimable)
/** States in which a message has reached its recipient or may have. */
export const perhapsToldStates = those(({ isPerhapsTold }) => isPerhapsTold)
/** States in which a message has ended, or waits for a person, without having gone. */
export const endedStates = those(({ isEnded }) => isEnded)
/** States in which a message has left the house. */
export const leftStates = those(({ hasLeft }) => hasLeft)
/** States in which nobody knows whether a message has gone. */
export const uncertainStates = those(({ isUncertain }) => isUncertain)
/** States in which a message's step is done. One that is cancelled or dropped can come back. */
export const stepDoneStates = those(({ isStepDone }) => isStepDone)
/** States of messages on their way. */
export const aheadStates = placed('ahead')
/** States of messages that will not go. */
export const leftOutStates = placed('left out')
/** States that a person has to look at. */
export const troubleStates = placed('trouble')

/** States a person has to look at, of messages that certainly did not get through: they can be mended and sent. */
export const mendableStates = troubleStates.filter((state) => !uncertainStates.includes(state))

/** The groups by the names that queries use. */
export const stateGroups: Readonly<Record<string, readonly SendState[]>> = {
  plannable: plannableStates,
  left: leftStates,
  uncertain: uncertainStates,
  claimable: claimableStates,
  ahead: aheadStates,
  trouble: troubleStates,
}

export function isTrouble(state: SendState): state is TroubleState {
  return troubleStates.includes(state)
}

export function canTurn(from: SendState, to: SendState): boolean {
  return from === to || sendStateTraits[from].becomes.includes(to)
}
