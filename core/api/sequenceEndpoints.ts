import { z } from 'zod'
import { rollout, sequenceDesign } from '../engine/consequences/rollout.ts'
import { clientId } from '../model/client.ts'
import { reason, sendState, traceLine } from '../model/send.ts'
import { sequence, sequenceVersion } from '../model/sequence.ts'
import { startEvent } from '../model/startEvent.ts'
import { subject } from '../model/subject.ts'
import { stepId, stepKind } from '../model/step.ts'
import { purpose } from '../model/timing.ts'
import { instant, requiredLine } from '../model/values.ts'
import { variation } from '../model/variation.ts'
import { hardCases } from '../rehearsal/hardCases.ts'
import { ask, change, command, end, made, nothing, tell } from './described.ts'
import { consequence } from './announcements.ts'
import { sendLine } from './views.ts'

export const surprise = z.object({ stepId: stepId.nullable(), code: z.string(), sentence: z.string() })

/** A sequence as the list sets it. */
export const sequenceLine = z.object({
  sequence,
  /** What starts it, as a clause. */
  starts: z.string(),
  /** What its steps do and when, in their order. */
  does: z.array(z.object({ when: z.string(), what: z.string() })),
  steps: z.number().int(),
  running: z.number().int(),
  waiting: z.number().int(),
  planned: z.number().int(),
  sentThisMonth: z.number().int(),
  surprises: z.array(surprise),
  /** Whether something was written about it that is not in effect yet. */
  hasDesign: z.boolean(),
})
export type SequenceLine = z.infer<typeof sequenceLine>

const ownVariation = z.object({ variation, whose: z.string() })

/** What goes into effect client by client, and how far it is. */
export const rolloutProgress = z.object({
  total: z.number().int(),
  ahead: z.number().int(),
  isUnderWay: z.boolean(),
  isStopped: z.boolean(),
  /** Clients for whom something else would have happened than was shown: nothing did. */
  others: z.array(z.object({ id: clientId, name: z.string() })),
})
export type RolloutProgress = z.infer<typeof rolloutProgress>

export const sequenceView = z.object({
  sequence,
  /** What is in effect, or would be. */
  version: sequenceVersion,
  /** What was written since and is not in effect yet; null: nothing. */
  design: z
    .object({
      design: sequenceDesign,
      revision: z.number().int(),
      changedAt: instant,
      personName: z.string().nullable(),
    })
    .nullable(),
  running: z.number().int(),
  runs: z.number().int(),
  variations: z.array(ownVariation),
  counts: z.record(z.string(), z.object({ sent: z.number(), skipped: z.number(), ahead: z.number() })),
  /** What went into effect last client by client, as long as there is something to be said of it. */
  rollout: rolloutProgress.nullable(),
})
export type SequenceView = z.infer<typeof sequenceView>

/** Somebody or something real to look at a sequence with. */
export const previewSubject = z.object({
  subject,
  label: z.string(),
  serviceId: z.string().nullable(),
  at: instant.nullable(),
})
export type PreviewSubject = z.infer<typeof previewSubject>

export const previewLine = z.object({
  id: z.string(),
  stepId,
  stepKind,
  action: z.string(),
  occurrence: z.number().int(),
  to: z.string().nullable(),
  purpose,
  at: instant.nullable(),
  goes: z.boolean(),
  state: sendState,
  reason: reason.nullable(),
  trace: z.array(traceLine),
})
export type PreviewLine = z.infer<typeof previewLine>

export const previewView = z.object({
  startsAt: instant,
  event: z.object({ startAt: instant, endAt: instant }).nullable(),
  /** Zone of the place. */
  zoneName: z.string(),
  lines: z.array(previewLine),
  surprises: z.array(surprise),
})
export type PreviewView = z.infer<typeof previewView>

/** One message of one client that a design put into effect would change. */
export const rolloutLine = z.object({ ...consequence.shape, clientId, clientName: z.string() })
export type RolloutLine = z.infer<typeof rolloutLine>

