import type { Send } from '../../model/send.ts'
import { messageName } from '../../planning/difference.ts'
import type { Effect } from '../effects.ts'

const reason = { code: 'held back', sentence: 'A person wants to see it first.' }

function held(send: Send, now: number): Send {
  const decision = { ...send.decision, isHeldBack: true }
  if (send.state !== 'ready') return { ...send, decision }
  return { ...send, decision, state: 'waiting', reason, stateSince: now }
}

/** Effects in which single messages, named as in a difference, wait for a person instead of going. */
export function heldBack(
  effects: readonly Effect[],
  names: readonly string[],
  now: number,
): readonly Effect[] {
  if (names.length === 0) return effects
  return effects.map((effect) =>
    effect.kind === 'put send' && names.includes(messageName(effect.send))
      ? { ...effect, send: held(effect.send, now) }
      : effect,
  )
}

/** The same for an act on a booking: messages that follow only once it has settled are held back then. */
export function bookingHeldBack(
  effects: readonly Effect[],
  names: readonly string[],
  now: number,
): readonly Effect[] {
  if (names.length === 0) return effects
  return heldBack(effects, names, now).map((effect) =>
    effect.kind === 'put booking' && effect.booking.settling
      ? {
          ...effect,
          booking: { ...effect.booking, settling: { ...effect.booking.settling, holdBack: [...names] } },
        }
      : effect,
  )
}
