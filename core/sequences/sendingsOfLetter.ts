import type { Sending } from '../letters/sendings.ts'
import type { Business } from '../model/business.ts'
import type { OpeningHours } from '../model/openingHours.ts'
import { startTraits } from '../model/startEvent.ts'
import type { Sequence, SequenceVersion } from '../model/sequence.ts'
import type { Timing } from '../model/timing.ts'
import type { Variation } from '../model/variation.ts'
import { letterIdsOf, plainSteps } from './steps.ts'

interface Standing {
  readonly business: Business
  readonly sequences: readonly Sequence[]
  readonly sequenceVersions: readonly SequenceVersion[]
  readonly variations: readonly Variation[]
}

const dayUnits: Readonly<Record<string, number>> = { days: 1, weeks: 7 }

function daysAheadOf(timing: Timing): number | null {
  if (timing.kind !== 'calendar' || timing.anchor.of !== 'booking start') return null
  const unit = dayUnits[timing.unit]
  if (unit === undefined) return null
  return (timing.direction === 'before' ? 1 : -1) * unit * timing.amount
}

function whenOf(timing: Timing): string {
  const at = 'atTime' in timing && timing.atTime !== null ? `, at ${timing.atTime}` : ''
  switch (timing.kind) {
    case 'at once':
      return 'at once, at whatever hour'
    case 'evening':
      return `in the evening${at}`
    case 'after previous':
      return `${timing.amount} ${timing.unit} after the step before${at}`
    case 'yearly':
      return `every year${at}`
    default:
      return `${timing.amount} ${timing.unit} ${timing.direction}${at}`
  }
}

function officeOpenAt(timing: Timing, { weekly }: OpeningHours): Sending['officeOpen'] {
  const atTime = 'atTime' in timing ? timing.atTime : null
  const open = weekly.filter((day) =>
    day.some(({ from, to }) =>
      atTime === null ? from === '00:00' && to === '24:00' : from <= atTime && atTime < to,
    ),
  ).length
  if (open === 7) return 'always'
  return open === 0 && atTime !== null ? 'never' : 'sometimes'
}

/** Every way a letter goes out: the steps of present versions, and variations that put it in another's place. */
export function sendingsOf(settings: Standing, letterId: string): readonly Sending[] {
  const { business, sequences, sequenceVersions, variations } = settings
  return sequences.flatMap(({ id, name, currentVersion }) => {
    const version = sequenceVersions.find((one) => one.sequenceId === id && one.version === currentVersion)
    if (!version) return []
    const { subject } = startTraits[version.start.on]
    const about = subject === 'client' ? 'nothing' : subject
    const varied = new Set(
      variations
        .filter((one) => one.sequenceId === id && one.letterId === letterId)
        .map(({ stepId }) => stepId),
    )
    return plainSteps(version.steps)
      .filter((step) => letterIdsOf([step]).includes(letterId) || varied.has(step.id))
      .map(({ timing }): Sending => ({
        sequenceName: name,
        about,
        when: whenOf(timing),
        daysAhead: daysAheadOf(timing),
        officeOpen: officeOpenAt(timing, business.officeHours),
      }))
  })
}
