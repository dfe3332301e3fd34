import type { SequenceLine, SequenceView } from '#core/api/sequenceEndpoints.ts'
import { surprise } from '#core/api/sequenceEndpoints.ts'
import { sequenceDesign, type SequenceDesign } from '#core/engine/consequences/rollout.ts'
import type { Sequence, SequenceVersion } from '#core/model/sequence.ts'
import { isStanding } from '#core/planning/atRest.ts'
import { serviceOf, versionOf, type Settings } from '#core/planning/slice.ts'
import { shortWhen } from '#core/sequences/shortWhen.ts'
import { stepLabel } from '#core/sequences/stepLabel.ts'
import { plainSteps } from '#core/sequences/steps.ts'
import { startRuleWords } from '#core/sequences/eventWords.ts'
import { surprisesOf, type WarningFacts } from '#core/sequences/warnings.ts'
import { addMonths, yearMonthDayOf } from '#core/time/calendar.ts'
import { dayAt, instantAt } from '#core/time/zones.ts'
import { fromJson } from '../db/columns.ts'
import type { Application } from '../engine/application.ts'
import { rolloutOf } from '../engine/rollouts/progress.ts'
import type { RunningApplication } from '../engine/runningApplication.ts'
import { houseOf, problemsIn } from '../letters/lines.ts'

const known = new WeakMap<Settings, WarningFacts>()

/**
 * What sequences are looked at against alike: names, letters and their problems, each counted once for as long as the
 * settings stay the same, because previews ask with every key.
 */
export function warningFacts(running: RunningApplication, settings: Settings): WarningFacts {
  const facts = known.get(settings) ?? freshFacts(running, settings)
  known.set(settings, facts)
  return facts
}

function freshFacts(running: RunningApplication, settings: Settings): WarningFacts {
  const house = houseOf(running)
  const counted = new Map<string, number>()
  return {
    ...settings,
    serviceName: (id) => settings.services.find((one) => one.id === id)?.name ?? id,
    problemsOf(letterId) {
      const before = counted.get(letterId)
      if (before !== undefined) return before
      const letter = settings.letters.find(({ id }) => id === letterId)
      const count = letter ? problemsIn(house, letter) : 0
      counted.set(letterId, count)
      return count
    },
  }
}

/** Midnight at the beginning of the month the business's clock stands in. */
function monthBegan({ clock, settings }: Application): number {
  const { business, zones } = settings.required()
  const zone = zones.zone(business.zone)
  const today = dayAt(zone, clock.now())
  return instantAt(zone, addMonths(today - yearMonthDayOf(today).day + 1, 0), 0)
}

function designOf(application: Application, sequenceId: string) {
  const row = application.store.statements.one('readDesign', { sequenceId })
  if (!row) return null
  const { people } = application.settings.required()
  return {
    design: sequenceDesign.parse(fromJson(row['designJson'])),
    revision: Number(row['revision']),
    changedAt: Number(row['changedAt']),
    personName: people.find(({ id }) => id === row['personId'])?.name ?? null,
  }
}

const designOfVersion = ({ name }: Sequence, { start, steps, stops }: SequenceVersion): SequenceDesign => ({
  name,
  start,
  steps,
  stops,
})

const bySequence = <Row extends { readonly sequenceId: unknown }>(rows: readonly Row[]) =>
  new Map(rows.map((row) => [String(row.sequenceId), row]))

/** How many runs of each sequence have something to do. */
function runningBySequence(application: Application): ReadonlyMap<string, number> {
  const settings = application.settings.required()
  const standingIds = settings.sequences
    .filter(({ id, currentVersion }) => isStanding(versionOf(settings, id, currentVersion)))
    .map(({ id }) => id)
  const rows = application.store.statements.all('runningBySequence', {
    standingIdsJson: JSON.stringify(standingIds),
  })
  return new Map(rows.map(({ sequenceId, count }) => [String(sequenceId), Number(count)]))
}

/** All sequences as the list sets them. What a draft is worth is told of what is being written. */
export function sequenceLines(running: RunningApplication): SequenceLine[] {
  const { application } = running
  const settings = application.settings.required()
  const { statements } = application.store
  const facts = warningFacts(running, settings)
  const running_ = runningBySequence(application)
  const sends = bySequence(statements.all('sendsBySequence', { since: monthBegan(application) }))
  const designs = bySequence(statements.all('allDesigns'))
  return settings.sequences.map((sequence): SequenceLine => {
    const version = versionOf(settings, sequence.id, sequence.currentVersion)
    const kept = designs.get(sequence.id)
    const shown =
      kept && sequence.state === 'draft'
        ? sequenceDesign.parse(fromJson(kept['designJson']))
        : designOfVersion(sequence, version)
    const count = (key: 'waiting' | 'planned' | 'sent') => Number(sends.get(sequence.id)?.[key] ?? 0)
    return {
      sequence: { ...sequence, name: shown.name },
      starts: startRuleWords(shown.start, facts),
      steps: plainSteps(shown.steps).length,
      does: plainSteps(shown.steps).map((step) => ({
        when: shortWhen(step.timing, step.onlyDays),
        what: stepLabel(step, step.kind === 'mail' ? step.letterId : null, settings),
      })),
      running: running_.get(sequence.id) ?? 0,
      waiting: count('waiting'),
      planned: count('planned'),
      sentThisMonth: count('sent'),
      surprises: surprisesOf({ id: sequence.id, ...shown }, facts).map((one) => surprise.parse(one)),
      hasDesign: kept !== undefined,
    }
  })
}

export function sequenceView({ application }: RunningApplication, id: string): SequenceView | null {
  const settings = application.settings.required()
  const sequence = settings.sequences.find((one) => one.id === id)
  if (!sequence) return null
  const { statements } = application.store
  const ofServices = settings.variations.filter(({ sequenceId }) => sequenceId === id)
  const ofClients = statements.all('variationsOfClientsBySequence', { sequenceId: id })
  return {
    sequence,
    version: versionOf(settings, id, sequence.currentVersion),
    design: designOf(application, id),
    running: runningBySequence(application).get(id) ?? 0,
    rollout: rolloutOf(application, id),
    runs: Number(statements.one('runsOfSequence', { sequenceId: id })?.['count'] ?? 0),
    variations: [
      ...ofServices.map((variation) => ({
        variation,
        whose: variation.scope.of === 'service' ? serviceOf(settings, variation.scope.serviceId).name : '',
      })),
      ...ofClients.map((row) => ({
        variation: fromJson(row['variationJson']) as SequenceView['variations'][number]['variation'],
        whose: String(row['clientName']),
      })),
    ],
    counts: Object.fromEntries(
      statements
        .all('sentBySteps', { sequenceId: id })
        .map((row) => [
          String(row['stepId']),
          { sent: Number(row['sent']), skipped: Number(row['skipped']), ahead: Number(row['ahead']) },
        ]),
    ),
  }
}
