import type { Uses } from '#core/api/settingsEndpoints.ts'
import type { FormUses } from '#core/engine/commands/formCommands.ts'
import { linkToField } from '#core/letters/links.ts'
import { ownField, signField } from '#core/model/letter.ts'
import type { StageUses } from '#core/engine/commands/pipelineCommands.ts'
import type { Settings } from '#core/planning/slice.ts'
import type { Application } from './application.ts'

const counted = (count: number, one: string, several: string): readonly string[] =>
  count === 0 ? [] : [count === 1 ? `1 ${one}` : `${count} ${several}`]

type Names = (one: unknown) => boolean

const naming =
  (value: string): Names =>
  (one) =>
    JSON.stringify(one).includes(JSON.stringify(value))

/** The sequences of which any version, or what differs in it, names something. */
const sequencesNaming = (
  {
    sequences,
    sequenceVersions,
    variations,
  }: Pick<Settings, 'sequences' | 'sequenceVersions' | 'variations'>,
  names: Names,
): readonly string[] =>
  sequences
    .filter(({ id }) =>
      [...variations, ...sequenceVersions].some((one) => one.sequenceId === id && names(one)),
    )
    .map(({ name }) => `sequence “${name}”`)

/** What depends on a service: bookings, enquiries, letters that say something else for it, sequences that name it. */
export function usesOfService({ store, settings, clock }: Application, id: string): Uses {
  const row = store.statements.one('usesOfService', { id, now: clock.now() })
  const { letters, ...others } = settings.required()
  const names = naming(id)
  return {
    bookingsAhead: Number(row?.['bookingsAhead'] ?? 0),
    names: [
      ...counted(Number(row?.['bookings'] ?? 0), 'booking', 'bookings'),
      ...counted(Number(row?.['enquiries'] ?? 0), 'enquiry', 'enquiries'),
      ...others.forms.filter(names).map(({ name }) => `form “${name}”`),
      ...others.ownStatuses.filter(names).map(({ name }) => `status “${name}”`),
      ...letters.filter(names).map(({ name }) => `letter “${name}”`),
      ...sequencesNaming(others, names),
    ],
  }
}

/** What hangs on the stages of a pipeline: the enquiries in them, and the sequences that go by their names. */
export function usesOfStage({ store, settings }: Application, pipelineId: string | null): StageUses {
  const all = settings.required()
  const rows = store.statements.all('enquiriesByStage', { pipelineId: pipelineId ?? '' })
  const isElsewhere = (stage: string) =>
    all.pipelines.some(({ id, stages }) => id !== pipelineId && stages.some(({ name }) => name === stage))
  return {
    enquiriesIn: (stage) => Number(rows.find((row) => row['stage'] === stage)?.['count'] ?? 0),
    namedBy: (stage) => (isElsewhere(stage) ? [] : sequencesNaming(all, naming(stage))),
  }
}

/** What goes by the name of a document: letters that lead to it, sequences that start or stop on it. */
export function usesOfDocument({ settings }: Application, id: string | null): readonly string[] {
  const all = settings.required()
  const name = all.documents.find((one) => one.id === id)?.name
  if (name === undefined) return []
  const link = signField(name)
  const leads: Names = (one) => naming(link)(one) || naming(linkToField(link))(one)
  return [
    ...all.letters.filter(leads).map((one) => `letter “${one.name}”`),
    ...sequencesNaming(all, naming(name)),
  ]
}

/** What hangs on a form: sequences that go by its name, letters that say what was answered. */
export function usesOfForm({ settings }: Application, id: string | null): FormUses {
  const all = settings.required()
  const name = all.forms.find((one) => one.id === id)?.name
  return {
    namedBy: name === undefined ? [] : sequencesNaming(all, naming(name)),
    lettersSaying: (label) => {
      const says = naming(ownField(label))
      return [
        ...all.letters.filter(says).map((one) => `letter “${one.name}”`),
        ...all.documents.filter(says).map((one) => `document “${one.name}”`),
      ]
    },
  }
}

/** What goes by the name of a one-press move: the sequences that start or stop on it. */
export function usesOfMove({ settings }: Application, id: string | null): readonly string[] {
  const all = settings.required()
  const name = all.onePressMoves.find((one) => one.id === id)?.name
  return name === undefined ? [] : sequencesNaming(all, naming(name))
}

/** What depends on a status of the business's own: bookings that have or had it, statuses that follow it, sequences. */
export function usesOfOwnStatus({ store, settings, clock }: Application, id: string): Uses {
  const { ownStatuses, ...others } = settings.required()
  const name = ownStatuses.find((one) => one.id === id)?.name
  if (name === undefined) return { bookingsAhead: 0, names: [] }
  const row = store.statements.one('usesOfOwnStatus', { name, now: clock.now() })
  return {
    bookingsAhead: Number(row?.['bookingsAhead'] ?? 0),
    names: [
      ...counted(Number(row?.['bookings'] ?? 0), 'booking', 'bookings'),
      ...ownStatuses.filter(({ after }) => after.includes(name)).map((one) => `status “${one.name}”`),
      ...sequencesNaming(others, naming(name)),
    ],
  }
}
