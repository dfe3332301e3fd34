import { accountOf } from './account.ts'
import { letterIdsOf } from '../sequences/steps.ts'
import { include, includable } from '../engine/following/inclusion.ts'
import { settingsWithEffects } from '../engine/effects.ts'
import { missWhileHeldBack } from '../engine/commands/sendCommands.ts'
import { changeSequence, goLive, moveRuns, pauseSequence } from '../engine/commands/sequenceCommands.ts'
import { done } from '../model/problem.ts'
import { claimableStates } from '../model/sendState.ts'
import { isPromotionalSend } from '../planning/crowding.ts'
import type { Client } from '../model/client.ts'
import type { Settings } from '../planning/slice.ts'
import type { Zone } from '../time/zones.ts'
import type { Act, ActOn } from './acts.ts'
import type { Bundle } from './bundle.ts'
import {
  bareLetter,
  BundleFault,
  clientsOf,
  momentOf,
  settingsOf,
  standingFacts,
  type BundleOutside,
} from './bundleSettings.ts'
import { playAct } from './playAct.ts'
import { createWorld, type Account, type Next, type World } from './world.ts'

interface TimedAct {
  readonly act: Act
  readonly at: number
  readonly path: string
}

function timed(acts: readonly Act[], list: string, zone: Zone): readonly TimedAct[] {
  return acts.map((one, index) => ({ act: one, at: momentOf(one.at, zone), path: `${list}.${index}` }))
}

/** What fell due while something was held back is listed, never sent in a burst. */
function missOverdue(world: World, sequenceId: string | null) {
  const now = world.now()
  const overdue = world
    .facts()
    .sends.filter(
      ({ state, dueAt, sequenceId: own }) =>
        claimableStates.includes(state) &&
        dueAt !== null &&
        dueAt <= now &&
        (sequenceId === null || own === sequenceId),
    )
  world.carryOut(done(missWhileHeldBack(overdue, world.slice(), world.context())))
}

function switchOver(act: Extract<Act, { act: 'switch' }>, world: World) {
  const { sequenceId, isOn } = act
  if (sequenceId === null) {
    world.changeSettings((settings) => ({ ...settings, isSendingOn: isOn }))
    if (isOn) missOverdue(world, null)
    return
  }
  const { settings } = world.slice()
  const change = isOn ? goLive : pauseSequence
  const decided = change(settings, sequenceId, world.context())
  world.carryOut(decided)
  if (decided.ok) world.changeSettings((present) => settingsWithEffects(present, decided.value))
  if (isOn) missOverdue(world, sequenceId)
}

function changeAndMove(act: Extract<Act, { act: 'change sequence' }>, world: World) {
  const { sequenceId, start, steps, stops } = act
  world.changeSettings((settings) => {
    const missing = letterIdsOf(steps).filter((id) => !settings.letters.some((one) => one.id === id))
    return { ...settings, letters: [...settings.letters, ...missing.map(bareLetter)] }
  })
  const decided = changeSequence(world.slice().settings, sequenceId, { start, steps, stops }, world.context())
  world.carryOut(decided)
  if (decided.ok) world.changeSettings((present) => settingsWithEffects(present, decided.value))
  if (act.movesRunning) world.carryOut(done(moveRuns(world.slice(), sequenceId, world.context())))
}

function includeStanding({ sequenceId }: Extract<Act, { act: 'include' }>, world: World) {
  const slice = world.slice()
  const sequence = slice.settings.sequences.find(({ id }) => id === sequenceId)
  if (!sequence) throw new Error(`There is no sequence ${sequenceId}.`)
  const triggers = includable(sequence, slice, world.now())
  world.carryOut(done(include(sequence, triggers, slice, world.context())))
}

/** What an act does to a world of which it is the moment. */
export function playOn(act: Act, world: World, zone: Zone) {
  if (act.act === 'machine off') {
    world.sleep(momentOf(act.until, zone))
    return
  }
  switch (act.act) {
    case 'switch':
      switchOver(act, world)
      return
    case 'change sequence':
      changeAndMove(act, world)
      return
    case 'include':
      includeStanding(act, world)
      return
    default:
      world.carryOut(playAct(act, world.slice(), world.context()))
  }
}

const isOfClient = (act: Act): act is ActOn => 'clientId' in act

function played({ act, path, at }: TimedAct, world: World, zone: Zone) {
  if (at < world.now()) throw new BundleFault(path, 'The machine is off at that moment.')
  try {
    playOn(act, world, zone)
  } catch (fault) {
    throw new BundleFault(path, fault instanceof Error ? fault.message : String(fault))
  }
}

