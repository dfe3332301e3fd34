import type { Reason } from '../model/send.ts'
import type { Slice } from './slice.ts'

/** What a switch, a pause or a client held back is named by. */
export const heldCodes: readonly string[] = ['sending off', 'client held back', 'sequence paused']

/** Why nothing of a sequence leaves for a client at present, whatever is planned: a switch, a pause; null: nothing does. */
export function heldBackBy(sequenceId: string, { settings, facts }: Slice): Reason | null {
  if (!settings.isSendingOn) return { code: 'sending off', sentence: 'Sending is held back.' }
  if (facts.client.isHeldBack) {
    return { code: 'client held back', sentence: 'Everything to this client is held back.' }
  }
  const state = settings.sequences.find(({ id }) => id === sequenceId)?.state
  return state === 'paused' ? { code: 'sequence paused', sentence: 'Its sequence is paused.' } : null
}
