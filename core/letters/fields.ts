import type { ActUrls, ClientAct } from '../model/clientAct.ts'
import type { Booking } from '../model/booking.ts'
import type { Business, Person, Service } from '../model/business.ts'
import { fullName, type Client, type Contact } from '../model/client.ts'
import type { Invoice } from '../model/dealings.ts'
import type { Enquiry } from '../model/enquiry.ts'
import type { SignableDocument } from '../model/document.ts'
import {
  documentOfSignField,
  isOwnField,
  isSignField,
  wordsOfOwnField,
  type FieldName,
  type PlainFieldName,
} from '../model/letter.ts'
import { epochDayOf, type EpochDay } from '../time/calendar.ts'
import { dayAt } from '../time/zones.ts'
import { awaitsClient, balanceOf, depositOf, freeUntil, openOf, priceOf } from '../model/policy.ts'
import { momentAtPlace, timeAtPlace, type BookingZones } from './bookingWords.ts'
import { dayWords, distanceWords, longDateIn, moneyIn, peopleIn, shortDateIn, weekdayIn } from './language.ts'
import type { Language } from '../model/values.ts'

/** Everything a letter's fields are filled from. */
export interface MergeFacts extends BookingZones {
  readonly business: Business
  readonly client: Client
  readonly contact: Contact
  /** Null where the message is not about one. */
  readonly booking: Booking | null
  readonly enquiry: Enquiry | null
  readonly invoice: Invoice | null
  readonly service: Service | null
  readonly personInCharge: Person | null
  /** What an evening letter tells, sentence by sentence. */
  readonly progress: readonly string[]
  /** When the sequence started that sends it. */
  readonly runStartedAt: number
  /** The page where this client chooses what to get. */
  readonly optOutUrl: string
  /** The page of the booking for its client; empty where there is none. */
  readonly bookingUrl: string
  /** Links for one act with the booking each. */
  readonly actUrls: ActUrls
  /** The page where the invoice is paid; empty where there is none. */
  readonly payUrl: string
  /** The page of all bookings of this client. */
  readonly allUrl: string
  /** The documents there are to sign, each with where that is done. */
  readonly toSign: readonly { readonly document: SignableDocument; readonly url: string }[]
  /** The moment of sending; words like "tomorrow" are counted from it. */
  readonly sendingAt: number
}

type Reader = (facts: MergeFacts, language: Language) => string

const ofBooking =
  (value: (booking: Booking, facts: MergeFacts, language: Language) => string): Reader =>
  (facts, language) =>
    facts.booking === null ? '' : value(facts.booking, facts, language)

const ofService =
  (value: (service: Service, booking: Booking, facts: MergeFacts, language: Language) => string): Reader =>
  (facts, language) =>
    facts.booking === null || facts.service === null
      ? ''
      : value(facts.service, facts.booking, facts, language)

const moneyOr = (cents: number | null, language: Language) => (cents === null ? '' : moneyIn(language, cents))

const startDay =
  (value: (language: Language, day: EpochDay, sendingDay: EpochDay) => string): Reader =>
  (facts, language) =>
    facts.booking === null
      ? ''
      : value(language, dayAt(facts.zone, facts.booking.startAt), dayAt(facts.zone, facts.sendingAt))

/** Of the times the client knows, where the booking has others by now. */
const toldBefore =
  (value: (told: Booking['told'], facts: MergeFacts, language: Language) => string): Reader =>
  (facts, language) => {
    const { booking } = facts
    const isAsTold = booking?.told.startAt === booking?.startAt && booking?.told.endAt === booking?.endAt
    return booking === null || isAsTold ? '' : value(booking.told, facts, language)
  }

const onDate = (date: string | null | undefined, value: (day: EpochDay) => string) =>
  date == null ? '' : value(epochDayOf(date))

const act =
  (kind: ClientAct): Reader =>
  ({ actUrls }) =>
    actUrls[kind]

const firstWord = (text: string) => text.split(' ')[0] ?? ''

