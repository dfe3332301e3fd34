import { dueMomentOrder } from '#core/engine/following/dueMoments.ts'
import type { DueMoment } from '#core/engine/effects.ts'
import type { Statements } from '../../db/statements.ts'
import type { Application } from '../application.ts'
import type { NoteMoment, TeamNotes } from './teamNotes.ts'
import { rolloutDue } from '../rollouts/rolloutSteps.ts'

/** What falls due. */
export type Due =
  | DueMoment
  | { readonly kind: 'sends'; readonly at: number }
  | { readonly kind: 'rollout'; readonly at: number; readonly key: string }
  | { readonly kind: 'note'; readonly at: number; readonly note: NoteMoment }

/** The order of kinds at one instant, as the query asks for it. */
const kinds = `|${dueMomentOrder.join('|')}|`

/** The first fact that has fallen due up to a moment and is not handled yet. */
export function earliestDueMoment(statements: Statements, until: number): DueMoment | null {
  const row = statements.one('earliestDueMoment', { until, kinds })
  return row
    ? {
        at: Number(row['at']),
        kind: row['kind'] as DueMoment['kind'],
        key: String(row['key']),
        clientId: String(row['clientId']),
      }
    : null
}

/** When the next message goes; null: none does, or sending is held back. */
export function nextMessageAt({ settings, store }: Application): number | null {
  if (!settings.current()?.isSendingOn) return null
  const at = store.statements.one('earliestDueSend')?.['at']
  return typeof at === 'number' ? at : null
}

export interface Asked {
  readonly until: number
  /** Whether sendings come in between; else they go on beside. */
  readonly withSends: boolean
  /** Null: notes are not looked for. */
  readonly notes: TeamNotes | null
}

/** What comes first; at one instant facts, then a step of a rollout, then notes to the team, then sendings. */
export function earliest(application: Application, { until, withSends, notes }: Asked): Due | null {
  const moment = earliestDueMoment(application.store.statements, until)
  const note = notes?.next(until) ?? null
  const sendAt = withSends ? nextMessageAt(application) : null
  const inOrder: readonly (Due | null)[] = [
    moment,
    rolloutDue(application),
    note && { kind: 'note', at: note.at, note },
    sendAt === null || sendAt > until ? null : { kind: 'sends', at: sendAt },
  ]
  return inOrder.reduce((first, one) => (one && (!first || one.at < first.at) ? one : first), null)
}
