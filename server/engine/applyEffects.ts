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
import { happening } from '#core/model/dealings.ts'
import { asJson, kept } from '../db/columns.ts'
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

function applyEffect(statements: Statements, effect: Effect) {
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