const values: Readonly<Record<PlainFieldName, Reader>> = {
  'contact.firstName': ({ contact }) => contact.firstName,
  'contact.lastName': ({ contact }) => contact.lastName,
  'contact.fullName': ({ client, contact }) => fullName(client, contact),
  'client.name': ({ client }) => client.name,
  'booking.service': ({ service }) => service?.name ?? '',
  'booking.place': ({ service }) => service?.place ?? '',
  'booking.date': startDay(longDateIn),
  'booking.shortDate': startDay(shortDateIn),
  'booking.weekday': startDay(weekdayIn),
  'booking.time': ofBooking(({ startAt }, facts, language) => timeAtPlace(facts, startAt, language)),
  'booking.endTime': ofBooking(({ endAt }, facts, language) => timeAtPlace(facts, endAt, language)),
  'booking.oldDate': toldBefore(({ startAt }, { zone }, language) =>
    longDateIn(language, dayAt(zone, startAt)),
  ),
  'booking.oldTime': toldBefore(({ startAt }, facts, language) => timeAtPlace(facts, startAt, language)),
  'booking.partySize': ofBooking(({ partySize }, _, language) => peopleIn(language, partySize)),
  'booking.directions': ({ service }) => service?.offer.directions ?? '',
  'booking.price': ofService((service, booking, _, language) => moneyOr(priceOf(service, booking), language)),
  'booking.deposit': ofService((service, booking, _, language) =>
    moneyOr(depositOf(service, booking), language),
  ),
  'booking.balance': ofService((service, booking, _, language) =>
    moneyOr(balanceOf(service, booking), language),
  ),
  'booking.freeUntil': ofService((service, booking, facts, language) =>
    momentAtPlace(facts, freeUntil(service, booking), language),
  ),
  'booking.fee': ofBooking(({ cancellation }, _, language) =>
    moneyOr(cancellation?.feeCents ? cancellation.feeCents : null, language),
  ),
  'booking.dayFromSending': startDay((language, day, sendingDay) => dayWords(language, sendingDay, day)),
  'booking.distanceFromSending': startDay((language, day, sendingDay) =>
    distanceWords(language, sendingDay, day),
  ),
  'enquiry.wishedDate': ({ enquiry }, language) =>
    onDate(enquiry?.wishedOn, (day) => longDateIn(language, day)),
  'enquiry.progress': ({ progress }) => progress.join(' '),
  'enquiry.what': ({ enquiry }) => enquiry?.what ?? '',
  'enquiry.partySize': ({ enquiry }, language) =>
    enquiry?.partySize == null ? '' : peopleIn(language, enquiry.partySize),
  'enquiry.budget': ({ enquiry }, language) => moneyOr(enquiry?.budgetCents ?? null, language),
  'enquiry.source': ({ enquiry }) => enquiry?.source ?? '',
  'enquiry.deadline': ({ enquiry }, language) =>
    onDate(enquiry?.deadlineOn, (day) => longDateIn(language, day)),
  'invoice.amount': ({ invoice }, language) => (invoice ? moneyIn(language, invoice.amountCents) : ''),
  'invoice.number': ({ invoice }) => (invoice?.number == null ? '' : String(invoice.number)),
  'invoice.open': ({ invoice }, language) => (invoice ? moneyIn(language, openOf(invoice)) : ''),
  'invoice.dueDate': ({ invoice }, language) => onDate(invoice?.dueOn, (day) => longDateIn(language, day)),
  'invoice.dueFromSending': ({ invoice, zone, sendingAt }, language) =>
    onDate(invoice?.dueOn, (day) => distanceWords(language, dayAt(zone, sendingAt), day)),
  'run.startDate': ({ runStartedAt, zone }, language) => longDateIn(language, dayAt(zone, runStartedAt)),
  'person.name': ({ personInCharge, business }) => personInCharge?.name ?? business.name,
  'person.firstName': ({ personInCharge, business }) =>
    personInCharge ? firstWord(personInCharge.name) : business.name,
  'person.email': ({ personInCharge, business }) => personInCharge?.email ?? business.senderAddress,
  'business.name': ({ business }) => business.name,
  'business.phone': ({ business }) => business.phone,
  'business.postalAddress': ({ business }) => business.postalAddress,
  'link.booking': ({ bookingUrl }) => bookingUrl,
  'link.confirm': (facts) =>
    facts.booking && facts.service && awaitsClient(facts.service, facts.booking) ? facts.actUrls.confirm : '',
  'link.calendar': act('calendar'),
  'link.move': act('move'),
  'link.cancel': act('cancel'),
  'link.again': act('again'),
  'link.pay': ({ payUrl }) => payUrl,
  'link.all': ({ allUrl }) => allUrl,
  'link.optOut': ({ optOutUrl }) => optOutUrl,
}

/** What was answered to some words, for the booking or the enquiry a message is about. */
function ownValue(words: string, { booking, enquiry }: MergeFacts): string {
  const answers = [...(booking?.answers ?? []), ...(enquiry?.answers ?? [])]
  const found = answers.find(({ question }) => question === words)
  return (found?.answer ?? '').replaceAll('\n', ' ').trim()
}

/** Where a document is signed; empty: there is none of that name. */
const signUrl = (name: string, { toSign }: MergeFacts) =>
  toSign.find(({ document }) => document.name === name)?.url ?? ''

/** The value of a field for one recipient, in the letter's language; empty when there is none. */
export function fieldValue(field: FieldName, facts: MergeFacts, language: Language): string {
  if (isOwnField(field)) return ownValue(wordsOfOwnField(field), facts)
  if (isSignField(field)) return signUrl(documentOfSignField(field), facts)
  return values[field](facts, language).trim()
}
