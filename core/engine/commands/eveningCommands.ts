import type { Enquiry, Tick } from '../../model/enquiry.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Slice } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'

/** A line of a checklist, with its sentence for the client; null: it is for the business alone. */
export interface LineToTick {
  readonly lineId: string
  /** What is to be done, for the history. */
  readonly words: string
  readonly sentence: string | null
}

type Decided = Result<readonly Effect[]>

function onEnquiry(
  slice: Slice,
  enquiryId: string,
  context: EngineContext,
  change: (enquiry: Enquiry) => Result<{ enquiry: Enquiry; event: Effect }>,
): Decided {
  const enquiry = slice.facts.enquiries.find(({ id }) => id === enquiryId)
  if (!enquiry) return refused('not found', 'There is no such enquiry.')
  const changed = change(enquiry)
  if (!changed.ok) return changed
  const put: Effect = { kind: 'put enquiry', enquiry: changed.value.enquiry }
  return done(conclude(slice, [put, changed.value.event], context))
}

const about = ({ id, clientId }: Enquiry, name: string) =>
  ({ clientId, subject: { kind: 'enquiry', id }, name }) as const

function withTick(ticks: readonly Tick[], tick: Tick): Tick[] {
  return [...ticks.filter(({ lineId }) => lineId !== tick.lineId), tick]
}

/** Ticks a line. One the client has been told already stays told, whatever happens to its tick. */
export function tickLine(
  slice: Slice,
  enquiryId: string,
  { lineId, words, sentence }: LineToTick,
  context: EngineContext,
): Decided {
  return onEnquiry(slice, enquiryId, context, (enquiry) => {
    const old = enquiry.ticks.find((tick) => tick.lineId === lineId)
    if (old?.at != null) return refused('not allowed now', 'This line is ticked already.')
    const by = { personId: context.personId, toldAt: old?.toldAt ?? null }
    const tick = { lineId, sentence, at: context.now, ...by }
    const event = appendEvent(context, 'line ticked', about(enquiry, lineId), `Ticked: ${words}`)
    return done({ enquiry: { ...enquiry, ticks: withTick(enquiry.ticks, tick) }, event })
  })
}

/** Unticks a line: before its letter has gone, the letter no longer tells it. */
export function untickLine(
  slice: Slice,
  enquiryId: string,
  { lineId, words }: Omit<LineToTick, 'sentence'>,
  context: EngineContext,
): Decided {
  return onEnquiry(slice, enquiryId, context, (enquiry) => {
    const old = enquiry.ticks.find((tick) => tick.lineId === lineId)
    if (old?.at == null) return refused('not allowed now', 'This line is not ticked.')
    const event = appendEvent(context, 'line unticked', about(enquiry, lineId), `Unticked: ${words}`)
    const tick = { ...old, at: null, personId: context.personId }
    return done({ enquiry: { ...enquiry, ticks: withTick(enquiry.ticks, tick) }, event })
  })
}

/** A line that was told is told once more. */
export function tellAgain(
  slice: Slice,
  enquiryId: string,
  { lineId, words }: Omit<LineToTick, 'sentence'>,
  context: EngineContext,
): Decided {
  return onEnquiry(slice, enquiryId, context, (enquiry) => {
    const old = enquiry.ticks.find((tick) => tick.lineId === lineId)
    if (old?.at == null || old.toldAt === null) {
      return refused('not allowed now', 'Only a ticked line that was told can be told again.')
    }
    const tick = { ...old, at: context.now, toldAt: null, personId: context.personId }
    const event = appendEvent(
      context,
      'enquiry changed',
      about(enquiry, lineId),
      `To be told again: ${words}`,
    )
    return done({ enquiry: { ...enquiry, ticks: withTick(enquiry.ticks, tick) }, event })
  })
}

/** Switches the evening letters of an enquiry on, for what is ticked from now on or for earlier ticks too, or off. */
export function setEvening(
  slice: Slice,
  enquiryId: string,
  isOn: boolean,
  tellsEarlier: boolean,
  context: EngineContext,
): Decided {
  return onEnquiry(slice, enquiryId, context, (enquiry) => {
    if ((enquiry.evening !== null) === isOn) {
      return refused('not allowed now', `Evening letters are ${isOn ? 'on' : 'off'} already.`)
    }
    const words = isOn
      ? `Evening letters switched on, ${tellsEarlier ? 'for what was ticked before, too' : 'for what is ticked from now on'}.`
      : 'Evening letters switched off.'
    const event = appendEvent(context, 'enquiry changed', about(enquiry, ''), words)
    const evening = isOn ? { onAt: context.now, tellsEarlier } : null
    return done({ enquiry: { ...enquiry, evening }, event })
  })
}
