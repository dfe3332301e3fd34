import type { KeptMailAccount } from './commands/mailAccountCommands.ts'
import type { Booking } from '../model/booking.ts'
import type { Business, Person, Service } from '../model/business.ts'
import type { Client } from '../model/client.ts'
import type { ClientImport } from '../model/clientImport.ts'
import type { ClientMerge, Dealings } from '../model/clientMerge.ts'
import type { DailyCap } from '../model/dailyCap.ts'
import type { Happening, Invoice } from '../model/dealings.ts'
import type { Enquiry } from '../model/enquiry.ts'
import type { Event } from '../model/event.ts'
import type { SignableDocument, Signing } from '../model/document.ts'
import type { Form, FormReceipt } from '../model/form.ts'
import type { FurtherAccount } from '../model/furtherAccount.ts'
import type { Noticing } from '../model/noticing.ts'
import type { IncomingMailbox } from '../model/incomingMailbox.ts'
import type { Letter, LetterContent, EnclosedFile, Passage } from '../model/letter.ts'
import type { Incoming } from '../model/incoming.ts'
import type { OwnStatus } from '../model/ownStatus.ts'
import type { Pipeline } from '../model/pipeline.ts'
import type { NoteWishes } from '../model/noteWishes.ts'
import type { OnePressMove, PressedMove } from '../model/onePressMove.ts'
import type { Send } from '../model/send.ts'
import type { Run, Sequence, SequenceVersion } from '../model/sequence.ts'
import { isSameAddress } from '../model/values.ts'
import type { Task } from '../model/task.ts'
import type { Undelivered } from '../model/undelivered.ts'
import type { WrittenAnswer } from '../model/writtenAnswer.ts'
import type { Variation } from '../model/variation.ts'
import type { ClientFacts, Settings } from '../planning/slice.ts'
import type { Announced } from './consequences/announced.ts'
import type { GoingOver, SequenceDesign } from './consequences/rollout.ts'

/** A moment at which the engine is to be asked again, named so that setting it twice is setting it once. */
export interface DueMoment {
  readonly kind:
    | 'settle ends'
    | 'own status settles'
    | 'own status comes'
    | 'event over'
    | 'branch decides'
    | 'condition decides'
    | 'goes stale'
    | 'booking completes'
  readonly key: string
  readonly clientId: string
  readonly at: number
}

/** What is being written about a sequence and is not in effect yet. */
export interface WrittenDesign {
  readonly sequenceId: string
  readonly design: SequenceDesign
  readonly revision: number
  readonly changedAt: number
  readonly personId: string | null
}

/** What is being written about a letter and is not published yet. */
export interface LetterDraft {
  readonly letterId: string
  readonly content: LetterContent
  readonly revision: number
  readonly changedAt: number
  readonly personId: string | null
}

/** A design or changed settings that go into effect client by client, beside everything else. */
export interface BegunRollout {
  readonly id: string
  /** Null: it is no design of a sequence. */
  readonly sequenceId: string | null
  readonly rollout: GoingOver
  readonly personId: string | null
  readonly startedAt: number
  /** What was announced, and when that was worked out; null: nothing was asked about. */
  readonly announced: { readonly at: number; readonly all: readonly Announced[] } | null
  readonly clientIds: readonly string[]
}

/**
 * What the engine wants done. It writes nothing itself: each shell applies the whole list in one
 * transaction. Putting an object replaces the one with the same id.
 */
