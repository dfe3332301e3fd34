import { catchUp } from '#core/engine/following/catchUp.ts'
import type { Send } from '#core/model/send.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { dateAndTime } from '#core/time/format.ts'
import type { Clock, ClockJump } from './clock.ts'
import type { Application } from '../application.ts'
import { forOverdue, overdueSends } from '../sending/overdue.ts'
import { onlyLiving } from '../../db/livingStore.ts'

/** Ordinary delay of a process that is busy; only what is later than this counts as due while it was off. */
const ordinaryDelayMs = minuteMs

/** What of the messages that fell due while nothing went out still goes, and what is missed: nothing is done yet. */
export function catchUpEffects(application: Application, now: number) {
  const context = { ...application.context(null), now }
  const overdue = overdueSends(application, now - ordinaryDelayMs)
  return forOverdue(application, overdue, (own, slice) => catchUp(own, slice, context))
}

/** So many clients are named; the rest is counted. */
const mostNamed = 5

function named(application: Application, clientIds: readonly string[]): string {
  const names = [...new Set(clientIds)].map(
    (id) => application.readableSliceOf(id, onlyLiving)?.facts.client.name ?? 'somebody who cannot be read',
  )
  const more = names.length - mostNamed
  const first = names.slice(0, mostNamed).join(', ')
  return more > 0 ? `${first} and ${more} more` : first
}

/** How many things, each of a client, something would become of; null: none. */
function sentence(
  application: Application,
  clientIds: readonly string[],
  [one, many]: readonly [one: string, many: string],
  becomes: string,
): string | null {
  const count = clientIds.length
  return count === 0
    ? null
    : `${count} ${count === 1 ? one : many} ${becomes}: ${named(application, clientIds)}.`
}

/** What would come of it if the machine's clock were right, in sentences. */
function consequencesOf(application: Application, { machineAt }: ClockJump): string[] {
  const isMissed = (send: Send) => send.state === 'missed'
  const missed = catchUpEffects(application, machineAt).flatMap((effect) =>
    effect.kind === 'put send' && isMissed(effect.send) ? [effect.send] : [],
  )
  const completing = application.store.statements
    .all('momentsDue', { until: machineAt, kind: 'booking completes' })
    .map((row) => String(row['clientId']))
  const messages = [...new Map(missed.map((send) => [send.id, send.clientId])).values()]
  return [
    sentence(application, messages, ['message', 'messages'], 'would be missed'),
    sentence(application, completing, ['booking', 'bookings'], 'would count as completed'),
  ].flatMap((one) => one ?? [])
}

/** What a person has to know of a clock that has jumped. */
export interface JumpTrouble {
  readonly sentence: string
  readonly lines: readonly string[]
  /** What the machine's clock says, to be said back by whoever trusts it. */
  readonly machineAt: number
}

export function jumpTrouble(application: Application): JumpTrouble | null {
  const jump = application.clock.jump()
  const settings = application.settings.current()
  if (!jump || !settings) return null
  const zone = settings.zones.zone(settings.business.zone)
  const [from, to] = [dateAndTime(zone, jump.heldAt), dateAndTime(zone, jump.machineAt)]
  return {
    sentence: `The clock of this computer jumped from ${from} to ${to}. Nothing goes out until it is set right, or until you say that it is right now.`,
    lines: consequencesOf(application, jump),
    machineAt: jump.machineAt,
  }
}

/** Notices that the clock has jumped or come back, and calls each once. */
export function watchJumps(clock: Clock, onChange: () => void): () => void {
  let hasJumped = false
  return () => {
    if ((clock.jump() !== null) === hasJumped) return
    hasJumped = !hasJumped
    onChange()
  }
}
