import { factChangeWords, happeningOf, type FactChange } from '../../conditions/smallestChange.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Subject } from '../../model/subject.ts'
import { isBranch, type Step } from '../../model/step.ts'
import type { Settings, Slice } from '../../planning/slice.ts'
import { withStep } from '../../sequences/editing.ts'
import type { Trigger } from '../../sequences/startRules.ts'
import { confirmBooking } from '../commands/bookingCommands.ts'
import { setClientHeldBack } from '../commands/clientCommands.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import { recordHappening } from '../commands/dealingCommands.ts'
import { enterStage } from '../commands/enquiryCommands.ts'
import { payInvoice } from '../commands/paymentCommands.ts'
import { settingsWithEffects, withEffects, type Effect } from '../effects.ts'
import { include } from '../following/inclusion.ts'
import { tagged } from '../following/perform.ts'
import { conclude } from '../following/react.ts'
import { replan } from '../following/replan.ts'
import { decideSend } from '../commands/sendCommands.ts'
import { goLive } from '../commands/sequenceCommands.ts'

/** A single change that takes something out of a message's way. */
export type Remedy =
  /** Facts of the client, or of what a run is about. */
  | { readonly kind: 'facts'; readonly subject: Subject; readonly changes: readonly FactChange[] }
  | { readonly kind: 'switch sending on' }
  | { readonly kind: 'mark active' }
  | { readonly kind: 'release client' }
  | { readonly kind: 'go live' | 'go on'; readonly sequenceId: string }
  /** Started by hand for somebody who stood there before. */
  | { readonly kind: 'include'; readonly sequenceId: string; readonly trigger: Trigger }
  | { readonly kind: 'switch step on'; readonly sequenceId: string; readonly stepId: string }
  | { readonly kind: 'give address'; readonly contactId: string; readonly of: 'mail' | 'telephone' }
  | { readonly kind: 'read letter'; readonly letterId: string }
  | { readonly kind: 'send now'; readonly sendId: string }

/** Made-up addresses to try what an address would change. */
const triedAddress = 'somebody@client.example'
const triedPhone = '+49 000 5550199'

/** What is to be done, for a person who could do it. */
export function remedyWords(remedy: Remedy, { sequences, letters }: Settings): string {
  const sequenceName = (id: string) => sequences.find((one) => one.id === id)?.name ?? id
  switch (remedy.kind) {
    case 'facts':
      return remedy.changes.map(factChangeWords).join(' ')
    case 'switch sending on':
      return 'Switch sending on.'
    case 'mark active':
      return 'Mark the client as active.'
    case 'release client':
      return 'Let messages go to this client again.'
    case 'go live':
      return `Let “${sequenceName(remedy.sequenceId)}” go live.`
    case 'go on':
      return `Let “${sequenceName(remedy.sequenceId)}” go on.`
    case 'include':
      return `Include it by hand in “${sequenceName(remedy.sequenceId)}”, or let it happen again.`
    case 'switch step on':
      return 'Switch it on.'
    case 'give address':
      return remedy.of === 'mail'
        ? 'The recipient would need an address.'
        : 'The recipient would need a number.'
    case 'read letter':
      return `Publish “${letters.find(({ id }) => id === remedy.letterId)?.name ?? remedy.letterId}” first.`
    case 'send now':
      return 'A person can send it now.'
  }
}

/** Settings after a remedy, and what it brings about for the client. */
interface Remedied {
  readonly settings: Settings
  readonly effects: readonly Effect[]
}

const onlyClient = ({ settings }: Slice, effects: readonly Effect[]) => done({ settings, effects })
const ofClient = (slice: Slice, result: Result<readonly Effect[]>): Result<Remedied> =>
  result.ok ? onlyClient(slice, result.value) : result

function changedClient(
  slice: Slice,
  part: Partial<Slice['facts']['client']>,
  context: EngineContext,
): Result<Remedied> {
  const { client } = slice.facts
  const put: Effect = { kind: 'put client', client: { ...client, ...part, revision: client.revision + 1 } }
  const told = appendEvent(
    context,
    'client changed',
    { clientId: client.id },
    `Client changed: ${client.name}.`,
  )
  return onlyClient(slice, conclude(slice, [put, told], context))
}

