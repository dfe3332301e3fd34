import type { Send } from '../model/send.ts'
import { rulesOf } from '../sequences/purposes.ts'
import { findStep } from '../sequences/steps.ts'
import { firstOpenFrom, lastOpenUpTo } from '../time/openTimes.ts'
import type { PlannedSend } from './planStep.ts'
import { runFacts, type RunFacts } from './runFacts.ts'
import { versionOf, type Slice } from './slice.ts'

function rulesAndFacts(send: Send, slice: Slice): { of: RunFacts; ignoresHours: boolean } | null {
  const run = slice.facts.runs.find(({ id }) => id === send.runId)
  const of = run ? runFacts(run, slice) : null
  const step = findStep(versionOf(slice.settings, send.sequenceId, send.sequenceVersion), send.stepId)
  return of && step ? { of, ignoresHours: rulesOf(step).sendingHours === 'ignore' } : null
}

/** The last moment at which a message can still go: the last open one up to its bound; null: it has no bound. */
export function lastChanceOf(send: Send, slice: Slice): number | null {
  const found = send.notAfter === null ? null : rulesAndFacts(send, slice)
  if (!found || send.notAfter === null) return null
  return found.ignoresHours ? send.notAfter : lastOpenUpTo(found.of.sendingHours, send.notAfter)
}

/** When an approved message goes: at its planned time, or if that is past at the next open moment up to its bound. */
export function approvedMoment(send: Send, slice: Slice, now: number): number | null {
  const found = rulesAndFacts(send, slice)
  if (send.dueAt === null || !found) return null
  if (send.dueAt >= now) return send.dueAt
  const open = found.ignoresHours ? now : firstOpenFrom(found.of.sendingHours, now)
  return open === null || (send.notAfter !== null && open > send.notAfter) ? null : open
}

/** The first moment from now at which something planned may go, up to its bound; null: none is left. */
export function nextMomentOf(planned: PlannedSend, slice: Slice, now: number): number | null {
  const of = runFacts(planned.run, slice)
  if (!of) return null
  const ignoresHours = rulesOf(planned.step).sendingHours === 'ignore'
  const open = ignoresHours ? now : firstOpenFrom(of.sendingHours, now)
  return open === null || (planned.notAfter !== null && open > planned.notAfter) ? null : open
}
