import type { Run, StopRule } from '../../model/sequence.ts'
import { minuteMs } from '../../time/calendar.ts'
import { versionOf, type ClientFacts, type Slice } from '../../planning/slice.ts'
import { stageNamed } from '../../planning/stages.ts'
import { perhapsToldStates } from '../../model/sendState.ts'
import { hasSomethingToDo } from '../../planning/atRest.ts'
import { shiftFromTold } from '../../planning/answers.ts'
import { stoppedWords } from '../../sequences/eventWords.ts'
import { isStoppedBy, type Trigger } from '../../sequences/startRules.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import type { Undoing } from './bookingSettling.ts'

const endings: readonly Trigger['on'][] = ['booking cancelled', 'booking missed']

/** Invoices of a booking that are settled with it; a fee for cancelling stays due. */
function invoicesOf(bookingId: string | undefined, { invoices }: ClientFacts): readonly string[] {
  return invoices.filter((one) => one.bookingId === bookingId && !one.isFee).map(({ id }) => id)
}

/** Cancelled or missed, a booking's own runs and those of its invoices stop, whatever their rules say. */
function endsWithTheBooking(run: Run, { on, subject }: Trigger, facts: ClientFacts): boolean {
  if (!endings.includes(on)) return false
  return (
    run.subject.id === subject?.id ||
    (run.subject.kind === 'invoice' && invoicesOf(subject?.id, facts).includes(run.subject.id))
  )
}

/** Confirmed or moved again, what was told because of the cancellation or the miss no longer holds. */
function wasForAnEnding(run: Run, { on, subject }: Trigger): boolean {
  const isBack = on === 'booking confirmed' || on === 'booking moved'
  return isBack && run.subject.id === subject?.id && endings.some((ending) => ending === run.startedOn)
}

/**
 * A further move voids the unsent messages about the one before: all where it reaches the threshold, else only where
 * none has gone yet.
 */
function wasForAnEarlierMove(run: Run, { on, subject }: Trigger, { settings, facts }: Slice): boolean {
  if (on !== 'booking moved' || run.startedOn !== 'booking moved' || run.subject.id !== subject?.id)
    return false
  const booking = facts.bookings.find(({ id }) => id === subject.id)
  const isFar = booking && shiftFromTold(booking) >= settings.business.moveThresholdMinutes * minuteMs
  const hasGone = facts.sends.some(
    ({ runId, state }) => runId === run.id && perhapsToldStates.includes(state),
  )
  return isFar === true || !hasGone
}

/** A run that ends, with the reason. */
export function stoppedRun(
  run: Run,
  name: string,
  stoppedOn: string,
  why: string,
  context: EngineContext,
): readonly Effect[] {
  return [
    {
      kind: 'put run',
      run: { ...run, state: 'stopped', stoppedAt: context.now, stoppedOn, stoppedReason: why },
    },
    appendEvent(
      context,
      'run stopped',
      { clientId: run.clientId, subject: run.subject },
      `Sequence “${name}” stopped: ${why}`,
    ),
  ]
}

/** A run that goes on because what had stopped it was undone. */
export function goesOnAgain(run: Run, name: string, context: EngineContext): readonly Effect[] {
  return [
    {
      kind: 'put run',
      run: { ...run, state: 'running', stoppedAt: null, stoppedOn: null, stoppedReason: null },
    },
    appendEvent(
      context,
      'run resumed',
      { clientId: run.clientId, subject: run.subject },
      `Sequence “${name}” goes on: what stopped it was undone.`,
    ),
  ]
}

/** What the sequence of a run is called. */
export const nameOfRun = ({ settings }: Slice, { sequenceId }: Run) =>
  settings.sequences.find((one) => one.id === sequenceId)?.name ?? sequenceId

const entersStage = 'enquiry stage entered'

/** Won or lost, an enquiry's own runs stop, whatever their rules say; what that stage sends starts after this. */
function endsWithTheEnquiry(run: Run, trigger: Trigger, { facts, settings }: Slice): string | null {
  const { on, subject, name } = trigger
  if (on !== entersStage || subject === null || run.subject.id !== subject.id) return null
  const enquiry = facts.enquiries.find(({ id }) => id === subject.id)
  const meaning = enquiry && stageNamed(settings, enquiry.pipelineId, name)?.meaning
  return meaning === 'won' || meaning === 'lost' ? `The enquiry is ${meaning}: “${name}”.` : null
}

