import type { Client } from '../../model/client.ts'
import type { Enquiry, Happening } from '../../model/dealings.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import { placeZone, serviceOf, type Slice } from '../../planning/slice.ts'
import { epochDayOf } from '../../time/calendar.ts'
import { instantAt } from '../../time/zones.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { conclude } from '../following/react.ts'

type Decided = Result<readonly Effect[]>

/** What a client did, as a fact and as an event. */
export function happened(
  clientId: string,
  happening: Happening,
  context: EngineContext,
  /** What tells it in the history; where nothing is given, its kind and name. */
  words?: string,
): readonly Effect[] {
  const { kind, name } = happening
  const sentence = words ?? (name === '' ? `${kind}.` : `${kind}: ${name}.`)
  return [
    { kind: 'add happening', clientId, happening },
    appendEvent(context, kind, { clientId, name }, sentence),
  ]
}

/** A client who takes no promotional mail any more; nothing where they took none. */
export const withoutPromotional = (client: Client): readonly Effect[] =>
  client.takesPromotional
    ? [
        {
          kind: 'put client',
          client: { ...client, takesPromotional: false, revision: client.revision + 1 },
        },
      ]
    : []

/** A client answered, opened, followed, filled in, signed, got a tag or joined a list. */
export function recordHappening(
  slice: Slice,
  kind: Happening['kind'],
  name: string,
  context: EngineContext,
): Decided {
  const { client } = slice.facts
  const ended = kind === 'opted out' ? withoutPromotional(client) : []
  const did = happened(client.id, { kind, name, at: context.now }, context)
  return done(conclude(slice, [...ended, ...did], context))
}

const aboutEnquiry = ({ id, clientId }: Enquiry, name = '') =>
  ({ clientId, subject: { kind: 'enquiry', id }, name }) as const

/** An enquiry's event is over once the date wished for has passed. */
function enquiryOver(enquiry: Enquiry, { settings }: Slice): readonly Effect[] {
  const { id: key, clientId, serviceId, wishedOn } = enquiry
  if (wishedOn === null) return []
  const zone =
    serviceId === null
      ? settings.zones.zone(settings.business.zone)
      : placeZone(settings, serviceOf(settings, serviceId))
  const at = instantAt(zone, epochDayOf(wishedOn) + 1, 0)
  return [{ kind: 'set due moment', moment: { kind: 'event over', key, clientId, at } }]
}

/** An enquiry came in and stands in its first stage. */
export function receiveEnquiry(slice: Slice, enquiry: Enquiry, context: EngineContext): Decided {
  const received = appendEvent(context, 'enquiry received', aboutEnquiry(enquiry), 'Enquiry received.')
  const entered = appendEvent(
    context,
    'enquiry stage entered',
    aboutEnquiry(enquiry, enquiry.stage),
    `Enquiry in “${enquiry.stage}”.`,
  )
  return done(
    conclude(
      slice,
      [{ kind: 'put enquiry', enquiry }, ...enquiryOver(enquiry, slice), received, entered],
      context,
    ),
  )
}

/** An enquiry in another stage, as a fact and as an event; nothing where it is in that one already. */
export function enteredStage(enquiry: Enquiry, stage: string, context: EngineContext): readonly Effect[] {
  if (enquiry.stage === stage) return []
  const moved: Enquiry = { ...enquiry, stage, stageAt: { ...enquiry.stageAt, [stage]: context.now } }
  const about = aboutEnquiry(enquiry, stage)
  return [
    { kind: 'put enquiry', enquiry: moved },
    appendEvent(context, 'enquiry stage entered', about, `Enquiry in “${stage}”.`),
  ]
}

/** An enquiry gets another date wished for, or loses it. */
export function setWishedDate(
  slice: Slice,
  enquiryId: string,
  wishedOn: string | null,
  context: EngineContext,
): Decided {
  const enquiry = slice.facts.enquiries.find(({ id }) => id === enquiryId)
  if (!enquiry) return refused('not found', 'There is no such enquiry.')
  if (enquiry.wishedOn === wishedOn) return refused('not allowed now', 'That is the date it already has.')
  const changed: Enquiry = { ...enquiry, wishedOn, wishedSetAt: context.now }
  const words = `Date wished for: ${wishedOn ?? 'none'}.`
  const event = appendEvent(context, 'enquiry changed', aboutEnquiry(enquiry), words)
  const over: readonly Effect[] =
    wishedOn === null
      ? [{ kind: 'clear due moment', moment: { kind: 'event over', key: enquiryId } }]
      : enquiryOver(changed, slice)
  return done(conclude(slice, [{ kind: 'put enquiry', enquiry: changed }, ...over, event], context))
}

/** An enquiry enters another stage. Entering the one it is in does nothing. */
export function enterStage(slice: Slice, enquiryId: string, stage: string, context: EngineContext): Decided {
  const enquiry = slice.facts.enquiries.find(({ id }) => id === enquiryId)
  if (!enquiry) return refused('not found', 'There is no such enquiry.')
  return done(conclude(slice, enteredStage(enquiry, stage, context), context))
}
