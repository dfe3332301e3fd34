import type { Reason, TraceLine } from '../model/send.ts'

/** A time on its way through the rules: where it stands, or why it was dropped, and what each rule did. */
export interface Moment {
  readonly at: number
  readonly dropped: Reason | null
  readonly trace: readonly TraceLine[]
}

/** The same moment with a further line of trace, moved to another time. */
export function moved(moment: Moment, rule: string, to: number, why: Reason): Moment {
  const line = { rule, before: moment.at, after: to, ...why }
  return { ...moment, at: to, trace: [...moment.trace, line] }
}

/** The same moment, dropped by a rule. A dropped one stays dropped. */
export function dropped(moment: Moment, rule: string, why: Reason): Moment {
  const line = { rule, before: moment.at, after: null, ...why }
  return { ...moment, dropped: why, trace: [...moment.trace, line] }
}
