import { thereOn } from '../../sequences/standIns.ts'
import type { Client } from '../../model/client.ts'
import type { Enquiry } from '../../model/enquiry.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Send } from '../../model/send.ts'
import { isStatusByHand } from '../../model/inHouse.ts'
import type { PlainStep } from '../../model/step.ts'
import { runFacts, type RunFacts } from '../../planning/runFacts.ts'
import type { Slice } from '../../planning/slice.ts'
import { mayStartAgain } from '../../sequences/startRules.ts'
import { versionOf } from '../../planning/slice.ts'
import { pipelineOf, stageNamed } from '../../planning/stages.ts'
import { isoDateOf } from '../../time/calendar.ts'
import { dayAt } from '../../time/zones.ts'
import { statusChange, type BookingChange } from './bookingStatus.ts'
import type { EngineContext } from '../context.ts'
import { happened } from '../commands/dealingCommands.ts'
import type { Effect } from '../effects.ts'
import { enteredStage } from './enquiryStage.ts'
import { ownStatusChange } from './ownStatus.ts'
import { startedRun } from './startRuns.ts'
import { taskSet } from './taskSet.ts'
import { stoppedRun } from './stopRuns.ts'

type Doing = Result<BookingChange>

const plainly = (effects: readonly Effect[]): Doing => done({ effects, manner: {} })

function task(
  step: Extract<PlainStep, { kind: 'task' }>,
  of: RunFacts,
  context: EngineContext,
): readonly Effect[] {
  const { client, run, settings, personInCharge } = of
  const zone = settings.zones.zone(settings.business.zone)
  const dueOn = isoDateOf(dayAt(zone, context.now) + step.dueInDays)
  const asked = {
    clientId: client.id,
    subject: run.subject,
    title: step.title,
    dueOn,
    personId: personInCharge && thereOn(settings.people, personInCharge, dueOn).id,
  }
  return taskSet(asked, `Task for ${dueOn}: ${step.title}.`, context)
}

/** A client with a tag more or less; nothing where that is so already. */
export function tagged(
  client: Client,
  tag: string,
  adds: boolean,
  context: EngineContext,
): readonly Effect[] {
  if (client.tags.includes(tag) === adds) return []
  const changed = adds ? [...client.tags, tag].sort() : client.tags.filter((one) => one !== tag)
  const put: Effect = {
    kind: 'put client',
    client: { ...client, tags: changed, revision: client.revision + 1 },
  }
  const kind = adds ? 'tag added' : 'tag removed'
  return [put, ...happened(client.id, { kind, name: tag, at: context.now }, context)]
}

function startOrStop(
  { sequenceId, starts }: Extract<PlainStep, { kind: 'sequence' }>,
  { run, settings, facts }: RunFacts,
  context: EngineContext,
): Doing {
  const sequence = settings.sequences.find(({ id }) => id === sequenceId)
  if (!sequence) return refused('not found', 'There is no such sequence any more.')
  const { clientId, subject } = run
  if (!starts) {
    const own = facts.runs.filter(
      (one) =>
        one.sequenceId === sequenceId &&
        one.state === 'running' &&
        (one.subject.id === subject.id || one.subject.kind === 'client'),
    )
    const why = 'A step of another sequence stopped it.'
    return plainly(own.flatMap((one) => stoppedRun(one, sequence.name, 'sequence', why, context)))
  }
  if (sequence.state === 'draft') return refused('not allowed now', `“${sequence.name}” is still a draft.`)
  const { start } = versionOf(settings, sequence.id, sequence.currentVersion)
  const trigger = { on: start.on, name: '', at: context.now, clientId, subject }
  if (!mayStartAgain(start, sequence, trigger, facts.runs)) return plainly([])
  return plainly(startedRun(sequence, trigger, 'sequence', context))
}

/** An enquiry in a stage by a step; refused where its pipeline has no such stage any more. */
function intoStage(
  enquiry: Enquiry,
  { stage: name, reason: lostReason }: Extract<PlainStep, { kind: 'stage' }>,
  { settings }: Slice,
  context: EngineContext,
): Doing {
  const pipeline = pipelineOf(settings, enquiry)
  if (pipeline && !stageNamed(settings, pipeline.id, name)) {
    return refused('not found', `There is no stage “${name}” in “${pipeline.name}” any more.`)
  }
  return plainly(enteredStage(enquiry, name, settings, context, { lostReason }))
}

/**
 * What a step does that is no message, as facts and events alone; refused where what it would act on is not there or
 * does not allow it. A web call leaves the house and is made by the shell.
 */
export function performStep(step: PlainStep, send: Send, slice: Slice, context: EngineContext): Doing {
  const run = slice.facts.runs.find(({ id }) => id === send.runId)
  const of = run ? runFacts(run, slice) : null
  if (!of) return refused('not found', 'What it was to act on is gone.')
  const { client, booking, enquiry } = of
  const did = (kind: 'list joined' | 'list left' | 'date stamped', name: string) =>
    plainly(happened(client.id, { kind, name, at: context.now }, context))
  switch (step.kind) {
    case 'task':
      return plainly(task(step, of, context))
    case 'tag':
      return plainly(tagged(client, step.tag, step.adds, context))
    case 'stage':
      return enquiry
        ? intoStage(enquiry, step, slice, context)
        : refused('not found', 'There is no enquiry whose stage could change.')
    case 'status':
      if (booking && isStatusByHand(step.status)) return statusChange(slice, booking, step.status, context)
      return booking
        ? ownStatusChange(slice, booking, step.status, context)
        : refused('not found', 'There is no booking whose status could change.')
    case 'date stamp':
      return did('date stamped', step.label)
    case 'list':
      return did(step.joins ? 'list joined' : 'list left', step.list)
    case 'sequence':
      return startOrStop(step, of, context)
    case 'web call':
    case 'mail':
    case 'text message':
    case 'note to staff':
      return plainly([])
  }
}
