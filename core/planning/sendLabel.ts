import type { Send } from '../model/send.ts'
import { stepLabel } from '../sequences/stepLabel.ts'
import { findStep } from '../sequences/steps.ts'
import { versionOf, type Settings } from './slice.ts'

/** What a message is called in lists: what its step does, or its kind where the step is gone. */
export function sendLabel(
  send: Pick<Send, 'sequenceId' | 'sequenceVersion' | 'stepId' | 'stepKind' | 'letterId'>,
  settings: Settings,
): string {
  const step = findStep(versionOf(settings, send.sequenceId, send.sequenceVersion), send.stepId)
  return step ? stepLabel(step, send.letterId, settings) : send.stepKind
}
