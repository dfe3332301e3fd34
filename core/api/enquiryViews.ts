import { z } from 'zod'
import { bookingStatus } from '../model/booking.ts'
import { person } from '../model/business.ts'
import { contact } from '../model/client.ts'
import { enquiry } from '../model/enquiry.ts'
import { formReceipt } from '../model/form.ts'
import { pipeline } from '../model/pipeline.ts'
import { sendId, sendState } from '../model/send.ts'
import { instant } from '../model/values.ts'
import { signingView } from './documentEndpoints.ts'
import { offeredMove, pressedView } from './moveViews.ts'
import { historyLine, sendLine } from './views.ts'

/** A message to come, as a mark on a strip of days. */
const comingMark = z.object({ at: instant, state: sendState })

/** An enquiry as lists show it. */
export const enquiryLine = z.object({
  ...enquiry.pick({
    id: true,
    clientId: true,
    serviceId: true,
    stage: true,
    what: true,
    partySize: true,
    budgetCents: true,
    source: true,
    wishedOn: true,
    deadlineOn: true,
    personInChargeId: true,
    receivedAt: true,
    bookingId: true,
    revision: true,
  }).shape,
  clientName: z.string(),
  serviceName: z.string().nullable(),
  personName: z.string().nullable(),
  /** Since when it stands in its stage. */
  stageSince: instant,
  /** Its messages to come, in the order of time. */
  coming: z.array(comingMark),
})
export type EnquiryLine = z.infer<typeof enquiryLine>

export const enquiryView = z.object({
  enquiry,
  clientName: z.string(),
  /** The client's, to choose who hears of it. */
  contacts: z.array(contact),
  serviceName: z.string().nullable(),
  pipeline,
  personInCharge: person.nullable(),
  /** Zone of the place, else of the business. */
  placeZone: z.string(),
  /** How the booking that came of it stands; null: none did. */
  bookingStatus: bookingStatus.nullable(),
  /** Day 0: the beginning of the date wished for; null: there is none. */
  day0At: instant.nullable(),
  sends: z.array(sendLine),
  history: z.array(historyLine),
  /** The message that tells in the evening what was ticked; null: nothing is to be told, or nothing tells it. */
  eveningSendId: sendId.nullable(),
  /** The form it came by; null: somebody wrote it down. */
  receipt: formReceipt.nullable(),
  /** The one-press moves that make sense for it at present. */
  moves: z.array(offeredMove),
  /** What was sent to be signed, the latest first. */
  signings: z.array(signingView),
  /** The one that was pressed last; null: none was, or it was taken back. */
  pressed: pressedView.nullable(),
  /** Whether a sequence at work for it sends evening letters. */
  hasEveningStep: z.boolean(),
})
export type EnquiryView = z.infer<typeof enquiryView>
