import type { Send } from '../model/send.ts'
import { findStep } from '../sequences/steps.ts'
import { lastOpenUpTo, type OpenTimes } from '../time/openTimes.ts'
import { firstMomentUpTo } from './lateness.ts'
import { openTimesOf, runFacts } from './runFacts.ts'
import { versionOf, type Slice } from './slice.ts'

/** When the step of a send may go, as it counts for its client; null: its run or step is gone. */
export function openTimesOfSend(send: Send, slice: Slice): OpenTimes | null {
  const run = slice.facts.runs.find(({ id }) => id === send.runId)
  const of = run ? runFacts(run, slice) : null
  const step = findStep(versionOf(slice.settings, send.sequenceId, send.sequenceVersion), send.stepId)
  return of && step ? openTimesOf(of, step) : null
}

/** The last moment at which a message can still go: the last open one up to its bound; null: it has no bound. */
export function lastChanceOf(send: Send, slice: Slice): number | null {
  const openTimes = send.notAfter === null ? null : openTimesOfSend(send, slice)
  return openTimes && send.notAfter !== null ? lastOpenUpTo(openTimes, send.notAfter) : null
}

/** When an approved message goes: at its planned time, or if that is past at the next open moment up to its bound. */
export function approvedMoment(send: Send, slice: Slice, now: number): number | null {
  if (send.dueAt === null || send.dueAt >= now) return send.dueAt
  const openTimes = openTimesOfSend(send, slice)
  return openTimes && firstMomentUpTo(openTimes, now, send.notAfter)
}
