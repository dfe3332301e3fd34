import { evaluate, type ConditionFacts } from '../conditions/evaluate.ts'
import type { Run, Sequence, StartRule, StopRule } from '../model/sequence.ts'
import { actsOf, isStartEvent, startTraits, type StartEvent } from '../model/startEvent.ts'
import type { Subject } from '../model/subject.ts'
import { folded } from '../model/folded.ts'
import { writtenLengthMs } from './span.ts'

/** Something that happened, as far as starting and stopping runs goes. */
export interface Trigger {
  readonly on: StartEvent | StopRule['on']
  /** Which stage, tag, list or form; empty where there is only one kind. */
  readonly name: string
  readonly at: number
  /** When the act was, where it had to settle first: that counts against going live. */
  readonly actedAt?: number
  readonly clientId: string
  /** Null: it is about the client. */
  readonly subject: Subject | null
  /** When its booking was made, or made again: earlier runs for it do not count. */
  readonly madeAt?: number | undefined
}

/** What a run would work for that a trigger starts. */
export function subjectOfTrigger({ subject, clientId }: Trigger): Subject {
  return subject ?? { kind: 'client', id: clientId }
}

/** Whether what happened is what a rule waits for. */
function isOn(wanted: Trigger['on'], happened: Trigger['on']): boolean {
  return wanted === happened || (isStartEvent(wanted) && actsOf(wanted).some((act) => act === happened))
}

/** Whether two names of yearly dates mean the same one: “Birthday” is “birthday”. */
export const isSameDateName = (one: string, other: string) => folded(one.trim()) === folded(other.trim())

/** Whether what happened has the name a rule asks for; null: any. */
export const isNamed = (on: Trigger['on'], wanted: string | null, name: string) =>
  wanted === null || wanted === name || (on === 'date known' && isSameDateName(wanted, name))

/** Why a trigger starts no run of a sequence; null: it starts one. */
export type NoStart =
  'not live' | 'before going live' | 'another event' | 'another service' | 'condition' | 'has run'

/** Why a run has ended whose cause was taken back: as if it had never been. */
export const takenBack = 'taken back'

export function mayStartAgain(
  { again }: StartRule,
  sequence: Sequence,
  trigger: Trigger,
  runs: readonly Run[],
): boolean {
  const earlier = runs.filter((run) => run.sequenceId === sequence.id && run.stoppedOn !== takenBack)
  switch (again.kind) {
    case 'once per client':
      return earlier.length === 0
    case 'once per subject': {
      const { kind, id } = subjectOfTrigger(trigger)
      return !earlier.some(
        ({ subject, startedAt }) =>
          subject.kind === kind && subject.id === id && startedAt >= (trigger.madeAt ?? -Infinity),
      )
    }
    case 'every time': {
      const gapMs = again.gap === null ? 0 : writtenLengthMs(again.gap)
      return earlier.every(({ startedAt }) => trigger.at - startedAt >= gapMs)
    }
  }
}

/** Whether a trigger starts a run of a sequence. Only acts strictly after going live do. */
export function whyNotStarted(
  sequence: Sequence,
  start: StartRule,
  trigger: Trigger,
  serviceId: string | null,
  runs: readonly Run[],
  facts: ConditionFacts,
): NoStart | null {
  // A paused sequence starts runs all the same: they are held back, and nothing is lost when the pause ends.
  if (sequence.state === 'draft' || sequence.liveSince === null) return 'not live'
  if (!isOn(start.on, trigger.on) || !isNamed(start.on, start.name, trigger.name)) return 'another event'
  if ((trigger.actedAt ?? trigger.at) <= sequence.liveSince) return 'before going live'
  if (start.serviceIds.length > 0 && (serviceId === null || !start.serviceIds.includes(serviceId)))
    return 'another service'
  if (start.onlyIf !== null && !evaluate(start.onlyIf, facts).holds) return 'condition'
  return mayStartAgain(start, sequence, trigger, runs) ? null : 'has run'
}

/** Whether what happened is the client's, and ends every run that waits for it. */
const isClientWide = (on: StopRule['on']) => !isStartEvent(on) || startTraits[on].subject === 'client'

/** Whether a trigger ends a run: it happened to the run's subject, or the client did it. */
export function isStoppedBy(run: Run, stop: StopRule, trigger: Trigger): boolean {
  if (stop.on === 'booked') {
    return isOn('booking made or confirmed', trigger.on) && trigger.subject?.id !== run.subject.id
  }
  if (!isOn(stop.on, trigger.on) || !isNamed(stop.on, stop.name, trigger.name)) return false
  return isClientWide(stop.on) || trigger.subject?.id === run.subject.id
}
