import type { PlainStep } from '../model/step.ts'
import { isBefore, yearlyOffset } from '../model/timing.ts'
import { hourMs, minuteMs } from '../time/calendar.ts'
import { spanWords, writtenLengthMs } from './span.ts'

/** How long before its anchor a before-step must have gone. */
export function leadMs({ timing, lead }: PlainStep): number {
  if (lead !== null) return writtenLengthMs(lead)
  if (!isBefore(timing)) return hourMs
  const offset = timing.kind === 'yearly' ? yearlyOffset(timing) : timing
  return Math.min(hourMs, writtenLengthMs(offset) / 2)
}

/** `gone 1 hour before at the latest`: what holds where a step sets no lead of its own. */
export function usualLeadWords(step: PlainStep): string {
  const ms = leadMs({ ...step, lead: null })
  const span =
    ms === hourMs
      ? ({ amount: 1, unit: 'hours' } as const)
      : ({ amount: Math.floor(ms / minuteMs), unit: 'minutes' } as const)
  return ms < minuteMs ? 'gone before it begins' : `gone ${spanWords(span)} before at the latest`
}
