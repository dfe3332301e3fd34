import type { IfLate, IfMoved, Purpose, SendingHoursRule, Step } from '../model/sequence.ts'

export interface PurposeDefaults {
  readonly sendingHours: SendingHoursRule
  readonly ifLate: IfLate
  readonly ifMoved: IfMoved
}

/** What a step does unless it says otherwise. */
export const purposeDefaults: Readonly<Record<Purpose, PurposeDefaults>> = {
  confirmation: { sendingHours: 'ignore', ifLate: 'send now', ifMoved: 'leave' },
  change: { sendingHours: 'ignore', ifLate: 'send now', ifMoved: 'leave' },
  cancellation: { sendingHours: 'ignore', ifLate: 'send now', ifMoved: 'leave' },
  reminder: { sendingHours: 'earlier', ifLate: 'drop', ifMoved: 'send again' },
  preparation: { sendingHours: 'earlier', ifLate: 'send now', ifMoved: 'leave' },
  payment: { sendingHours: 'later', ifLate: 'send now', ifMoved: 'leave' },
  'follow-up': { sendingHours: 'later', ifLate: 'send now', ifMoved: 'leave' },
  occasion: { sendingHours: 'later', ifLate: 'drop', ifMoved: 'leave' },
  promotional: { sendingHours: 'later', ifLate: 'drop', ifMoved: 'leave' },
}

/** The rules a step follows: its own where it has them, else those of its purpose. */
export function rulesOf(step: Step): PurposeDefaults {
  const defaults = purposeDefaults[step.purpose]
  return {
    sendingHours: step.sendingHours ?? defaults.sendingHours,
    ifLate: step.ifLate ?? defaults.ifLate,
    ifMoved: step.ifMoved ?? defaults.ifMoved,
  }
}
