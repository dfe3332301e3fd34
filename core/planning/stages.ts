import type { Enquiry } from '../model/enquiry.ts'
import type { Pipeline, Stage, StageMeaning } from '../model/pipeline.ts'
import type { Settings } from './slice.ts'

/** What a stage of a pipeline is; undefined: the pipeline knows no such stage. */
export const stageNamed = (
  { pipelines }: Pick<Settings, 'pipelines'>,
  pipelineId: string,
  name: string,
): Stage | undefined => pipelines.find(({ id }) => id === pipelineId)?.stages.find((one) => one.name === name)

/** What the stage of an enquiry means. One nobody describes has nothing that ended it. */
export const meaningOf = (
  settings: Pick<Settings, 'pipelines'>,
  { pipelineId, stage }: Pick<Enquiry, 'pipelineId' | 'stage'>,
): StageMeaning => stageNamed(settings, pipelineId, stage)?.meaning ?? 'open'

/** The pipeline of an enquiry; undefined: nobody describes it. */
export const pipelineOf = (
  { pipelines }: Pick<Settings, 'pipelines'>,
  { pipelineId }: Pick<Enquiry, 'pipelineId'>,
): Pipeline | undefined => pipelines.find(({ id }) => id === pipelineId)
