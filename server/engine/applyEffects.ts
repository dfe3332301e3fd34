import type { Effect } from '#core/engine/effects.ts'
import {
  putBooking,
  putClient,
  putEnquiry,
  putInvoice,
  putRun,
  putTask,
  putVariation,
} from '../db/clientStore.ts'
import { sequenceDesign } from '#core/engine/rollout.ts'
import { happening } from '#core/model/dealings.ts'
import { noteWishes } from '#core/model/noteWishes.ts'
import { asJson, flag, kept } from '../db/columns.ts'
import { appendEvent } from '../db/eventStore.ts'
import { putLetter, putPassage } from '../db/letterStore.ts'
import { putSend } from '../db/sendStore.ts'
import { addSequenceVersion, putSequence } from '../db/settingsStore.ts'
import type { Statements } from '../db/statements.ts'

type LetterEffect = Extract<
  Effect,
  { kind: 'put letter' | 'remove letter' | 'put passage' | 'remove passage' }
>

function applyLetterEffect(statements: Statements, effect: LetterEffect) {
  switch (effect.kind) {
    case 'put letter':
      putLetter(statements, effect.letter, effect.personId)
      return
    case 'remove letter':
      statements.run('removeLetter', { id: effect.id })
      return
    case 'put passage':
      putPassage(statements, effect.passage)
      return
    case 'remove passage':
      statements.run('removePassage', { id: effect.id })
      return
  }
}

type SequenceEffect = Extract<Effect, { kind: 'put sequence' | 'put sequence version' | 'remove sequence' }>

function applySequenceEffect(statements: Statements, effect: SequenceEffect) {
  switch (effect.kind) {
    case 'put sequence':
      putSequence(statements, effect.sequence)
      return
    case 'put sequence version':
      addSequenceVersion(statements, effect.version)
      return
    case 'remove sequence':
      statements.run('removeSequenceVersions', { id: effect.id })
      statements.run('removeSequence', { id: effect.id })
      return
  }
}

type WrittenEffect = Extract<
  Effect,
  {
    kind: 'put file' | 'add own word' | 'put design' | 'remove design' | 'set sending' | 'set note wishes'
  }
>

function applyWrittenEffect(statements: Statements, effect: WrittenEffect) {
  switch (effect.kind) {
    case 'put file':
      statements.run('putFile', { ...effect.file, bytes: Buffer.from(effect.file.bytes) })
      return
    case 'add own word':
      statements.run('addOwnWord', { word: effect.word })
      return
    case 'put design': {
      const { design, ...plain } = effect.design
      statements.run('putDesign', { ...plain, designJson: asJson(kept(sequenceDesign, design)) })
      return
    }
    case 'remove design':
      statements.run('removeDesign', { sequenceId: effect.sequenceId })
      return
    case 'set sending':
      statements.run('setSendingOn', { isSendingOn: flag(effect.isOn) })
      return
    case 'set note wishes':
      statements.run('setNoteWishes', {
        personId: effect.personId,
        notesJson: asJson(kept(noteWishes, effect.wishes)),
      })
      return
  }
}

type FactEffect = Extract<
  Effect,
  {
    kind:
      | 'put client'
      | 'put booking'
      | 'note told'
      | 'put enquiry'
      | 'put invoice'
      | 'add happening'
      | 'put run'
      | 'put send'
      | 'put task'
      | 'put variation'
      | 'remove variation'
  }
>

function applyFactEffect(statements: Statements, effect: FactEffect) {
  switch (effect.kind) {
    case 'put client':
      putClient(statements, effect.client)
      return
    case 'put booking':
      putBooking(statements, effect.booking)
      return
    case 'note told': {
      const toldJson = asJson(effect.told)
      statements.run('noteTold', { id: effect.bookingId, toldJson })
      return
    }
    case 'put enquiry':
      putEnquiry(statements, effect.enquiry)
      return
    case 'put invoice':
      putInvoice(statements, effect.invoice)
      return
    case 'add happening':
      statements.run('addHappening', { clientId: effect.clientId, ...kept(happening, effect.happening) })
      return
    case 'put run':
      putRun(statements, effect.run)
      return
    case 'put send':
      putSend(statements, effect.send)
      return
    case 'put task':
      putTask(statements, effect.task)
      return
    case 'put variation':
      putVariation(statements, effect.variation)
      return
    case 'remove variation':
      statements.run('removeVariation', { id: effect.id })
      return
  }
}

function applyEffect(statements: Statements, effect: Effect) {
  switch (effect.kind) {
    case 'put client':
    case 'put booking':
    case 'note told':
    case 'put enquiry':
    case 'put invoice':
    case 'add happening':
    case 'put run':
    case 'put send':
    case 'put task':
    case 'put variation':
    case 'remove variation':
      applyFactEffect(statements, effect)
      return
    case 'put sequence':
    case 'put sequence version':
    case 'remove sequence':
      applySequenceEffect(statements, effect)
      return
    case 'put letter':
    case 'remove letter':
    case 'put passage':
    case 'remove passage':
      applyLetterEffect(statements, effect)
      return
    case 'put file':
    case 'add own word':
    case 'put design':
    case 'remove design':
    case 'set sending':
    case 'set note wishes':
      applyWrittenEffect(statements, effect)
      return
    case 'append event':
      appendEvent(statements, effect.event)
      return
    case 'set due moment':
      statements.run('setDueMoment', { ...effect.moment })
      return
    case 'clear due moment':
      statements.run('clearDueMoment', { ...effect.moment })
      return
  }
}

/** Writes what the engine wants done. Called within the transaction of a command, never outside one. */
export function applyEffects(statements: Statements, effects: readonly Effect[]) {
  for (const effect of effects) applyEffect(statements, effect)
}
