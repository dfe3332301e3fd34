import type { Reason } from '../model/send.ts'
import { whyHeldBack } from './reasons.ts'
import type { Slice } from './slice.ts'

/** What a switch, a pause or a client held back is named by. */
export const heldCodes: readonly string[] = Object.values(whyHeldBack).map(({ code }) => code)

/** Why nothing of a sequence leaves for a client at present, whatever is planned: a switch, a pause; null: nothing does. */
export function heldBackBy(sequenceId: string, { settings, facts }: Slice): Reason | null {
  if (!settings.isSendingOn) return whyHeldBack.sendingOff
  if (facts.client.isHeldBack) return whyHeldBack.clientHeldBack
  const state = settings.sequences.find(({ id }) => id === sequenceId)?.state
  return state === 'paused' ? whyHeldBack.sequencePaused : null
}
