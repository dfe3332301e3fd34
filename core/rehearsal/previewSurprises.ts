import type { Send } from '../model/send.ts'
import { stepTraits } from '../model/step.ts'
import type { Settings } from '../planning/slice.ts'
import type { Surprise } from '../sequences/warnings.ts'
import { hourMs, weekdayOf } from '../time/calendar.ts'
import { dateAndTime, weekdayName } from '../time/format.ts'
import { dayAt, wallAt } from '../time/zones.ts'
import type { Preview, PreviewedSend } from './preview.ts'

/** Local hours in which nobody wants mail: from ten in the evening to seven in the morning. Ours, no source. */
const night = { from: 22 * hourMs, to: 7 * hourMs }

const tellingBefore: readonly Send['purpose'][] = ['confirmation', 'reminder', 'preparation']

type Clock = (at: number) => string

interface Looked {
  readonly preview: Preview
  readonly settings: Settings
  readonly clientZone: string
  readonly nameOf: (send: Send) => string
}

function nightSurprise({ send, at }: PreviewedSend, { settings, clientZone }: Looked): string | null {
  if (at === null) return null
  const zone = settings.zones.zone(clientZone)
  const { msOfDay } = wallAt(zone, at)
  if (msOfDay >= night.to && msOfDay < night.from) return null
  const where = clientZone === settings.business.zone ? '' : ' where the client lives'
  const why =
    send.trace.find(({ rule }) => rule === 'wanted')?.code === 'at once' ? ', as it goes at once' : ''
  return `${dateAndTime(zone, at)} is at night${where}${why}.`
}

function restDaySurprise({ at }: PreviewedSend, { settings }: Looked): string | null {
  if (at === null) return null
  const zone = settings.zones.zone(settings.business.zone)
  const day = dayAt(zone, at)
  if (settings.isHoliday(day)) return `${dateAndTime(zone, at)} is a public holiday.`
  return weekdayOf(day) >= 6 ? `${dateAndTime(zone, at)} is a ${weekdayName(day)}.` : null
}

function afterTheEvent({ send, at }: PreviewedSend, { preview, settings }: Looked): string | null {
  const { event } = preview
  if (event === null || at === null || at < event.startAt || !tellingBefore.includes(send.purpose))
    return null
  const zone = settings.zones.zone(settings.business.zone)
  return `A ${send.purpose} at ${dateAndTime(zone, at)}, and the event began ${dateAndTime(zone, event.startAt)}.`
}

function sameHour(one: PreviewedSend, { preview, nameOf }: Looked, clock: Clock): string | null {
  const { at, send } = one
  if (at === null) return null
  const own = preview.sends
    .filter((other) => other.goes && other.send.id !== send.id)
    .map(({ send: other, at: otherAt }) => ({ other, otherAt }))
  const all = [...own, ...preview.others.map((other) => ({ other, otherAt: other.sentAt ?? other.dueAt }))]
  const near = all.find(
    ({ other, otherAt }) =>
      stepTraits[other.stepKind].isForClients &&
      other.address === send.address &&
      otherAt !== null &&
      Math.abs(otherAt - at) < hourMs &&
      // Of two alike one is named, the later.
      (otherAt < at || (otherAt === at && other.id < send.id)),
  )
  return near ? `In the same hour as “${nameOf(near.other)}”, ${clock(near.otherAt ?? at)}.` : null
}

/** What would surprise about the times of a preview, message by message. */
export function previewSurprises(looked: Looked): readonly Surprise[] {
  const { preview, settings } = looked
  const zone = settings.zones.zone(settings.business.zone)
  const clock: Clock = (at) => dateAndTime(zone, at)
  const goes = preview.sends.filter(
    ({ send, goes: isGoing }) => isGoing && stepTraits[send.stepKind].isForClients,
  )
  return goes.flatMap((one): Surprise[] => {
    const found: (readonly [string, string | null])[] = [
      ['night', nightSurprise(one, looked)],
      ['rest day', restDaySurprise(one, looked)],
      ['after the event', afterTheEvent(one, looked)],
      ['same hour', sameHour(one, looked, clock)],
    ]
    return found.flatMap(([code, sentence]) =>
      sentence === null ? [] : [{ stepId: one.send.stepId, code, sentence }],
    )
  })
}