export type Effect =
  | { readonly kind: 'put client'; readonly client: Client }
  /** Nothing is about them any more, or was. */
  | { readonly kind: 'remove client'; readonly id: string }
  /** What is of one client is of another from now on. */
  | {
      readonly kind: 'move to client'
      readonly fromId: string
      readonly toId: string
      readonly moved: Dealings
      /** Everything there is of the one. */
      readonly isWhole: boolean
    }
  | { readonly kind: 'put client merge'; readonly merge: ClientMerge }
  | { readonly kind: 'end client merge'; readonly id: string; readonly at: number }
  | { readonly kind: 'put client import'; readonly brought: ClientImport }
  | { readonly kind: 'end client import'; readonly id: string; readonly at: number }
  | { readonly kind: 'put booking'; readonly booking: Booking }
  /** The client has these times of a booking in hand now. */
  | { readonly kind: 'note told'; readonly bookingId: string; readonly told: Booking['told'] }
  | { readonly kind: 'put enquiry'; readonly enquiry: Enquiry }
  | { readonly kind: 'put invoice'; readonly invoice: Invoice }
  | { readonly kind: 'add happening'; readonly clientId: string; readonly happening: Happening }
  /** It was taken back by who brought it about. */
  | { readonly kind: 'remove happening'; readonly clientId: string; readonly happening: Happening }
  | { readonly kind: 'put run'; readonly run: Run }
  /** A run has come to rest, or has something to come again. */
  | { readonly kind: 'rest run'; readonly runId: string; readonly isAtRest: boolean }
  | { readonly kind: 'put send'; readonly send: Send }
  | { readonly kind: 'put task'; readonly task: Task }
  | { readonly kind: 'remove task'; readonly id: string }
  | { readonly kind: 'put incoming'; readonly incoming: Incoming }
  | { readonly kind: 'put written answer'; readonly answer: WrittenAnswer }
  /** What was said of an address; null: nothing any more. */
  | { readonly kind: 'put undelivered'; readonly address: string; readonly undelivered: Undelivered | null }
  | { readonly kind: 'put variation'; readonly variation: Variation }
  | { readonly kind: 'remove variation'; readonly id: string }
  | { readonly kind: 'put sequence'; readonly sequence: Sequence }
  | { readonly kind: 'put sequence version'; readonly version: SequenceVersion }
  | { readonly kind: 'remove sequence'; readonly id: string }
  | { readonly kind: 'put letter'; readonly letter: Letter; readonly personId: string | null }
  | { readonly kind: 'remove letter'; readonly id: string }
  | { readonly kind: 'put letter draft'; readonly draft: LetterDraft }
  | { readonly kind: 'remove letter draft'; readonly letterId: string }
  | { readonly kind: 'put passage'; readonly passage: Passage }
  | { readonly kind: 'remove passage'; readonly id: string }
  | { readonly kind: 'put file'; readonly file: EnclosedFile }
  | { readonly kind: 'add own word'; readonly word: string }
  | { readonly kind: 'put design'; readonly design: WrittenDesign }
  | { readonly kind: 'remove design'; readonly sequenceId: string }
  | { readonly kind: 'begin rollout'; readonly begun: BegunRollout }
  | { readonly kind: 'take up rollout'; readonly id: string }
  /** What was stopped of a sequence is not taken up any more. */
  | { readonly kind: 'give up rollouts'; readonly sequenceId: string }
  | { readonly kind: 'end rollout'; readonly id: string; readonly at: number; readonly isStopped: boolean }
  | { readonly kind: 'put business'; readonly business: Business }
  | { readonly kind: 'put service'; readonly service: Service }
  | { readonly kind: 'remove service'; readonly id: string }
  | { readonly kind: 'put person'; readonly person: Person }
  /** What somebody who has left still had to do is somebody else's. */
  | { readonly kind: 'hand tasks on'; readonly fromId: string; readonly toId: string }
  | { readonly kind: 'put own status'; readonly ownStatus: OwnStatus }
  | { readonly kind: 'remove own status'; readonly id: string }
  | { readonly kind: 'put pipeline'; readonly pipeline: Pipeline }
  | { readonly kind: 'remove pipeline'; readonly id: string }
  | { readonly kind: 'put document'; readonly document: SignableDocument }
  | { readonly kind: 'remove document'; readonly id: string }
  /** What was sent to be signed; `pdf`: the copy for both, once it is signed. */
  | { readonly kind: 'put signing'; readonly signing: Signing; readonly pdf: Uint8Array | null }
  | { readonly kind: 'put form'; readonly form: Form }
  | { readonly kind: 'remove form'; readonly id: string }
  | { readonly kind: 'put form receipt'; readonly receipt: FormReceipt }
  | { readonly kind: 'put one-press move'; readonly move: OnePressMove }
  | { readonly kind: 'remove one-press move'; readonly id: string }
  | { readonly kind: 'put pressed move'; readonly pressed: PressedMove }
  | { readonly kind: 'end pressed move'; readonly id: string; readonly at: number }
  | { readonly kind: 'renew calendar feed'; readonly id: string }
  | { readonly kind: 'set sending'; readonly isOn: boolean }
  | { readonly kind: 'set daily cap'; readonly cap: DailyCap }
  | { readonly kind: 'set sources kept'; readonly months: number | null }
  /** Null: messages go through the post office that came with it. */
  | { readonly kind: 'set mail account'; readonly kept: KeptMailAccount | null }
  | {
      readonly kind: 'put further account'
      readonly account: FurtherAccount
      readonly sealedPassword: string | null
    }
  | { readonly kind: 'remove further account'; readonly id: string }
  | {
      readonly kind: 'put incoming mailbox'
      readonly mailbox: IncomingMailbox
      readonly sealedPassword: string | null
      /** It is another folder now, with other mails in it. */
      readonly readsAnew: boolean
    }
  | { readonly kind: 'remove incoming mailbox'; readonly id: string }
  | { readonly kind: 'set public address'; readonly url: string | null }
  | { readonly kind: 'set only to'; readonly addresses: readonly string[] | null }
  | { readonly kind: 'set marked answers'; readonly isOn: boolean }
  | { readonly kind: 'set noticing'; readonly noticing: Noticing }
  | { readonly kind: 'set client noticed'; readonly clientId: string; readonly isNoticed: boolean }
  | { readonly kind: 'set note wishes'; readonly personId: string; readonly wishes: NoteWishes }
  | { readonly kind: 'append event'; readonly event: Event }
  | { readonly kind: 'set due moment'; readonly moment: DueMoment }
  | { readonly kind: 'clear due moment'; readonly moment: Pick<DueMoment, 'kind' | 'key'> }

