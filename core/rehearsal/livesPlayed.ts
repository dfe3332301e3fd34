import type { Send } from '../model/send.ts'
import { isOpen } from '../planning/answers.ts'
import type { Act } from './acts.ts'
import { BundleFault, clientsOf, settingsOf } from './bundleSettings.ts'
import { actOf, bookingAct, momentOfTurn, type LifePlan, type Sight } from './lives.ts'
import { outside } from './playing.ts'
import { playOn } from './playBundle.ts'
import { createWorld, type World } from './world.ts'

function sightOf(world: World, earlier: Sight['earlier']): Sight {
  const { settings, facts } = world.slice()
  const [booking] = facts.bookings
  const { startAt = 0, endAt = 0 } = booking ?? {}
  return {
    now: world.now(),
    nextAt: world.nextAt(),
    startAt,
    endAt,
    earlier,
    open: facts.sends
      .filter((send: Send) => isOpen(send) && send.state !== 'expected')
      .map(({ sequenceId, stepId }) => ({ sequenceId, stepId })),
    paused: settings.sequences.filter(({ state }) => state === 'paused').map(({ id }) => id),
    isSendingOn: settings.isSendingOn,
    sequenceIds: settings.sequences.map(({ id }) => id),
  }
}

/** Whether an act was carried out, or refused as some are by their nature. */
export function tried(act: Act, world: World): boolean {
  const { settings } = world.slice()
  try {
    playOn(act, world, settings.zones.zone(settings.business.zone))
    return true
  } catch (fault) {
    if (fault instanceof BundleFault || (fault instanceof Error && fault.name === 'Error')) return false
    throw fault
  }
}

/** Plays a life turn by turn; `look` is called with the acts so far whenever it has come to rest. */
export function liveThrough(plan: LifePlan, look: (world: World, acts: readonly Act[]) => void): World {
  const settings = settingsOf(plan.bundle, outside)
  const [client] = clientsOf(plan.bundle, outside.zones)
  if (!client) throw new Error('no client')
  const world = createWorld(settings, client, plan.bookedAt)
  const acts: Act[] = []
  const earlier: { startAt: number; endAt: number }[] = []
  const did = (act: Act) => {
    if (tried(act, world)) acts.push(act)
    world.advance(world.now())
    const [booking] = world.facts().bookings
    const last = earlier.at(-1)
    if (booking && (last?.startAt !== booking.startAt || last.endAt !== booking.endAt)) {
      earlier.push({ startAt: booking.startAt, endAt: booking.endAt })
    }
    look(world, acts)
  }
  did(bookingAct(plan))
  for (const turn of plan.turns) {
    const at = momentOfTurn(turn, sightOf(world, earlier))
    world.approach(at)
    const act = actOf(turn, at, sightOf(world, earlier))
    if (act) did(act)
  }
  return world
}
