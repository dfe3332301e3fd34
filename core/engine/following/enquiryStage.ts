import type { Enquiry } from '../../model/enquiry.ts'
import type { Stage } from '../../model/pipeline.ts'
import { businessDate, type Settings, type Slice, zoneFor } from '../../planning/slice.ts'
import { stageNamed } from '../../planning/stages.ts'
import { workOf } from '../../sequences/standIns.ts'
import { epochDayOf, isoDateOf } from '../../time/calendar.ts'
import { longDate } from '../../time/format.ts'
import { instantAt } from '../../time/zones.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'

export const aboutEnquiry = ({ id, clientId }: Enquiry, name = '') =>
  ({ clientId, subject: { kind: 'enquiry', id }, name }) as const

/** An enquiry's event is over once the date wished for has passed. */
export function enquiryOver(enquiry: Enquiry, { settings }: Slice): readonly Effect[] {
  const { id: key, clientId, serviceId, wishedOn } = enquiry
  if (wishedOn === null) return [{ kind: 'clear due moment', moment: { kind: 'event over', key } }]
  const zone = zoneFor(settings, serviceId)
  const at = instantAt(zone, epochDayOf(wishedOn) + 1, 0)
  return [{ kind: 'set due moment', moment: { kind: 'event over', key, clientId, at } }]
}

/** What entering a stage makes of who is in charge and of the deadline. */
export function takenOver(
  stage: Stage | undefined,
  { personInChargeId, deadlineOn }: Pick<Enquiry, 'personInChargeId' | 'deadlineOn'>,
  settings: Settings,
  now: number,
): Pick<Enquiry, 'personInChargeId' | 'deadlineOn'> {
  if (!stage) return { personInChargeId, deadlineOn }
  // What has ended is due no more.
  const deadlineDays = stage.meaning === 'open' ? stage.deadlineDays : null
  return {
    personInChargeId: workOf(settings.people, stage.personInChargeId)?.id ?? personInChargeId,
    deadlineOn:
      deadlineDays === null ? null : isoDateOf(epochDayOf(businessDate(settings, now)) + deadlineDays),
  }
}

/** What is given beside the stage as an enquiry ends. */
export type Ending = Partial<Pick<Enquiry, 'lostReason' | 'bookingId'>>

function enteredWords(
  before: Enquiry,
  after: Enquiry,
  meaning: Stage['meaning'] | undefined,
  settings: Settings,
): string {
  const inCharge = settings.people.find(({ id }) => id === after.personInChargeId)?.name
  const isHandedOn = inCharge !== undefined && after.personInChargeId !== before.personInChargeId
  return [
    `Enquiry in “${after.stage}”.`,
    ...(isHandedOn ? [`In charge: ${inCharge}.`] : []),
    ...(after.deadlineOn === null ? [] : [`Deadline: ${longDate(epochDayOf(after.deadlineOn))}.`]),
    ...(meaning === 'lost' && after.lostReason !== '' ? [`Because: ${after.lostReason}`] : []),
  ].join(' ')
}

/** An enquiry in another stage, as a fact and as an event; nothing where it is in that one already. */
export function enteredStage(
  enquiry: Enquiry,
  name: string,
  settings: Settings,
  context: EngineContext,
  { lostReason = '', bookingId = enquiry.bookingId }: Ending = {},
): readonly Effect[] {
  if (enquiry.stage === name) return []
  const stage = stageNamed(settings, enquiry.pipelineId, name)
  const moved: Enquiry = {
    ...enquiry,
    ...takenOver(stage, enquiry, settings, context.now),
    stage: name,
    stageAt: { ...enquiry.stageAt, [name]: context.now },
    deadlineSetAt: context.now,
    lostReason: stage?.meaning === 'lost' ? lostReason : '',
    bookingId,
    revision: enquiry.revision + 1,
  }
  const words = enteredWords(enquiry, moved, stage?.meaning, settings)
  return [
    { kind: 'put enquiry', enquiry: moved },
    appendEvent(context, 'enquiry stage entered', aboutEnquiry(enquiry, name), words),
  ]
}
