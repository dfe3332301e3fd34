import type { FactChange } from '../conditions/smallestChange.ts'
import { remedied, remedyWords, type Remedy } from '../engine/consequences/remedies.ts'
import { hypothetical } from '../engine/consequences/consequences.ts'
import { withEffects } from '../engine/effects.ts'
import { standingTriggers } from '../engine/following/inclusion.ts'
import { whyNoRun, type WhyNot } from '../engine/consequences/whyNot.ts'
import { whyNoSend } from '../engine/consequences/whyNoSend.ts'
import type { Send } from '../model/send.ts'
import type { Sequence, StartRule } from '../model/sequence.ts'
import type { StartEvent } from '../model/startEvent.ts'
import type { Subject } from '../model/subject.ts'
import { isMessage, type PlainStep } from '../model/step.ts'
import { aboutOf, serviceIdOf } from '../planning/about.ts'
import { serviceOf, versionOf, type ClientFacts, type Slice } from '../planning/slice.ts'
import { eventWords } from '../sequences/eventWords.ts'
import { isNamed, subjectOfTrigger, type Trigger } from '../sequences/startRules.ts'
import { plainSteps } from '../sequences/steps.ts'
import { variedStep } from '../sequences/variations.ts'

/** Which message is asked for: a step of a sequence, for what it would work for. */
export interface Question {
  readonly sequenceId: string
  readonly stepId: string
  readonly subject: Subject
}

/** Why a message does not come, and all that would have to change for it to come. */
export interface WhyNotAnswer extends Question {
  /** The message, where there is one. */
  readonly send: Pick<Send, 'id' | 'state' | 'dueAt' | 'sentAt'> | null
  /** The first thing in its way; null: it has gone or will. */
  readonly because: WhyNot | null
  /** The changes, one after the other, that bring it on its way, the first of them for what stands first. */
  readonly changes: readonly Remedy[]
  /** The same in words. */
  readonly words: readonly string[]
  /** Whether it comes once all of them are made; tried with the planner. */
  readonly comesThen: boolean
  /** What is in its way even then; null: nothing. */
  readonly still: WhyNot | null
}

const oneFact = (subject: Subject, field: FactChange['field'], to: string | boolean): Remedy => ({
  kind: 'facts',
  subject,
  changes: [{ field, to, has: true }],
})

type EventRemedy = (facts: ClientFacts, name: string | null) => Remedy | null

/** Nobody can let it happen by changing a fact. */
const byNobody: EventRemedy = () => null

const clientsFact =
  (field: FactChange['field'], hasName: boolean): EventRemedy =>
  ({ client }, name) => {
    if (hasName !== (name !== null)) return null
    return oneFact({ kind: 'client', id: client.id }, field, name ?? true)
  }

/** What somebody can do so that an event happens. */
const eventRemedies: Readonly<Record<StartEvent, EventRemedy>> = {
  'booking made or confirmed': byNobody,
  'booking requested': byNobody,
  'booking confirmed': ({ bookings }) => {
    const booking = bookings.find(({ status }) => status === 'requested')
    return booking ? oneFact({ kind: 'booking', id: booking.id }, 'booking.status', 'confirmed') : null
  },
  'booking moved': byNobody,
  'booking cancelled': byNobody,
  'booking completed': byNobody,
  'booking missed': byNobody,
  'booking status entered': ({ bookings }, name) => {
    const booking = bookings.at(-1)
    return booking && name !== null
      ? oneFact({ kind: 'booking', id: booking.id }, 'booking.own status', name)
      : null
  },
  'enquiry received': byNobody,
  'enquiry stage entered': ({ enquiries }, name) => {
    const enquiry = enquiries.at(-1)
    return enquiry && name !== null
      ? oneFact({ kind: 'enquiry', id: enquiry.id }, 'enquiry.stage', name)
      : null
  },
  'booking move pressed': byNobody,
  'enquiry move pressed': byNobody,
  'invoice issued': byNobody,
  'invoice paid': ({ invoices }) => {
    const invoice = invoices.find(({ paidAt }) => paidAt === null)
    return invoice ? oneFact({ kind: 'invoice', id: invoice.id }, 'invoice.paid', true) : null
  },
  'tag added': clientsFact('client.tag', true),
  'list joined': clientsFact('client.list', true),
  'form received': clientsFact('since the run started: form received', false),
  signed: clientsFact('since the run started: signed', false),
  'date known': byNobody,
}

function nothingHappened(sequence: Sequence, slice: Slice): WhyNot {
  const { start } = versionOf(slice.settings, sequence.id, sequence.currentVersion)
  const wanted = eventWords(start)
  return {
    code: 'another event',
    sentence: `It starts when ${wanted}; there is nothing of the kind with this client.`,
    change: `It would have to happen that ${wanted}.`,
    remedy: eventRemedies[start.on](slice.facts, start.name),
  }
}