interface Player {
  readonly client: Client
  readonly world: World
}

const concerns = ({ act }: TimedAct, { client }: Player) => !isOfClient(act) || act.clientId === client.id

function playerFor(
  client: Client,
  acts: readonly TimedAct[],
  settings: Settings,
  bundle: Bundle,
  until: number,
  account: Account | null,
): Player {
  const own = acts.filter(({ act }) => !isOfClient(act) || act.clientId === client.id)
  const present = momentOf(bundle.now, settings.zones.zone(settings.business.zone))
  const begins = Math.min(until, present, ...own.map(({ at }) => at))
  const standing = standingFacts(bundle, client.id, settings)
  return { client, world: createWorld(settings, client, begins, undefined, standing, account) }
}

/** One client after the other: nothing of one touches another. */
function playAlone(players: readonly Player[], acts: readonly TimedAct[], until: number, zone: Zone) {
  for (const player of players) {
    for (const timedAct of acts) {
      if (!concerns(timedAct, player)) continue
      player.world.approach(timedAct.at)
      played(timedAct, player.world, zone)
    }
    player.world.advance(until)
  }
}

/** What comes first of what falls due for several clients: at one instant sends last, service messages first. */
function earliest(players: readonly Player[], until: number) {
  let first: { readonly world: World; readonly next: Next; readonly rank: number } | null = null
  for (const { world } of players) {
    const next = world.next(until)
    if (!next) continue
    const isLater = next.kind === 'send' && isPromotionalSend(next.send, world.slice().settings)
    const rank = next.kind === 'moment' ? 0 : isLater ? 2 : 1
    if (!first || next.at < first.next.at || (next.at === first.next.at && rank < first.rank)) {
      first = { world, next, rank }
    }
  }
  return first
}

/** All clients together, moment by moment: they share the mail account's allowance. */
function playTogether(players: readonly Player[], acts: readonly TimedAct[], until: number, zone: Zone) {
  const walk = (to: number) => {
    for (let one = earliest(players, to); one; one = earliest(players, to)) one.world.handle(one.next)
  }
  for (const timedAct of acts) {
    walk(timedAct.at - 1)
    for (const player of players.filter((one) => concerns(timedAct, one))) {
      player.world.approach(timedAct.at)
      played(timedAct, player.world, zone)
    }
  }
  walk(until)
  for (const { world } of players) world.advance(until)
}

/** What acts make has an id of its own: nothing is made twice, and nothing that is there already. */
function refuseMadeTwice(
  { bookings, enquiries, invoices }: Bundle,
  acts: readonly { readonly act: Act; readonly path: string }[],
) {
  const known = new Set([...bookings, ...enquiries, ...invoices].map(({ id }) => id))
  for (const { act, path } of acts) {
    if (act.act !== 'book' && act.act !== 'enquire' && act.act !== 'issue invoice') continue
    if (known.has(act.id)) throw new BundleFault(`${path}.id`, `There is another ${act.id} in this bundle.`)
    known.add(act.id)
  }
}

/**
 * Plays a bundle: for each client what happened up to `until`, in the order of time, with messages going out in
 * memory at their times. Throws a BundleFault.
 */
export function playBundle(
  bundle: Bundle,
  script: readonly Act[],
  until: string,
  outside: BundleOutside,
): { readonly settings: Settings; readonly worlds: readonly World[]; readonly until: number } {
  const settings = settingsOf(bundle, outside)
  const zone = settings.zones.zone(settings.business.zone)
  const clients = clientsOf(bundle, outside.zones)
  const known = new Set(clients.map(({ id }) => id))
  const acts = [...timed(bundle.events, 'events', zone), ...timed(script, 'script', zone)]
  for (const { act, path } of acts) {
    if (isOfClient(act) && !known.has(act.clientId))
      throw new BundleFault(`${path}.clientId`, `There is no client ${act.clientId}.`)
  }
  refuseMadeTwice(bundle, acts)
  // Of one moment they happen in the order in which they stand.
  const ordered = acts.toSorted((one, other) => one.at - other.at)
  const end = momentOf(until, zone)
  const { allowance } = settings.business
  const isShared = Object.values(allowance).some((limit) => limit !== null)
  const account = isShared ? accountOf(allowance, zone) : null
  const happening = ordered.filter(({ at }) => at <= end)
  const players = clients.map((client) => playerFor(client, happening, settings, bundle, end, account))
  const playAll = isShared ? playTogether : playAlone
  playAll(players, happening, end, zone)
  return { settings, worlds: players.map(({ world }) => world), until: end }
}