/** Open again, what was told because the enquiry had ended no longer holds. */
function wasForAnEndedEnquiry(run: Run, { on, subject, name }: Trigger, { facts, settings }: Slice): boolean {
  if (on !== entersStage || run.startedOn !== entersStage || run.subject.id !== subject?.id) return false
  const { start } = versionOf(settings, run.sequenceId, run.version)
  const enquiry = facts.enquiries.find(({ id }) => id === subject.id)
  if (!enquiry || start.name === null) return false
  const isEnded = stageNamed(settings, enquiry.pipelineId, start.name)?.meaning !== 'open'
  return isEnded && stageNamed(settings, enquiry.pipelineId, name)?.meaning === 'open'
}

/** Why a trigger ends a run; null: it does not. */
function whyStopped(run: Run, trigger: Trigger, slice: Slice): string | null {
  if (endsWithTheBooking(run, trigger, slice.facts)) return stoppedWords(trigger.on, '')
  if (wasForAnEnding(run, trigger)) return 'The booking stands again.'
  if (wasForAnEarlierMove(run, trigger, slice)) return 'The booking was moved again.'
  if (wasForAnEndedEnquiry(run, trigger, slice)) return 'The enquiry is open again.'
  return endsWithTheEnquiry(run, trigger, slice) ?? whyByRule(run, 'ends', trigger, slice)
}

/** Why a rule of its own ends or holds a run at a trigger; null: none does. */
function whyByRule(run: Run, does: StopRule['does'], trigger: Trigger, { settings }: Slice): string | null {
  const { stops } = versionOf(settings, run.sequenceId, run.version)
  const rule = stops.find((stop) => stop.does === does && isStoppedBy(run, stop, trigger))
  return rule ? stoppedWords(rule.on === 'booked' ? rule.on : trigger.on, trigger.name) : null
}

/** The runs a trigger may end or hold. Of a run at rest nothing comes: only what happens to its own subject touches it. */
const touchedRuns = (trigger: Trigger, { runs, resting }: ClientFacts) =>
  runs.filter(
    ({ id, state, subject }) =>
      state === 'running' && (!resting.has(id) || subject.id === trigger.subject?.id),
  )

/** The runs that a trigger holds, with what of them was approved: that is asked about again. */
export function heldRuns(trigger: Trigger, slice: Slice, context: EngineContext): readonly Effect[] {
  const { facts } = slice
  return touchedRuns(trigger, facts).flatMap((run): readonly Effect[] => {
    if (run.held !== null) return []
    const reason = whyByRule(run, 'holds', trigger, slice)
    if (reason === null) return []
    const rows = facts.sends.filter(({ runId }) => runId === run.id)
    const said = appendEvent(
      context,
      'run held',
      { clientId: run.clientId, subject: run.subject },
      `Sequence “${nameOfRun(slice, run)}” waits for a person: ${reason}`,
    )
    return [
      { kind: 'put run', run: { ...run, held: { at: context.now, reason } } },
      ...rows
        .filter(({ state }) => state === 'approved')
        .map((send): Effect => ({
          kind: 'put send',
          send: { ...send, state: 'waiting', stateSince: context.now },
        })),
      // What may come again is held as well; where nothing is left to send, that is no news.
      ...(hasSomethingToDo(run, rows, slice.settings) ? [said] : []),
    ]
  })
}

/** The runs that a trigger ends. */
export function stoppedRuns(trigger: Trigger, slice: Slice, context: EngineContext): readonly Effect[] {
  return touchedRuns(trigger, slice.facts).flatMap((run) => {
    const why = whyStopped(run, trigger, slice)
    return why === null ? [] : stoppedRun(run, nameOfRun(slice, run), trigger.on, why, context)
  })
}

const entered = 'booking status entered'

/** What of a booking can stop a run and be undone while it settles, by what is undone. */
const undoable: Readonly<Record<Undoing['undone'], readonly string[]>> = {
  everything: [...endings, 'booking moved', 'booking confirmed', entered],
  'the ending': [...endings, entered],
  'own status': [entered],
}

/** The runs that a change of a booking had stopped and that go on because it was undone while it settled. */
export function resumedRuns(
  { bookingId, since, undone }: Undoing,
  slice: Slice,
  context: EngineContext,
): readonly Effect[] {
  const { facts } = slice
  const own = [bookingId, ...invoicesOf(bookingId, facts)]
  const kinds = undoable[undone]
  return facts.runs
    .filter(
      (run) =>
        run.state === 'stopped' &&
        (run.stoppedAt ?? 0) >= since &&
        kinds.includes(run.stoppedOn ?? '') &&
        own.includes(run.subject.id),
    )
    .flatMap((run) => goesOnAgain(run, nameOfRun(slice, run), context))
}

/** Whether a move voids what a run that an earlier move had started has not sent yet. */
export function voidsEarlierMove(trigger: Trigger, slice: Slice): boolean {
  return slice.facts.runs.some((run) => run.state === 'running' && wasForAnEarlierMove(run, trigger, slice))
}