function changedFact(slice: Slice, subject: Subject, change: FactChange, context: EngineContext) {
  const { client, bookings, invoices } = slice.facts
  const { field, to, has } = change
  const did = happeningOf(field)
  if (did !== null) return ofClient(slice, recordHappening(slice, did, '', context))
  switch (field) {
    case 'client.tag':
      return onlyClient(slice, conclude(slice, tagged(client, String(to), has, context), context))
    case 'client.list':
      return ofClient(slice, recordHappening(slice, has ? 'list joined' : 'list left', String(to), context))
    case 'client.language':
      return changedClient(slice, { language: to === 'de' ? 'de' : 'en' }, context)
    case 'client.takes promotional mail':
      return changedClient(slice, { takesPromotional: has === (to === true) }, context)
    case 'enquiry.stage':
      return ofClient(slice, enterStage(slice, subject.id, String(to), context))
    case 'invoice.paid':
      return ofClient(slice, payInvoice(slice, subject.id, context))
    case 'booking.status': {
      const bookingId = invoices.find(({ id }) => id === subject.id)?.bookingId ?? subject.id
      const revision = bookings.find(({ id }) => id === bookingId)?.revision ?? 0
      return ofClient(slice, confirmBooking(slice, bookingId, revision, context))
    }
    default:
      return refused<Remedied>('not allowed now', `${field} cannot be changed.`)
  }
}

function changedFacts(
  slice: Slice,
  { subject, changes }: Extract<Remedy, { kind: 'facts' }>,
  context: EngineContext,
): Result<Remedied> {
  let effects: readonly Effect[] = []
  for (const change of changes) {
    const present = { ...slice, facts: withEffects(slice.facts, effects) }
    const next = changedFact(present, subject, change, context)
    if (!next.ok) return next
    effects = [...effects, ...next.value.effects]
  }
  return onlyClient(slice, effects)
}

function underOther(slice: Slice, settings: Settings, context: EngineContext): Result<Remedied> {
  return done({ settings, effects: replan({ ...slice, settings }, context) })
}

function switchedOn(slice: Slice, sequenceId: string, stepId: string, context: EngineContext) {
  const { settings, facts } = slice
  const isOther = (one: { sequenceId: string; stepId: string; isOff: boolean | null }) =>
    one.sequenceId !== sequenceId || one.stepId !== stepId || one.isOff !== true
  const own = facts.variations.filter((one) => !isOther(one))
  const removed = own.map(({ id }): Effect => ({ kind: 'remove variation', id }))
  const on = (step: Step) => (isBranch(step) ? step : { ...step, isOff: false })
  const general = settings.sequenceVersions.map((version) =>
    version.sequenceId === sequenceId
      ? {
          ...version,
          steps: [...withStep(version.steps, stepId, on)],
        }
      : version,
  )
  const after = { ...settings, sequenceVersions: general, variations: settings.variations.filter(isOther) }
  const present = { settings: after, facts: withEffects(facts, removed) }
  return done({ settings: after, effects: [...removed, ...replan(present, context)] })
}

function addressed(
  slice: Slice,
  { contactId, of }: Extract<Remedy, { kind: 'give address' }>,
  context: EngineContext,
) {
  const contacts = slice.facts.client.contacts.map((one) =>
    one.id !== contactId
      ? one
      : of === 'mail'
        ? { ...one, email: triedAddress }
        : { ...one, phone: triedPhone },
  )
  return changedClient(slice, { contacts }, context)
}

/** What a remedy brings about; refused where it cannot be done. */
export function remedied(slice: Slice, remedy: Remedy, context: EngineContext): Result<Remedied> {
  const { settings } = slice
  switch (remedy.kind) {
    case 'facts':
      return changedFacts(slice, remedy, context)
    case 'switch sending on':
      return underOther(slice, { ...settings, isSendingOn: true }, context)
    case 'mark active':
      return changedClient(slice, { isActive: true }, context)
    case 'release client':
      return ofClient(slice, setClientHeldBack(slice, false, context))
    case 'go live':
    case 'go on': {
      const live = goLive(settings, remedy.sequenceId, context)
      return live.ok ? underOther(slice, settingsWithEffects(settings, live.value), context) : live
    }
    case 'include': {
      const sequence = settings.sequences.find(({ id }) => id === remedy.sequenceId)
      if (!sequence) return refused('not found', 'There is no such sequence.')
      return onlyClient(slice, include(sequence, [remedy.trigger], slice, context))
    }
    case 'switch step on':
      return switchedOn(slice, remedy.sequenceId, remedy.stepId, context)
    case 'give address':
      return addressed(slice, remedy, context)
    case 'read letter': {
      const letters = settings.letters.map((one) =>
        one.id === remedy.letterId ? { ...one, isStarter: false } : one,
      )
      return underOther(slice, { ...settings, letters }, context)
    }
    case 'send now':
      return ofClient(slice, decideSend(slice, remedy.sendId, 'send now', context))
  }
}