function put<Item extends { readonly id: string }>(items: readonly Item[], item: Item): readonly Item[] {
  const index = items.findIndex((one) => one.id === item.id)
  return index < 0 ? [...items, item] : items.with(index, item)
}

const isSame = (one: Happening, other: Happening) =>
  one.kind === other.kind && one.name === other.name && one.at === other.at

/** One client's facts after some effects: how the engine looks at its own proposal before anything is stored. */
export function withEffects(facts: ClientFacts, effects: readonly Effect[]): ClientFacts {
  return effects.reduce((after: ClientFacts, effect) => {
    switch (effect.kind) {
      case 'put client':
        return { ...after, client: effect.client }
      case 'put booking':
        return { ...after, bookings: put(after.bookings, effect.booking) }
      case 'note told':
        return {
          ...after,
          bookings: after.bookings.map((one) =>
            one.id === effect.bookingId ? { ...one, told: effect.told } : one,
          ),
        }
      case 'put enquiry':
        return { ...after, enquiries: put(after.enquiries, effect.enquiry) }
      case 'put invoice':
        return { ...after, invoices: put(after.invoices, effect.invoice) }
      case 'add happening':
        return { ...after, happenings: [...after.happenings, effect.happening] }
      case 'remove happening':
        return { ...after, happenings: after.happenings.filter((one) => !isSame(one, effect.happening)) }
      case 'put run':
        return { ...after, runs: put(after.runs, effect.run) }
      case 'rest run': {
        const others = [...after.resting].filter((id) => id !== effect.runId)
        return { ...after, resting: new Set(effect.isAtRest ? [...others, effect.runId] : others) }
      }
      case 'put send':
        return { ...after, sends: put(after.sends, effect.send) }
      case 'put undelivered': {
        const others = after.undelivered.filter(({ address }) => !isSameAddress(address, effect.address))
        return { ...after, undelivered: effect.undelivered ? [...others, effect.undelivered] : others }
      }
      case 'put variation':
        return effect.variation.scope.of === 'client'
          ? { ...after, variations: put(after.variations, effect.variation) }
          : after
      case 'remove variation':
        return { ...after, variations: after.variations.filter(({ id }) => id !== effect.id) }
      default:
        return after
    }
  }, facts)
}

