import type { Effect } from '#core/engine/effects.ts'
import { putBooking, putClient, putEnquiry, putRun } from '../db/clientStore.ts'
import { appendEvent } from '../db/eventStore.ts'
import { putSend } from '../db/sendStore.ts'
import type { Statements } from '../db/statements.ts'

function applyEffect(statements: Statements, effect: Effect) {
  switch (effect.kind) {
    case 'put client':
      putClient(statements, effect.client)
      return
    case 'put booking':
      putBooking(statements, effect.booking)
      return
    case 'put enquiry':
      putEnquiry(statements, effect.enquiry)
      return
    case 'put invoice':
      statements.run('putInvoice', effect.invoice)
      return
    case 'add happening':
      statements.run('addHappening', { clientId: effect.clientId, ...effect.happening })
      return
    case 'put run':
      putRun(statements, effect.run)
      return
    case 'put send':
      putSend(statements, effect.send)
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
