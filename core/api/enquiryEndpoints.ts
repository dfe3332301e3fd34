import { z } from 'zod'
import {
  bookEnquiryInput,
  changeEnquiryInput,
  newEnquiryInput,
  seenEnquiry,
  stageMove,
} from '../engine/commands/enquiryCommands.ts'
import { pipelineInput, stageMoved } from '../engine/commands/pipelineCommands.ts'
import { noteText } from '../engine/commands/taskCommands.ts'
import { checklistLineId, pipeline, stageName } from '../model/pipeline.ts'
import { manyAnswer } from './announcements.ts'
import { ask, change, changed, command, commandOn, end, made, part, tell } from './described.ts'
import { startedSequence } from './moveViews.ts'
import { noteAnswer } from './taskEndpoints.ts'
import { enquiryLine, enquiryView } from './enquiryViews.ts'
import { partOf } from './views.ts'

const stageSum = z.object({
  name: z.string(),
  count: z.number().int(),
  /** What its enquiries together may cost, as far as that is said. */
  cents: z.number().int(),
  sequences: z.array(startedSequence),
})
export type StageSum = z.infer<typeof stageSum>

/** A pipeline with what stands in it. */
const pipelineView = z.object({
  pipeline,
  /** One for each of its stages, in their order. */
  sums: z.array(stageSum),
  /** Those in open stages, the newest first. */
  lines: z.array(enquiryLine),
})
export type PipelineView = z.infer<typeof pipelineView>

const tickedLine = z.object({ ...command, lineId: checklistLineId }).strict()
const seenEnquiries = z
  .array(seenEnquiry)
  .min(1, 'Choose enquiries first.')
  .max(200, 'At most 200 enquiries at once.')

/** Pipelines, and the enquiries in them. */
export const enquiryEndpoints = {
  pipeline: ask({
    path: '/api/pipelines/:id',
    summary: 'A pipeline with its open enquiries, and how many stand in each stage',
    answer: pipelineView,
  }),
  endedEnquiries: ask({
    path: '/api/pipelines/:id/ended',
    summary: 'The enquiries in a stage that ended them, the newest first',
    query: z.object({ ...part, stage: stageName }).strict(),
    answer: partOf(enquiryLine),
  }),
  addPipeline: tell({
    path: '/api/pipelines',
    summary: 'New pipeline',
    body: z.object({ ...command, pipeline: pipelineInput }).strict(),
    answer: changed,
    access: 'owner',
  }),
  changePipeline: change({
    path: '/api/pipelines/:id',
    summary: 'Change a pipeline and its stages; says where enquiries go from stages that are taken away',
    body: z.object({ ...commandOn, pipeline: pipelineInput, moved: z.array(stageMoved).max(30) }).strict(),
    answer: changed,
    access: 'owner',
  }),
  removePipeline: end({
    path: '/api/pipelines/:id',
    summary: 'Delete a pipeline that holds no enquiry',
    body: z.object(command).strict(),
    answer: made,
    access: 'owner',
  }),
  addEnquiry: tell({
    path: '/api/enquiries',
    summary: 'New enquiry',
    body: z.object({ ...command, enquiry: newEnquiryInput }).strict(),
    answer: made,
  }),
  moveEnquiries: tell({
    path: '/api/enquiries/moves',
    summary: 'Take many enquiries into a stage, as it was announced',
    body: z.object({ ...command, enquiries: seenEnquiries, move: stageMove }).strict(),
    answer: manyAnswer,
  }),
  enquiry: ask({ path: '/api/enquiries/:id', summary: 'One enquiry', answer: enquiryView }),
  enquiriesOfClient: ask({
    path: '/api/clients/:id/enquiries',
    summary: 'The enquiries of a client, the newest first',
    answer: z.object({ lines: z.array(enquiryLine) }),
  }),
  enquiriesDue: ask({
    path: '/api/desk/enquiries',
    summary: 'Enquiries whose deadline is today or has passed, the longest due first',
    answer: z.object({ lines: z.array(enquiryLine) }),
  }),
  changeEnquiry: change({
    path: '/api/enquiries/:id',
    summary: 'Change what an enquiry is about, who is in charge and until when',
    body: z.object({ ...commandOn, facts: changeEnquiryInput }).strict(),
    answer: changed,
  }),
  moveEnquiry: tell({
    path: '/api/enquiries/:id/move',
    summary: 'Take an enquiry into another stage',
    body: z.object({ ...commandOn, move: stageMove }).strict(),
    answer: changed,
  }),
  bookEnquiry: tell({
    path: '/api/enquiries/:id/booking',
    summary: 'Make the booking that came of an enquiry, which is won by that',
    body: z.object({ ...commandOn, booking: bookEnquiryInput }).strict(),
    answer: made,
  }),
  tickLine: tell({
    path: '/api/enquiries/:id/tick',
    summary: 'Tick a line of a checklist',
    body: tickedLine,
    answer: made,
  }),
  untickLine: tell({
    path: '/api/enquiries/:id/untick',
    summary: 'Take the tick of a line away',
    body: tickedLine,
    answer: made,
  }),
  tellAgain: tell({
    path: '/api/enquiries/:id/tell-again',
    summary: 'Tell a ticked line once more in the next evening letter',
    body: tickedLine,
    answer: made,
  }),
  setEvening: tell({
    path: '/api/enquiries/:id/evening',
    summary: 'Switch the evening letters of an enquiry on or off',
    body: z.object({ ...command, isOn: z.boolean(), tellsEarlier: z.boolean() }).strict(),
    answer: made,
  }),
  noteOnEnquiry: tell({
    path: '/api/enquiries/:id/notes',
    summary: 'Write a note about an enquiry, kept with its time and author',
    body: z.object({ ...command, text: noteText }).strict(),
    answer: noteAnswer,
  }),
} as const
