import type { IfLate, IfMoved, SendingHoursRule, PlainStep } from '../model/step.ts'
import type { Purpose, Span } from '../model/timing.ts'

export interface PurposeDefaults {
  /** `any day`: that date's nearest moment within waking hours, whatever the sending hours say. */
  readonly sendingHours: SendingHoursRule | 'any day'
  readonly ifLate: IfLate
  readonly ifMoved: IfMoved
  /** How long after its wanted time it is of use; `that day`: until its end; null: no bound of its own. */
  readonly usefulFor: Span | 'that day' | null
}

const atAnyHour = { sendingHours: 'ignore', ifLate: 'send now', ifMoved: 'leave', usefulFor: null } as const

/** What a step does unless it says otherwise. */
export const purposeDefaults: Readonly<Record<Purpose, PurposeDefaults>> = {
  confirmation: atAnyHour,
  change: atAnyHour,
  cancellation: atAnyHour,
  reminder: { sendingHours: 'earlier', ifLate: 'drop', ifMoved: 'send again', usefulFor: null },
  preparation: { sendingHours: 'earlier', ifLate: 'send now', ifMoved: 'leave', usefulFor: null },
  payment: { sendingHours: 'later', ifLate: 'send now', ifMoved: 'leave', usefulFor: null },
  'follow-up': {
    sendingHours: 'later',
    ifLate: 'send now',
    ifMoved: 'leave',
    usefulFor: { amount: 14, unit: 'days' },
  },
  occasion: { sendingHours: 'any day', ifLate: 'drop', ifMoved: 'leave', usefulFor: 'that day' },
  internal: atAnyHour,
  promotional: { sendingHours: 'later', ifLate: 'drop', ifMoved: 'leave', usefulFor: null },
}

/** The rules a step follows: its own where it has them, else those of its purpose. */
export function rulesOf(step: PlainStep): PurposeDefaults {
  const defaults = purposeDefaults[step.purpose]
  return {
    sendingHours: step.sendingHours ?? defaults.sendingHours,
    ifLate: step.ifLate ?? defaults.ifLate,
    ifMoved: step.ifMoved ?? defaults.ifMoved,
    usefulFor: step.usefulFor ?? defaults.usefulFor,
  }
}
