import { folded } from '../model/folded.ts'
import type { Settings } from '../planning/slice.ts'
import { dayMs, minuteMs } from '../time/calendar.ts'

/** An entry of a calendar file as it was read. */
export interface CalendarEntry {
  /** Where it begins in the file. */
  readonly line: number
  /** Tells it from all others, also from other times of the same one. */
  readonly key: string
  readonly title: string
  /** Null: the one its title names. */
  readonly serviceId: string | null
  readonly startAt: number
  /** Null: the file says no end. */
  readonly endAt: number | null
  /** Who is asked to come, in order. */
  readonly attendees: readonly { readonly name: string; readonly email: string }[]
  readonly phone: string
  /** How many come. */
  readonly partySize: number
  readonly isCancelled: boolean
  /** Why it cannot be a booking; null: it can. */
  readonly fault: string | null
}

/** No booking takes longer. */
export const longestMs = 14 * dayMs

/** What is booked already, as far as a look at a calendar goes. */
export interface Standing {
  readonly broughtInAs: string | null
  readonly clientName: string
  readonly serviceId: string
  readonly startAt: number
  readonly endAt: number
  readonly partySize: number
}

export const lookStates = ['new', 'overlaps', 'known', 'over', 'cancelled', 'unreadable'] as const
export type LookState = (typeof lookStates)[number]

/** An entry as it would be brought in. */
export interface LookedAt {
  readonly line: number
  readonly key: string
  readonly title: string
  readonly startAt: number
  readonly endAt: number
  readonly serviceId: string
  readonly name: string
  /** Null: messages cannot reach them. */
  readonly email: string | null
  readonly phone: string
  readonly partySize: number
  readonly state: LookState
  /** Why it is no new one; empty: it is. */
  readonly why: string
}

interface Looking {
  readonly settings: Settings
  /** The service of entries whose title names none. */
  readonly serviceId: string
  /** Bookings that stand, by their start. */
  readonly standing: readonly Standing[]
  readonly now: number
}

/** The service that a title names; the longest name where it names several; null: none. */
export function serviceNamed({ services }: Settings, title: string): string | null {
  const words = folded(title)
  const named = services
    .filter(({ name, isActive }) => isActive && words.includes(folded(name)))
    .sort((one, other) => other.name.length - one.name.length)
  return named[0]?.id ?? null
}

/** “Siltanen, Oona” as one says it. */
function asSpoken(name: string): string {
  const [last = '', first, ...others] = name.split(',').map((part) => part.trim())
  return first !== undefined && others.length === 0 ? `${first} ${last}`.trim() : name.trim()
}

/** The first who is not of the house; the title where nobody is asked to come. */
function whoComes({ title, attendees }: CalendarEntry, { business, people }: Settings) {
  const own = [business.senderAddress, ...people.map(({ email }) => email)].map((one) => one.toLowerCase())
  const guest = attendees.find(({ email }) => !own.includes(email.toLowerCase()))
  return guest
    ? { name: asSpoken(guest.name) || guest.email.slice(0, guest.email.indexOf('@')), email: guest.email }
    : { name: title.trim() || 'Somebody', email: null }
}

type Verdict = Pick<LookedAt, 'state' | 'why'>

function whatElse(
  times: { startAt: number; endAt: number },
  { serviceId, partySize }: Pick<LookedAt, 'serviceId' | 'partySize'>,
  { settings, standing }: Looking,
): Verdict {
  const service = settings.services.find(({ id }) => id === serviceId)
  const met = standing.filter((one) => one.startAt < times.endAt && one.endAt > times.startAt)
  const shares = (one: Standing) =>
    service?.offer.isShared === true && one.serviceId === serviceId && one.startAt === times.startAt
  const others = met.filter((one) => !shares(one))
  const [first] = others
  if (first) {
    const name = settings.services.find(({ id }) => id === first.serviceId)?.name ?? 'a booking'
    const more = others.length === 1 ? '' : ` and ${others.length - 1} more`
    return { state: 'overlaps', why: `At that time: ${first.clientName}, ${name}${more}.` }
  }
  const taken = met.reduce((sum, one) => sum + one.partySize, 0)
  return taken + partySize > (service?.seats ?? 0)
    ? { state: 'overlaps', why: 'No seats are left at that time.' }
    : { state: 'new', why: '' }
}

function verdictOn(
  entry: CalendarEntry,
  looked: Pick<LookedAt, 'startAt' | 'endAt' | 'serviceId' | 'name' | 'partySize'>,
  looking: Looking,
  seen: ReadonlySet<string>,
): Verdict {
  const { settings, standing, now } = looking
  if (entry.fault !== null) return { state: 'unreadable', why: `Line ${entry.line}: ${entry.fault}` }
  if (entry.isCancelled) return { state: 'cancelled', why: 'It is cancelled in the calendar.' }
  if (looked.endAt <= looked.startAt) {
    return { state: 'unreadable', why: `Line ${entry.line}: it ends before it begins.` }
  }
  if (looked.endAt - looked.startAt > longestMs) {
    return { state: 'unreadable', why: `Line ${entry.line}: a booking takes at most 14 days.` }
  }
  if (seen.has(entry.key)) return { state: 'known', why: 'It stands in the file twice.' }
  if (standing.some(({ broughtInAs }) => broughtInAs === entry.key)) {
    return { state: 'known', why: 'It has been brought in before.' }
  }
  const isSame = (one: Standing) =>
    one.startAt === looked.startAt &&
    one.serviceId === looked.serviceId &&
    folded(one.clientName) === folded(looked.name)
  if (standing.some(isSame)) return { state: 'known', why: 'The same is booked here already.' }
  if (looked.startAt <= now)
    return { state: 'over', why: 'It has begun already: only what is ahead is brought in.' }
  return settings.services.some(({ id, isActive }) => id === looked.serviceId && isActive)
    ? whatElse(looked, looked, looking)
    : { state: 'unreadable', why: 'There is no such service any more.' }
}

/** What each entry of a calendar would become, or why it becomes nothing. Nothing is done. */
export function lookAt(entries: readonly CalendarEntry[], looking: Looking): readonly LookedAt[] {
  const { settings } = looking
  const seen = new Set<string>()
  return entries.map((entry) => {
    const { line, key, title, startAt, phone, partySize } = entry
    const serviceId = entry.serviceId ?? serviceNamed(settings, title) ?? looking.serviceId
    const service = settings.services.find(({ id }) => id === serviceId)
    const endAt = entry.endAt ?? startAt + (service?.durationMinutes ?? 60) * minuteMs
    const who = { phone, partySize, ...whoComes(entry, settings) }
    const looked = { line, key, title, startAt, endAt, serviceId, ...who }
    const verdict = verdictOn(entry, looked, looking, seen)
    seen.add(key)
    return { ...looked, ...verdict }
  })
}
