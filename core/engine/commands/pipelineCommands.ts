import { z } from 'zod'
import type { Enquiry } from '../../model/enquiry.ts'
import { pipeline, pipelineId, stageName, type Pipeline } from '../../model/pipeline.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings, Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { withEffects, type Effect } from '../effects.ts'
import { aboutEnquiry, enteredStage } from '../following/enquiryStage.ts'
import { conclude } from '../following/react.ts'
import { elsewhere } from './settingsFault.ts'

/* The pipelines of the business: their stages, as they are added, changed and let go. */

export const pipelineInput = pipeline.omit({ id: true, revision: true })
export type PipelineInput = z.infer<typeof pipelineInput>

/** Where the enquiries of a stage go that is not there any more; one that only gets another name goes to that. */
export const stageMoved = z.object({ from: stageName, to: stageName }).strict()
export type StageMoved = z.infer<typeof stageMoved>

/** A pipeline is added or changed, on the revision that was decided on. */
export const pipelineChange = z
  .object({
    /** Null: a new one. */
    id: pipelineId.nullable(),
    revision: z.number().int(),
    pipeline: pipelineInput,
    moved: z.array(stageMoved).max(30),
  })
  .strict()
export type PipelineChange = z.infer<typeof pipelineChange>

/** What hangs on the stages of a pipeline, by their names. */
export interface StageUses {
  readonly enquiriesIn: (stage: string) => number
  /** The names of what goes by the name of a stage, such as sequences. */
  readonly namedBy: (stage: string) => readonly string[]
}

/** More enquiries are not taken into another stage at once. */
const mostMoved = 500

function goneFault(
  gone: string,
  { pipeline: { stages }, moved }: PipelineChange,
  { enquiriesIn, namedBy }: StageUses,
): Result<never> | null {
  const names = namedBy(gone)
  if (names.length > 0) {
    return refused(
      'not allowed now',
      `“${gone}” is named by ${names.join(', ')}. Change that first; the stage can go, or be renamed, then.`,
      'stages',
    )
  }
  const count = enquiriesIn(gone)
  const counted = count === 1 ? '1 enquiry is' : `${count} enquiries are`
  const to = moved.find(({ from }) => from === gone)?.to
  if (count > 0 && !stages.some(({ name }) => name === to)) {
    return refused('invalid', `${counted} in “${gone}”: say which stage they go to.`, 'moved')
  }
  return count > mostMoved
    ? refused(
        'not allowed now',
        `${counted} in “${gone}”. Take some of them into another stage first.`,
        'moved',
      )
    : null
}

/** The stages a change takes away, or calls something else. */
const stagesGone = (present: Pipeline | undefined, { stages }: PipelineInput): readonly string[] =>
  (present?.stages ?? []).flatMap(({ name }) => (stages.some((one) => one.name === name) ? [] : [name]))

/** A pipeline that open forms lead into neither goes nor is archived; null: none does. */
function ledByForm({ forms }: Settings, id: string | null): Result<never> | null {
  const form = forms.find(({ pipelineId: of, isActive }) => of === id && isActive)
  if (!form) return null
  const sentence = `The form “${form.name}” leads into it. Let it lead elsewhere, or close it, first.`
  return refused('not allowed now', sentence)
}

/** A pipeline as it is put; what becomes of enquiries in stages that go is of each client. */
export function putPipeline(
  settings: Settings,
  change: PipelineChange,
  uses: StageUses,
  context: EngineContext,
): Result<readonly Effect[]> {
  const { id, revision, pipeline: input } = change
  const present = settings.pipelines.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such pipeline any more.')
  if (present && present.revision !== revision) return elsewhere()
  const isTaken = settings.pipelines.some(
    (one) => one.id !== id && one.name.toLowerCase() === input.name.toLowerCase(),
  )
  if (isTaken) return refused('invalid', `There is a pipeline “${input.name}” already.`, 'name')
  const led = input.isActive ? null : ledByForm(settings, id)
  if (led) return led
  const unknown = input.stages.findIndex(
    ({ personInChargeId }) =>
      personInChargeId !== null && !settings.people.some((one) => one.id === personInChargeId),
  )
  if (unknown >= 0) {
    return refused(
      'not found',
      'This person is not in the team any more.',
      `stages.${unknown}.personInChargeId`,
    )
  }
  const fault = stagesGone(present, input)
    .map((gone) => goneFault(gone, change, uses))
    .find((one) => one !== null)
  if (fault) return fault
  const put: Pipeline = { ...input, id: id ?? context.newId('pl'), revision: (present?.revision ?? 0) + 1 }
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put pipeline', pipeline: put },
    appendEvent(context, 'settings changed', { name: put.name }, `Pipeline ${deed}: ${put.name}.`),
  ])
}

/** An enquiry whose stage is called something else: nothing happens to it. */
function renamed(enquiry: Enquiry, to: string, context: EngineContext): readonly Effect[] {
  const { stage, stageAt } = enquiry
  const { [stage]: since = context.now, ...others } = stageAt
  return [
    {
      kind: 'put enquiry',
      enquiry: { ...enquiry, stage: to, stageAt: { ...others, [to]: since }, revision: enquiry.revision + 1 },
    },
    appendEvent(
      context,
      'enquiry changed',
      aboutEnquiry(enquiry),
      `Its stage “${stage}” is called “${to}” now.`,
    ),
  ]
}

/** What becomes of a client's enquiries in stages that go: they stand in others, and nothing starts because of it. */
export function stagesMoved(
  slice: Slice,
  present: Pipeline,
  { moved }: PipelineChange,
  context: EngineContext,
): readonly Effect[] {
  const own = slice.facts.enquiries.filter(({ pipelineId: of }) => of === present.id)
  return own.reduce((effects: readonly Effect[], enquiry) => {
    const to = moved.find(({ from }) => from === enquiry.stage)?.to
    if (to === undefined) return effects
    const isThereAlready = present.stages.some(({ name }) => name === to)
    const changed = isThereAlready
      ? enteredStage(enquiry, to, slice.settings, context)
      : renamed(enquiry, to, context)
    const facts = withEffects(slice.facts, effects)
    return [...effects, ...conclude({ ...slice, facts }, changed, context, { startsNothing: true })]
  }, [])
}

/** A pipeline that holds no enquiry is deleted. */
export function removePipeline(
  settings: Settings,
  id: string,
  enquiries: number,
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.pipelines.find((one) => one.id === id)
  if (!present) return refused('not found', 'There is no such pipeline any more.')
  if (enquiries > 0) {
    const counted = enquiries === 1 ? '1 enquiry is' : `${enquiries} enquiries are`
    return refused('not allowed now', `${counted} in it. Archive it instead.`)
  }
  const led = ledByForm(settings, id)
  if (led) return led
  if (settings.pipelines.every((one) => one.id === id || !one.isActive)) {
    return refused('not allowed now', 'It is the only one. Add another one first.')
  }
  return done([
    { kind: 'remove pipeline', id },
    appendEvent(context, 'settings changed', { name: present.name }, `Pipeline deleted: ${present.name}.`),
  ])
}