export const rolloutView = z.object({
  announcementId: z.string().max(64),
  /** How many clients it changes something for, of how many looked at. */
  clients: z.number().int(),
  lookedAt: z.number().int(),
  /** By kind of change and letter; `further`: occurrences of repeats that can follow those counted. */
  counts: z.array(
    z.object({
      kind: consequence.shape.kind,
      action: z.string(),
      count: z.number().int(),
      further: z.number().int(),
    }),
  ),
  lines: z.array(rolloutLine),
  /** More lines than are sent along. */
  isCut: z.boolean(),
})
export type RolloutView = z.infer<typeof rolloutView>

/** How far a step has earned to go by itself. */
const stepTrust = z.object({
  sequenceId: sequence.shape.id,
  stepId,
  action: z.string(),
  needsApproval: z.boolean(),
  trust: z.object({
    asItWas: z.number().int(),
    edited: z.number().int(),
    skipped: z.number().int(),
    lower: z.number(),
    suggests: z.enum(['letting go', 'taking back']).nullable(),
  }),
})
export type StepTrust = z.infer<typeof stepTrust>

/** Why one message does not come, as pages show it. */
const whyNotLine = z.object({
  sequenceId: sequence.shape.id,
  sequenceName: z.string(),
  stepId,
  action: z.string(),
  /** What it would be about. */
  about: z.string(),
  send: z
    .object({ id: z.string(), state: sendState, dueAt: instant.nullable(), sentAt: instant.nullable() })
    .nullable(),
  because: z.object({ code: z.string(), sentence: z.string(), change: z.string() }).nullable(),
  words: z.array(z.string()),
  comesThen: z.boolean(),
  /** What is in the way even after all of them; null: nothing. */
  still: z.object({ sentence: z.string(), change: z.string() }).nullable(),
})
export type WhyNotLine = z.infer<typeof whyNotLine>

export const sequenceAnswer = z.object({ id: z.string(), sends: z.number().int() })

