import type { ConditionFacts } from '../../conditions/evaluate.ts'
import type { Run, Sequence } from '../../model/sequence.ts'
import { aboutOf, serviceIdOf } from '../../planning/about.ts'
import { calendarsOf, versionOf, type Slice, zoneFor } from '../../planning/slice.ts'
import { subjectOfTrigger, whyNotStarted, type Trigger } from '../../sequences/startRules.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'

/** What start rules are asked about: the facts as they stand when a trigger happens, and the service it concerns. */
export function startFacts(
  trigger: Trigger,
  { settings, facts }: Slice,
  now: number,
): {
  readonly asked: ConditionFacts
  readonly serviceId: string | null
  readonly madeAt: number | undefined
} {
  const { booking, enquiry, invoice } = aboutOf(trigger.subject, facts)
  const { client, bookings, happenings } = facts
  const serviceId = serviceIdOf({ booking, enquiry })
  const zone = zoneFor(settings, serviceId)
  const clock = { zone, officeHours: calendarsOf(settings).office }
  return {
    asked: { now, runStartedAt: trigger.at, client, booking, enquiry, invoice, bookings, happenings, clock },
    serviceId,
    madeAt: trigger.subject?.kind === 'booking' ? booking?.madeAt : undefined,
  }
}

/** A run begins. */
export function startedRun(
  sequence: Sequence,
  trigger: Pick<Trigger, 'clientId' | 'subject' | 'at'>,
  startedOn: Run['startedOn'],
  context: EngineContext,
): readonly Effect[] {
  const run: Run = {
    id: context.newId('ru'),
    sequenceId: sequence.id,
    version: sequence.currentVersion,
    clientId: trigger.clientId,
    subject: trigger.subject ?? { kind: 'client', id: trigger.clientId },
    state: 'running',
    startedAt: trigger.at,
    startedOn,
    stoppedAt: null,
    stoppedOn: null,
    stoppedReason: null,
    held: null,
    branches: [],
    timingSetAt: {},
    passedOver: [],
  }
  const about = { clientId: run.clientId, subject: trigger.subject }
  return [
    { kind: 'put run', run },
    appendEvent(context, 'run started', about, `Sequence “${sequence.name}” started.`),
  ]
}

/** The runs that a trigger sets going, by the rules of all sequences. */
export function startedRuns(
  trigger: Trigger & { readonly on: Run['startedOn'] },
  { settings, facts }: Slice,
  context: EngineContext,
): readonly Effect[] {
  const { asked, serviceId, madeAt } = startFacts(trigger, { settings, facts }, context.now)
  const byName = [...settings.sequences].sort((one, other) => (one.name < other.name ? -1 : 1))
  return byName
    .filter((sequence) => {
      const { start } = versionOf(settings, sequence.id, sequence.currentVersion)
      const asking = { ...trigger, madeAt }
      return whyNotStarted(sequence, start, asking, serviceId, facts.runs, asked) === null
    })
    .flatMap((sequence) =>
      startedRun(sequence, { ...trigger, subject: subjectOfTrigger(trigger) }, trigger.on, context),
    )
}
