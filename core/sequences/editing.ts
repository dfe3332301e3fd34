import type { StartRule } from '../model/sequence.ts'
import {
  isBranch,
  plainStep,
  type MailStep,
  type MessageStep,
  type PlainStep,
  type Step,
} from '../model/step.ts'
import type { Purpose, Timing } from '../model/timing.ts'
import { purposeDefaults } from './purposes.ts'
import { spanWords } from './span.ts'
import { usualTiming } from './usualTiming.ts'
import { ifLateWords, ifMovedWords, sendingHoursWords } from './stepWords.ts'

/** Steps with one of them changed, wherever it stands; null takes it away. */
export function withStep(
  steps: readonly Step[],
  stepId: string,
  change: (step: Step) => Step | null,
): readonly Step[] {
  return steps.flatMap((step): readonly Step[] => {
    if (step.id === stepId) {
      const changed = change(step)
      return changed === null ? [] : [changed]
    }
    if (!isBranch(step)) return [step]
    return [{ ...step, yes: withStep(step.yes, stepId, change), no: withStep(step.no, stepId, change) }]
  })
}

/** Where a new step goes: at the end of the sequence, or of an arm. */
export type StepPlace = { readonly branchId: string; readonly side: 'yes' | 'no' } | null

export function withNewStep(steps: readonly Step[], place: StepPlace, added: Step): readonly Step[] {
  if (place === null) return [...steps, added]
  return withStep(steps, place.branchId, (step) =>
    isBranch(step) ? { ...step, [place.side]: [...step[place.side], added] } : step,
  )
}

/** Steps with one of them before or behind another, where both stand side by side. */
export function withStepBeside(steps: readonly Step[], stepId: string, besideId: string): readonly Step[] {
  const from = steps.findIndex(({ id }) => id === stepId)
  const to = steps.findIndex(({ id }) => id === besideId)
  const moving = steps[from]
  if (moving && to >= 0) return steps.toSpliced(from, 1).toSpliced(to, 0, moving)
  return steps.map((step) =>
    isBranch(step)
      ? {
          ...step,
          yes: [...withStepBeside(step.yes, stepId, besideId)],
          no: [...withStepBeside(step.no, stepId, besideId)],
        }
      : step,
  )
}

/** Steps with one moved up or down among its neighbours. */
export function withStepMoved(steps: readonly Step[], stepId: string, by: -1 | 1): readonly Step[] {
  const index = steps.findIndex(({ id }) => id === stepId)
  const moving = steps[index]
  const other = steps[index + by]
  if (moving && other) return steps.with(index, other).with(index + by, moving)
  return steps.map((step) =>
    isBranch(step)
      ? { ...step, yes: withStepMoved(step.yes, stepId, by), no: withStepMoved(step.no, stepId, by) }
      : step,
  )
}

/** A new mail of a purpose: approval, recipients and sender as its neighbour's, everything else as the purpose says. */
export function newMail(
  id: string,
  purpose: Exclude<Purpose, 'internal'>,
  letterId: string,
  start: StartRule,
  neighbour: MessageStep | null,
): MailStep {
  const like = neighbour && {
    needsApproval: neighbour.needsApproval,
    // A letter of their own is of the neighbour's letter.
    recipients: neighbour.recipients.map((rule) => ({ ...rule, letterId: null })),
    sender: neighbour.sender,
  }
  const timing = usualTiming(purpose, start)
  const made = plainStep.parse({ kind: 'mail', id, letterId, purpose, timing, ...like })
  if (made.kind !== 'mail') throw new Error('A mail was expected')
  return made
}

/** A step with another timing. A lead stays only where it still means something. */
export function withTiming<S extends PlainStep>(step: S, timing: Timing): S {
  const isBefore = 'direction' in timing && timing.direction === 'before'
  return { ...step, timing, lead: isBefore ? step.lead : null }
}

const otherSide: Partial<Readonly<Record<Purpose, Exclude<Purpose, 'internal'>>>> = {
  reminder: 'follow-up',
  preparation: 'follow-up',
  'follow-up': 'preparation',
}

/** What becomes of a step that is moved over day 0. */
export interface Flip {
  readonly step: PlainStep
  /** What changes with it, a sentence each. */
  readonly changes: readonly string[]
}

function ruleWords(purpose: Purpose): readonly string[] {
  const { sendingHours, ifLate, ifMoved, usefulFor } = purposeDefaults[purpose]
  return [
    sendingHours === 'any day' ? 'on its day within waking hours' : sendingHoursWords[sendingHours],
    ifLateWords[ifLate],
    ifMovedWords[ifMoved],
    usefulFor === null || usefulFor === 'that day' ? '' : `useful for ${spanWords(usefulFor)}`,
  ].filter(Boolean)
}

/** A step on the other side of day 0, with the purpose that fits there. */
export function flipped(step: PlainStep, timing: Timing): Flip {
  const side = 'direction' in timing ? timing.direction : 'after'
  const moved = withTiming(step, timing)
  const purpose = otherSide[step.purpose]
  const lost =
    step.lead !== null && moved.lead === null ? ['Its lead falls away: nothing has to have gone before.'] : []
  const where = `It goes ${side} the event.`
  if (purpose === undefined || moved.purpose === 'internal') return { step: moved, changes: [where, ...lost] }
  const rules = ruleWords(purpose).filter((words) => !ruleWords(step.purpose).includes(words))
  return {
    step: { ...moved, purpose },
    changes: [where, `As a ${purpose} instead of a ${step.purpose}: ${rules.join('; ')}.`, ...lost],
  }
}
