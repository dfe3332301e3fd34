import type { Sequence, SequenceVersion } from '../model/sequence.ts'
import type { PlainStep } from '../model/step.ts'
import { findStep } from '../sequences/steps.ts'

/** 97.5 % point of the normal distribution, for two-sided 95 % intervals (from memory: 1.959964). */
const z95 = 1.959964

export interface Interval {
  readonly lower: number
  readonly upper: number
}

/**
 * Wilson's score interval of a rate, 95 %: where the true rate may lie after so many of so many. It never leaves 0 to 1
 * and stays honest for few cases (Wilson 1927; Newcombe 1998, method 3). Nothing known: 0 to 1.
 */
export function wilsonInterval(successes: number, of: number): Interval {
  if (of === 0) return { lower: 0, upper: 1 }
  const rate = successes / of
  const square = z95 * z95
  const middle = (2 * successes + square) / (2 * (of + square))
  const half = (z95 * Math.sqrt(square + 4 * successes * (1 - rate))) / (2 * (of + square))
  return { lower: Math.max(0, middle - half), upper: Math.min(1, middle + half) }
}

/** What a person did with a message that waited. */
export type Judgement = 'as it was' | 'edited' | 'skipped'

/** What was decided about a step's messages since the step and its letter are as they are now. */
export interface Trust {
  readonly asItWas: number
  readonly edited: number
  readonly skipped: number
  /** Cautious estimate of the share that goes as it is: the lower end of its 95 % interval. */
  readonly lower: number
  /** Nothing is suggested where too little is known. */
  readonly suggests: 'letting go' | 'taking back' | null
}

/** From this lower end on a step could go by itself: twelve approved as they were, and nothing else, are enough. */
export const letsGoFrom = 0.75
/** A step that goes by itself is to be looked at again where so many were surely held back or skipped. */
export const takesBackFrom = 0.1

/** Trust in a step that waits for approval, by what persons did with its messages. */
export function earnedTrust(judgements: readonly Judgement[]): Trust {
  const count = (what: Judgement) => judgements.filter((one) => one === what).length
  const asItWas = count('as it was')
  const { lower } = wilsonInterval(asItWas, judgements.length)
  return {
    asItWas,
    edited: count('edited'),
    skipped: count('skipped'),
    lower,
    suggests: lower >= letsGoFrom ? 'letting go' : null,
  }
}

/** Trust in a step that goes by itself: how many of its messages persons held back or skipped all the same. */
export function keptTrust(gone: number, stopped: number): Trust {
  const { lower } = wilsonInterval(gone, gone + stopped)
  const isDoubtful = wilsonInterval(stopped, gone + stopped).lower >= takesBackFrom
  return { asItWas: gone, edited: 0, skipped: stopped, lower, suggests: isDoubtful ? 'taking back' : null }
}

/** A step without what says whether it waits: that may change without starting over. */
function substance(step: PlainStep | undefined): string | null {
  return step ? JSON.stringify({ ...step, needsApproval: null }) : null
}

/** The first version since which a step has been what it is in the current one. */
export function sameSinceVersion(
  { id, currentVersion }: Sequence,
  versions: readonly SequenceVersion[],
  stepId: string,
): number {
  const of = (version: number) => {
    const found = versions.find((one) => one.sequenceId === id && one.version === version)
    return substance(found && findStep(found, stepId))
  }
  const present = of(currentVersion)
  let since = currentVersion
  while (since > 1 && present !== null && of(since - 1) === present) since -= 1
  return since
}
