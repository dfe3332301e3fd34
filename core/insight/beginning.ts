/** What has to be there before a message reaches a client, in the order in which one comes to it. */
export const beginningSteps = [
  'business',
  'service',
  'mail account',
  'public address',
  'sequence',
  'rehearsal',
  'sending',
] as const
export type BeginningStep = (typeof beginningSteps)[number]

export interface BeginningFacts {
  readonly services: number
  /** Letters that were read and published. */
  readonly letters: number
  readonly liveSequences: number
  readonly isRealMail: boolean
  readonly hasPublicUrl: boolean
  /** Whether the owner has had all of it sent to their own address once. */
  readonly isRehearsed: boolean
  readonly isSendingOn: boolean
}

export interface BeginningLine {
  readonly step: BeginningStep
  readonly isDone: boolean
}

/** How far a business has come with its beginning. */
export function beginningOf(facts: BeginningFacts): readonly BeginningLine[] {
  const done: Readonly<Record<BeginningStep, boolean>> = {
    business: true,
    service: facts.services > 0,
    'mail account': facts.isRealMail,
    'public address': facts.hasPublicUrl,
    // One whose letters nobody has read sends nothing.
    sequence: facts.liveSequences > 0 && facts.letters > 0,
    rehearsal: facts.isRehearsed,
    // Switched on while nobody outside gets anything it is no decision.
    sending: facts.isSendingOn && facts.isRealMail,
  }
  return beginningSteps.map((step) => ({ step, isDone: done[step] }))
}