/** The sequences, letters and what differs in them, after an effect. */
function rulesWith(after: Settings, effect: Effect): Settings {
  switch (effect.kind) {
    case 'put sequence':
      return { ...after, sequences: put(after.sequences, effect.sequence) }
    case 'put sequence version': {
      const { sequenceId, version } = effect.version
      const others = after.sequenceVersions.filter(
        (one) => one.sequenceId !== sequenceId || one.version !== version,
      )
      return { ...after, sequenceVersions: [...others, effect.version] }
    }
    case 'remove sequence':
      return { ...after, sequences: after.sequences.filter(({ id }) => id !== effect.id) }
    case 'put letter':
      return { ...after, letters: put(after.letters, effect.letter) }
    case 'remove letter':
      return { ...after, letters: after.letters.filter(({ id }) => id !== effect.id) }
    case 'put passage':
      return { ...after, passages: put(after.passages, effect.passage) }
    case 'remove passage':
      return { ...after, passages: after.passages.filter(({ id }) => id !== effect.id) }
    case 'put variation':
      return effect.variation.scope.of === 'service'
        ? { ...after, variations: put(after.variations, effect.variation) }
        : after
    case 'remove variation':
      return { ...after, variations: after.variations.filter(({ id }) => id !== effect.id) }
    default:
      return after
  }
}

/** What the business is and has, after an effect. */
function businessWith(after: Settings, effect: Effect): Settings {
  switch (effect.kind) {
    case 'put business':
      return { ...after, business: effect.business }
    case 'put service':
      return { ...after, services: put(after.services, effect.service) }
    case 'remove service':
      return { ...after, services: after.services.filter(({ id }) => id !== effect.id) }
    case 'put person':
      return { ...after, people: put(after.people, effect.person) }
    case 'put further account':
      return { ...after, mailAccounts: put(after.mailAccounts, effect.account) }
    case 'remove further account':
      return { ...after, mailAccounts: after.mailAccounts.filter(({ id }) => id !== effect.id) }
    case 'put incoming mailbox':
      return { ...after, incomingMailboxes: put(after.incomingMailboxes, effect.mailbox) }
    case 'remove incoming mailbox':
      return { ...after, incomingMailboxes: after.incomingMailboxes.filter(({ id }) => id !== effect.id) }
    case 'put own status':
      return { ...after, ownStatuses: put(after.ownStatuses, effect.ownStatus) }
    case 'remove own status':
      return { ...after, ownStatuses: after.ownStatuses.filter(({ id }) => id !== effect.id) }
    case 'put pipeline':
      return { ...after, pipelines: put(after.pipelines, effect.pipeline) }
    case 'remove pipeline':
      return { ...after, pipelines: after.pipelines.filter(({ id }) => id !== effect.id) }
    case 'put document':
      return { ...after, documents: put(after.documents, effect.document) }
    case 'remove document':
      return { ...after, documents: after.documents.filter(({ id }) => id !== effect.id) }
    case 'put form':
      return { ...after, forms: put(after.forms, effect.form) }
    case 'remove form':
      return { ...after, forms: after.forms.filter(({ id }) => id !== effect.id) }
    case 'put one-press move':
      return { ...after, onePressMoves: put(after.onePressMoves, effect.move) }
    case 'remove one-press move':
      return { ...after, onePressMoves: after.onePressMoves.filter(({ id }) => id !== effect.id) }
    default:
      return rulesWith(after, effect)
  }
}

/** The settings after some effects. The same object where nothing in it changed. */
export const settingsWithEffects = (settings: Settings, effects: readonly Effect[]): Settings =>
  effects.reduce(businessWith, settings)
