import type { RoutedMessage } from '../engine/atSending/checkAtSending.ts'
import { makeBooking } from '../engine/commands/bookingCommands.ts'
import { newClient } from '../engine/commands/clientCommands.ts'
import { hypothetical } from '../engine/consequences/consequences.ts'
import type { Person, Service } from '../model/business.ts'
import { done, refused, type Result } from '../model/problem.ts'
import { placeZone, type Settings } from '../planning/slice.ts'
import { dayMs, isoDateOf, minuteMs } from '../time/calendar.ts'
import { dateAndTime } from '../time/format.ts'
import { instantOfLocal, localAt } from '../time/localText.ts'
import { dayAt, type Zone } from '../time/zones.ts'
import { playOut } from './preview.ts'
import { createWorld, type World } from './world.ts'

/** Booked so many days ahead: most of what is sent before an event has its place in them. */
const aheadDays = 8
/** How long after the event it is followed. */
const followedMs = 60 * dayMs
/** A mailbox is not flooded by what repeats. */
const mostMessages = 20

/** Somebody with the name and the address of who looks on, whom nothing is known of yet. */
const imagined = ({ name, email }: Pick<Person, 'name' | 'email'>, now: number) => {
  const [firstName = '', ...others] = name.split(' ')
  const contact = { id: null, firstName, lastName: others.join(' '), email, phone: '', isPrimary: true }
  return newClient(
    {
      name,
      zone: null,
      language: 'en',
      tags: [],
      takesPromotional: true,
      isActive: true,
      contacts: [contact],
      namedDates: [],
    },
    hypothetical(now, 'rehearsal'),
  )
}

/**
 * The settings as they are, with what has to be switched on switched on, and links that let nobody in anywhere. Whether the
 * address of who looks on can be real is for their mail server to say.
 */
function settingsOfStage(settings: Settings, testUrl: string): Settings {
  const link = () => testUrl
  const clientLinks = {
    optOut: link,
    booking: link,
    act: link,
    all: link,
    pay: link,
    sign: link,
    followed: link,
    opened: link,
  }
  return { ...settings, clientLinks, isSendingOn: true, isRealMail: false, onlyTo: null }
}

function book(world: World, service: Service): Result<readonly unknown[]> {
  const { settings, facts } = world.slice()
  const zone = placeZone(settings, service)
  const day = isoDateOf(dayAt(zone, world.now()) + aheadDays)
  const startLocal = `${day}T10:00`
  const endAt = instantOfLocal(zone, startLocal) + service.durationMinutes * minuteMs
  const booked = makeBooking(
    world.slice(),
    {
      clientId: facts.client.id,
      serviceId: service.id,
      startLocal,
      endLocal: localAt(zone, endAt),
      partySize: 1,
      status: 'confirmed',
      personInChargeId: null,
    },
    () => 0,
    world.context(),
  )
  if (booked.ok) world.carryOut(booked)
  return booked
}

/** Its subject says when it would have gone; everything else is as a client would get it. */
function labelled(message: RoutedMessage, zone: Zone): RoutedMessage {
  const when = dateAndTime(zone, message.at)
  return { ...message, subject: `Rehearsal, for ${when}: ${message.subject}` }
}

/** Why nothing would go to them, in a sentence. */
function whyNothing(world: World): string {
  const [first] = world.facts().sends.flatMap(({ reason }) => (reason ? [reason.sentence] : []))
  return first ?? 'No live sequence has a message for a booking of this service.'
}

/**
 * What somebody would get who books the first service now, for a day next week: the live sequences, played to their end by
 * the engine itself, with whoever approves approving at once. Nothing is done; each message goes to the one who looks on.
 */
export function rehearse(
  settings: Settings,
  person: Pick<Person, 'name' | 'email'>,
  { now, testUrl }: { readonly now: number; readonly testUrl: string },
): Result<readonly RoutedMessage[]> {
  const service = settings.services.find(({ isActive }) => isActive)
  if (!service) return refused('not allowed now', 'There is no service that could be booked yet.')
  if (!settings.sequences.some(({ state }) => state === 'live')) {
    return refused('not allowed now', 'No sequence is live yet, so nothing would go to anybody.')
  }
  const world = createWorld(settingsOfStage(settings, testUrl), imagined(person, now), now)
  const booked = book(world, service)
  if (!booked.ok) return booked
  const endAt = world.facts().bookings[0]?.endAt ?? now
  playOut(world, () => true, endAt + followedMs)
  const messages = world.outbox().filter(({ to }) => to.address === person.email)
  if (messages.length === 0) return refused('not allowed now', whyNothing(world))
  const zone = settings.zones.zone(settings.business.zone)
  return done(messages.slice(0, mostMessages).map((message) => labelled(message, zone)))
}
