import { z } from 'zod'
import { serviceId } from './business.ts'
import { clientId } from './client.ts'
import { condition } from './condition.ts'
import { sequenceId, step, stepId } from './step.ts'
import { onlyStopEvents, startEvent } from './startEvent.ts'
import { subject } from './subject.ts'
import { span } from './timing.ts'
import { idOf, instant, requiredLine } from './values.ts'

export const runId = idOf('ru')

export const sequenceState = z.enum(['draft', 'live', 'paused'])

/** Whether a sequence can start again for somebody it has run for. */
export const startAgain = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('once per client') }).strict(),
  z.object({ kind: z.literal('once per subject') }).strict(),
  /** Every time, with at least so long between two starts. */
  z.object({ kind: z.literal('every time'), gap: span.nullable() }).strict(),
])

/** What sets a run going, under which conditions, and whether again. */
export const startRule = z
  .object({
    on: startEvent,
    /** Which stage, tag, list, form or date; null: any. */
    name: z.string().min(1).nullable().default(null),
    /** Only for these services; empty: for all. */
    serviceIds: z.array(serviceId).default([]),
    onlyIf: condition.nullable().default(null),
    again: startAgain.default({ kind: 'once per subject' }),
  })
  .strict()
export type StartRule = z.infer<typeof startRule>

/** What becomes of a run: it ends, or each of its messages waits for a person until somebody lets it go on. */
export const stopDoes = z.enum(['ends', 'holds'])

/** What ends or holds a run: something that happens to its subject, or something the client does. */
export const stopRule = z
  .object({
    on: z.enum([...startEvent.options, ...onlyStopEvents]),
    name: z.string().min(1).nullable().default(null),
    does: stopDoes.default('ends'),
  })
  .strict()
  .refine(({ on, does }) => on !== 'event over' || does === 'ends', {
    path: ['does'],
    message: 'What is over has nothing left that could wait.',
  })
export type StopRule = z.infer<typeof stopRule>

/** The rule that something ends a run. */
export const endsOn = (on: StopRule['on']): StopRule => ({ on, name: null, does: 'ends' })

/** One version of a sequence. Running runs keep the version they started with. */
export const sequenceVersion = z
  .object({
    sequenceId,
    version: z.number().int().min(1),
    start: startRule,
    steps: z.array(step),
    stops: z.array(stopRule),
  })
  .strict()
export type SequenceVersion = z.infer<typeof sequenceVersion>

export const sequence = z
  .object({
    id: sequenceId,
    name: requiredLine(120, 'A sequence needs a name.'),
    state: sequenceState,
    /** Acts strictly after this moment start runs; null while never live. */
    liveSince: instant.nullable(),
    currentVersion: z.number().int().min(1),
  })
  .strict()
export type Sequence = z.infer<typeof sequence>

export const runState = z.enum(['running', 'stopped'])

/** One sequence at work for one subject. */
export const run = z
  .object({
    id: runId,
    sequenceId,
    version: z.number().int().min(1),
    clientId,
    subject,
    state: runState,
    startedAt: instant,
    /** What set it going: an event, the inclusion of what was there already, or a step of another sequence. */
    startedOn: z.union([startEvent, z.enum(['inclusion', 'sequence'])]),
    stoppedAt: instant.nullable(),
    /** What ended it: an event, or a person; null while it runs. */
    stoppedOn: z.string().nullable(),
    stoppedReason: z.string().nullable(),
    /** Since when each of its messages waits for a person, and why; null: it goes on by itself. */
    held: z.object({ at: instant, reason: z.string() }).strict().nullable().default(null),
    /** Which way its branches went, and when. */
    branches: z.array(z.object({ stepId, arm: z.enum(['yes', 'no']), at: instant }).strict()),
    /** When the timing of its steps changed under it, by step. */
    timingSetAt: z.record(stepId, instant),
    /** Steps that came in before what it had already done: they are not run. */
    passedOver: z.array(stepId),
  })
  .strict()
export type Run = z.infer<typeof run>
