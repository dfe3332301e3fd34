import { pipelineInput, type PipelineInput, type StageMoved } from '#core/engine/commands/pipelineCommands.ts'
import type { ChecklistLine, Pipeline, Stage } from '#core/model/pipeline.ts'
import { sayFault } from './typed.ts'

/** A stage as its form holds it. */
export interface StageDraft extends Omit<Stage, 'deadlineDays' | 'checklist'> {
  /** Tells it from the others while it is being written. */
  readonly key: string
  /** What it was called before; null: it is new. */
  readonly was: string | null
  readonly deadlineDays: number | string
  readonly checklist: readonly ChecklistLine[]
}

/** A pipeline as its form holds it, with where the enquiries of stages go that were taken out. */
export interface PipelineDraft {
  readonly name: string
  readonly stages: readonly StageDraft[]
  readonly goesTo: Readonly<Record<string, string>>
}

const newKey = () => crypto.randomUUID()

export const newLine = (): ChecklistLine => ({ id: `ln_${newKey()}`, words: '', sentence: '' })

export const newStage = (part: Partial<Stage> = {}): StageDraft => ({
  key: newKey(),
  was: null,
  name: '',
  meaning: 'open',
  personInChargeId: null,
  deadlineDays: '',
  checklist: [],
  ...(part as Partial<StageDraft>),
})

export const draftOfPipeline = (pipeline: Pipeline | null): PipelineDraft => ({
  name: pipeline?.name ?? '',
  stages: pipeline
    ? pipeline.stages.map((stage) => ({
        ...stage,
        key: newKey(),
        was: stage.name,
        deadlineDays: stage.deadlineDays ?? '',
      }))
    : [
        newStage({ name: 'new' }),
        newStage({ name: 'booked', meaning: 'won' }),
        newStage({ name: 'lost', meaning: 'lost' }),
      ],
  goesTo: {},
})

/** The stages that were there before and are not any more. */
export const takenOut = (present: Pipeline | null, { stages }: PipelineDraft): readonly string[] =>
  (present?.stages ?? []).flatMap(({ name }) => (stages.some(({ was }) => was === name) ? [] : [name]))

interface Meant {
  readonly pipeline: PipelineInput
  readonly moved: StageMoved[]
}

/** What a draft means, or what is wrong with it, by field. */
export function readPipeline(
  present: Pipeline | null,
  draft: PipelineDraft,
  isActive: boolean,
): { readonly meant: Meant } | { readonly faults: Readonly<Record<string, string>> } {
  const stages = draft.stages.map(({ name, meaning, personInChargeId, deadlineDays, checklist }) => ({
    name,
    meaning,
    personInChargeId,
    deadlineDays: deadlineDays === '' ? null : Number(deadlineDays),
    checklist: checklist.filter(({ words, sentence }) => words !== '' || sentence !== ''),
  }))
  const parsed = pipelineInput.safeParse({ name: draft.name, stages, isActive })
  if (!parsed.success) {
    const faults: Record<string, string> = {}
    for (const { path, message } of parsed.error.issues) faults[path.join('.')] ??= sayFault(message)
    return { faults }
  }
  const renamed = draft.stages.flatMap(({ was, name }): StageMoved[] =>
    was !== null && was !== name.trim() ? [{ from: was, to: name.trim() }] : [],
  )
  const gone = takenOut(present, draft).flatMap((from): StageMoved[] => {
    const to = draft.goesTo[from]
    return to === undefined ? [] : [{ from, to }]
  })
  return { meant: { pipeline: parsed.data, moved: [...renamed, ...gone] } }
}

/** A list with one of it moved by so many places. */
export function moved<Item>(items: readonly Item[], index: number, by: number): readonly Item[] {
  const item = items[index]
  if (item === undefined) return items
  return items.toSpliced(index, 1).toSpliced(Math.max(0, index + by), 0, item)
}