/** What the server can be asked about sequences. */
export const sequenceEndpoints = {
  sequences: ask({
    path: '/api/sequences',
    summary: 'All sequences',
    answer: z.object({ sequences: z.array(sequenceLine) }),
  }),
  sequence: ask({ path: '/api/sequences/:id', summary: 'One sequence', answer: sequenceView }),
  trust: ask({
    path: '/api/trust',
    summary: 'How far each message has earned to go by itself, by what persons decided about it',
    answer: z.object({ steps: z.array(stepTrust) }),
  }),
  backToApproval: tell({
    path: '/api/sequences/:id/back-to-approval',
    summary: 'Let a step wait for approval again, for running ones too',
    body: z.object({ ...command, stepId }).strict(),
    answer: sequenceAnswer,
  }),
  whyNot: ask({
    path: '/api/clients/:id/why-not',
    summary: 'Why a client does not get a letter or the messages of a sequence, and what would change that',
    query: z.object({ sequenceId: z.string().optional(), letterId: z.string().optional() }).strict(),
    answer: z.object({ answers: z.array(whyNotLine) }),
  }),
  addSequence: tell({
    path: '/api/sequences',
    summary: 'New sequence, as a draft',
    body: z.object({ ...command, design: sequenceDesign }).strict(),
    answer: made,
  }),
  addExample: tell({
    path: '/api/sequence-examples',
    summary: 'New sequence from an example, as a draft, with the letters of its steps',
    body: z.object({ ...command, name: requiredLine(120, 'Which example?') }).strict(),
    answer: made,
  }),
  removeSequence: end({
    path: '/api/sequences/:id',
    summary: 'Delete a draft that never ran',
    body: z.object(command).strict(),
    answer: made,
    access: 'owner',
  }),
  saveDesign: change({
    path: '/api/sequences/:id/design',
    summary: 'Keep what is being written about a sequence; nothing is in effect by it',
    body: z.object({ ...command, revision: z.number().int().min(0), design: sequenceDesign }).strict(),
    answer: z.object({ id: z.string(), revision: z.number().int() }),
    isRecorded: false,
  }),
  dropDesign: end({
    path: '/api/sequences/:id/design',
    summary: 'Let go of what was written and is not in effect',
    body: z.object(command).strict(),
    answer: made,
  }),
  previewSubjects: ask({
    path: '/api/preview-subjects',
    summary: 'Bookings, enquiries, invoices or clients to look at a sequence with',
    query: z.object({ on: startEvent }).strict(),
    answer: z.object({ subjects: z.array(previewSubject) }),
  }),
  previewSequence: tell({
    path: '/api/sequences/:id/preview',
    summary: 'Play a design for somebody real, with nothing done',
    body: z.object({ design: sequenceDesign, subject, hardCase: z.enum(hardCases) }).strict(),
    answer: previewView,
    access: 'signed in',
    isRecorded: false,
  }),
  startDifference: tell({
    path: '/api/sequences/:id/difference',
    summary: 'Begin to work out what a design put into effect would change, for everybody',
    body: z.object({ design: sequenceDesign, rollout }).strict(),
    answer: z.object({ jobId: z.string() }),
    access: 'signed in',
    isRecorded: false,
  }),
  difference: ask({
    path: '/api/differences/:id',
    summary: 'How far that is, and what came out',
    answer: z.object({
      done: z.number().int(),
      total: z.number().int(),
      result: rolloutView.nullable(),
      problem: z.string().nullable(),
    }),
  }),
  endDifference: end({
    path: '/api/differences/:id',
    summary: 'Stop working it out',
    answer: nothing,
    access: 'signed in',
    isRecorded: false,
  }),
  stopRollout: tell({
    path: '/api/sequences/:id/stop-rollout',
    summary: 'Stop what is going into effect client by client; who is still ahead keeps the version before',
    body: z.object(command).strict(),
    access: 'owner',
    answer: made,
  }),
  takeUpRollout: tell({
    path: '/api/sequences/:id/take-up-rollout',
    summary: 'Go on with what was stopped on its way into effect',
    body: z.object(command).strict(),
    access: 'owner',
    answer: made,
  }),
  putIntoEffect: tell({
    path: '/api/sequences/:id/effect',
    summary: 'Put a design into effect as it was announced',
    body: z
      .object({
        ...command,
        design: sequenceDesign,
        rollout,
        announcementId: z.string().max(64),
      })
      .strict(),
    answer: sequenceAnswer,
    access: 'owner',
  }),
  switchSequence: tell({
    path: '/api/sequences/:id/switch',
    summary: 'Pause a live sequence, or let it go on; what fell due meanwhile is missed',
    body: z.object({ ...command, isOn: z.boolean() }).strict(),
    answer: sequenceAnswer,
    access: 'owner',
  }),
  heldBackBySequence: ask({
    path: '/api/sequences/:id/held-back',
    summary: 'Messages of a paused sequence that would have gone by now',
    answer: z.object({ sends: z.array(sendLine) }),
  }),
  readSequenceFile: tell({
    path: '/api/sequence-files',
    summary: 'Read a sequence out of a file, as a design',
    body: z.object({ text: z.string().max(900_000) }).strict(),
    answer: z.object({ design: sequenceDesign }),
    isRecorded: false,
  }),
  vary: change({
    path: '/api/variations/:id',
    summary: 'Change a step for this service for a service or a client',
    body: z.object({ ...command, variation: variation.omit({ id: true, timingSetAt: true }) }).strict(),
    answer: sequenceAnswer,
  }),
  removeVariation: end({
    path: '/api/variations/:id',
    summary: 'Let a step be again as its sequence says',
    body: z.object(command).strict(),
    answer: sequenceAnswer,
  }),
} as const