/** What happened and leaves nobody standing anywhere, with the moment at which it last did. */
function pastTriggers(
  { on }: Pick<StartRule, 'on'>,
  { client, bookings, invoices }: ClientFacts,
): readonly Trigger[] {
  const at = (subject: Subject, moment: number | null): readonly Trigger[] =>
    moment === null ? [] : [{ on, name: '', subject, at: moment, clientId: client.id }]
  if (on === 'booking moved')
    return bookings.flatMap(({ id, history }) => at({ kind: 'booking', id }, history.movedAt))
  if (on === 'invoice paid') return invoices.flatMap(({ id, paidAt }) => at({ kind: 'invoice', id }, paidAt))
  return []
}

/** Why what happened once did not start a sequence; null: it never happened, or nothing was in its way. */
function whyNotThen(sequence: Sequence, subject: Subject, slice: Slice): WhyNot | null {
  const { start } = versionOf(slice.settings, sequence.id, sequence.currentVersion)
  const trigger = pastTriggers(start, slice.facts).find((one) => isFor(one, subject))
  const why = trigger && whyNoRun(sequence, trigger, slice)
  if (why?.code !== 'before going live') return why ?? null
  return { ...why, change: `It would have to happen once more that ${eventWords(start)}.`, remedy: null }
}

const isFor = (trigger: Trigger, { kind, id }: Subject) => {
  const subject = subjectOfTrigger(trigger)
  return subject.kind === kind && subject.id === id
}

/** Why there is no run: its rules are asked as if what would start it happened now. */
function whyNoRunNow(sequence: Sequence, subject: Subject, slice: Slice, now: number): WhyNot {
  const { settings } = slice
  const { start } = versionOf(settings, sequence.id, sequence.currentVersion)
  const triggers = standingTriggers(sequence, slice, now).filter(
    (one) => isFor(one, subject) && isNamed(start.on, start.name, one.name),
  )
  const [trigger] = triggers
  if (!trigger) return whyNotThen(sequence, subject, slice) ?? nothingHappened(sequence, slice)
  const asLive: Sequence = { ...sequence, state: 'live', liveSince: now - 1 }
  const inTheWay = whyNoRun(asLive, trigger, slice)
  if (inTheWay) return inTheWay
  const remedy: Remedy = { kind: 'include', sequenceId: sequence.id, trigger }
  const sentence = 'Its rules hold now, but it was not started: that happened earlier.'
  return { code: 'before going live', sentence, change: remedyWords(remedy, settings), remedy }
}

/** What keeps everything of a sequence from a client. */
function inGeneral(sequence: Sequence, { settings, facts }: Slice): WhyNot | null {
  const why = (code: string, sentence: string, remedy: Remedy): WhyNot => ({
    code,
    sentence,
    change: remedyWords(remedy, settings),
    remedy,
  })
  const { client } = facts
  if (!settings.isSendingOn)
    return why('sending off', 'All sending is held back.', { kind: 'switch sending on' })
  if (!client.isActive)
    return why('client inactive', 'The client is marked inactive.', { kind: 'mark active' })
  if (client.isHeldBack)
    return why('client held back', 'Everything to this client is held back.', { kind: 'release client' })
  const { id: sequenceId, name, state } = sequence
  if (state === 'draft') return why('not live', `“${name}” is a draft.`, { kind: 'go live', sequenceId })
  if (state === 'paused') return why('paused', `“${name}” is paused.`, { kind: 'go on', sequenceId })
  return null
}

const runFor = ({ facts }: Slice, { sequenceId, subject }: Question) => {
  const own = facts.runs.filter(
    (run) =>
      run.sequenceId === sequenceId && run.subject.kind === subject.kind && run.subject.id === subject.id,
  )
  return own.find(({ state }) => state === 'running') ?? own.at(-1)
}

const sendsFor = ({ facts }: Slice, { sequenceId, stepId, subject }: Question) =>
  facts.sends.filter(
    (send) => send.sequenceId === sequenceId && send.stepId === stepId && send.subject.id === subject.id,
  )

/** The first thing in the way of a message; null: it has gone or will. */
export function whyNotOne(question: Question, slice: Slice, now: number): WhyNot | null {
  const sequence = slice.settings.sequences.find(({ id }) => id === question.sequenceId)
  if (!sequence) return { code: 'no step', sentence: 'There is no such sequence.', change: '', remedy: null }
  if (sendsFor(slice, question).some(({ state }) => state === 'sent')) return null
  const general = inGeneral(sequence, slice)
  if (general) return general
  const run = runFor(slice, question)
  if (run?.state === 'running') return whyNoSend(run, question.stepId, slice, now)
  const why = whyNoRunNow(sequence, question.subject, slice, now)
  if (!run || why.code !== 'has run') return why
  return { ...why, code: 'stopped', sentence: `It has stopped: ${run.stoppedReason ?? 'it has ended.'}` }
}

/** More changes than this are no small change any more. */
const mostChanges = 8

/** All that would have to change, found by making one change after the other in thought. */
function answered(question: Question, slice: Slice, now: number): WhyNotAnswer {
  const context = hypothetical(now)
  const because = whyNotOne(question, slice, now)
  const found = sendsFor(slice, question).toSorted((one, other) => other.stateSince - one.stateSince)[0]
  const send = found ? { id: found.id, state: found.state, dueAt: found.dueAt, sentAt: found.sentAt } : null
  const changes: Remedy[] = []
  let present = slice
  let why = because
  while (why?.remedy && changes.length < mostChanges) {
    const next = remedied(present, why.remedy, context)
    if (!next.ok) break
    changes.push(why.remedy)
    const { settings, effects } = next.value
    present = { settings, facts: withEffects(present.facts, effects) }
    why = whyNotOne(question, present, now)
  }
  const words = changes.map((remedy) => remedyWords(remedy, slice.settings))
  return { ...question, send, because, changes, words, comesThen: why === null, still: why }
}

/** That a step sends another letter than the one asked for to what it would be about; null: it sends that one. */
function otherLetter(
  question: Question,
  general: PlainStep,
  letterId: string,
  { settings, facts }: Slice,
): WhyNotAnswer | null {
  const serviceId = serviceIdOf(aboutOf(question.subject, facts))
  const all = { ofServices: settings.variations, ofClient: facts.variations }
  const { step } = variedStep(general, question.sequenceId, serviceId, all)
  if (step.kind !== 'mail') return null
  if (step.letterId === letterId || step.recipients.some((one) => one.letterId === letterId)) return null
  const nameOf = (id: string) => settings.letters.find((one) => one.id === id)?.name ?? id
  const forWhom = serviceId === null ? 'here' : `for ${serviceOf(settings, serviceId).name}`
  const still = {
    code: 'another letter',
    sentence: `This step sends “${nameOf(step.letterId)}” ${forWhom}, and “${nameOf(letterId)}” elsewhere.`,
    change: `The step would have to send “${nameOf(letterId)}” ${forWhom}.`,
    remedy: null,
  }
  return { ...question, send: null, because: still, changes: [], words: [], comesThen: false, still }
}

/** Subjects a sequence has run for, or could. */
function subjectsOf(sequence: Sequence, slice: Slice, now: number): readonly Subject[] {
  const ofRuns = slice.facts.runs
    .filter((run) => run.sequenceId === sequence.id)
    .map(({ subject }) => subject)
  const { start } = versionOf(slice.settings, sequence.id, sequence.currentVersion)
  const triggers = [...standingTriggers(sequence, slice, now), ...pastTriggers(start, slice.facts)]
  const ofTriggers = triggers.map(subjectOfTrigger)
  const all = [...ofRuns, ...ofTriggers]
  const once = all.filter(
    (one, index) => all.findIndex(({ kind, id }) => kind === one.kind && id === one.id) === index,
  )
  if (once.length > 0) return once.slice(-mostSubjects)
  const remedy = eventRemedies[start.on](slice.facts, start.name)
  return [remedy?.kind === 'facts' ? remedy.subject : { kind: 'client', id: slice.facts.client.id }]
}

const mostSubjects = 6

/** What somebody asks about: a whole sequence, or a letter wherever it is sent. */
export type Asked = { readonly sequenceId: string } | { readonly letterId: string }

/**
 * Why a client does not get a letter, or the messages of a sequence: for each step and each booking, enquiry or invoice
 * it would be about.
 */
export function whyNotAsked(asked: Asked, slice: Slice, now: number): readonly WhyNotAnswer[] {
  const { settings, facts } = slice
  const sequences = settings.sequences.filter(
    (one) => !('sequenceId' in asked) || one.id === asked.sequenceId,
  )
  const letterId = 'letterId' in asked ? asked.letterId : null
  return sequences.flatMap((sequence) => {
    const { steps } = versionOf(settings, sequence.id, sequence.currentVersion)
    const sends = (letterId: string) => (step: ReturnType<typeof plainSteps>[number]) =>
      (step.kind === 'mail' && step.letterId === letterId) ||
      (isMessage(step) && step.recipients.some((one) => one.letterId === letterId)) ||
      [...settings.variations, ...facts.variations].some(
        (one) => one.sequenceId === sequence.id && one.stepId === step.id && one.letterId === letterId,
      )
    const own = plainSteps(steps).filter('letterId' in asked ? sends(asked.letterId) : isMessage)
    if (own.length === 0) return []
    return subjectsOf(sequence, slice, now).flatMap((subject) =>
      own.map((step) => {
        const question = { sequenceId: sequence.id, stepId: step.id, subject }
        const other = letterId === null ? null : otherLetter(question, step, letterId, slice)
        return other ?? answered(question, slice, now)
      }),
    )
  })
}
