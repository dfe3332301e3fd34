import {
  documentOfSignField,
  isOwnField,
  isSignField,
  wordsOfOwnField,
  type FieldName,
  type Inline,
  type PlainFieldName,
} from '../model/letter.ts'
import type { SubjectKind } from '../model/subject.ts'

/** Whom or what a letter can be about; a field is available only where its facts are. */
export type FieldNeed = Exclude<SubjectKind, 'client'> | 'nothing'

export interface FieldInfo {
  /** As people call it. */
  readonly label: string
  readonly group:
    | 'Contact'
    | 'Booking'
    | 'Enquiry'
    | 'Own fields'
    | 'Invoice'
    | 'Sequence'
    | 'Person in charge'
    | 'Business'
    | 'Links'
  readonly needs: FieldNeed
  /** Filled in from the moment of sending. */
  readonly isOfMoment?: boolean
  /** Can be missing although what it needs is there. */
  readonly canBeMissing?: boolean
}

const contact = (label: string, canBeMissing = false): FieldInfo => ({
  label,
  group: 'Contact',
  needs: 'nothing',
  canBeMissing,
})
const booking = (label: string, part: Partial<FieldInfo> = {}): FieldInfo => ({
  label,
  group: 'Booking',
  needs: 'booking',
  ...part,
})
const invoice = (label: string, part: Partial<FieldInfo> = {}): FieldInfo => ({
  label,
  group: 'Invoice',
  needs: 'invoice',
  ...part,
})
/** Of an enquiry little may be known. */
const enquiry = (label: string): FieldInfo => ({
  label,
  group: 'Enquiry',
  needs: 'enquiry',
  canBeMissing: true,
})
const person = (label: string): FieldInfo => ({ label, group: 'Person in charge', needs: 'nothing' })
const business = (label: string, canBeMissing = false): FieldInfo => ({
  label,
  group: 'Business',
  needs: 'nothing',
  canBeMissing,
})

/** What is known of every merge field but those of the business's own. */
export const fieldList: Readonly<Record<PlainFieldName, FieldInfo>> = {
  'contact.firstName': contact('First name', true),
  'contact.lastName': contact('Last name', true),
  'contact.fullName': contact('Full name'),
  'client.name': contact('Client'),
  'booking.service': booking('Service'),
  'booking.place': booking('Place', { canBeMissing: true }),
  'booking.date': booking('Date'),
  'booking.shortDate': booking('Short date'),
  'booking.weekday': booking('Weekday'),
  'booking.time': booking('Start time'),
  'booking.endTime': booking('End time'),
  'booking.oldDate': booking('Old date', { canBeMissing: true }),
  'booking.oldTime': booking('Old start time', { canBeMissing: true }),
  'booking.partySize': booking('Number of people'),
  'booking.directions': booking('How to get there', { canBeMissing: true }),
  'booking.price': booking('Price', { canBeMissing: true }),
  'booking.deposit': booking('Deposit', { canBeMissing: true }),
  'booking.balance': booking('Rest of the price', { canBeMissing: true }),
  'booking.freeUntil': booking('Free to cancel until'),
  'booking.fee': booking('Fee for cancelling', { canBeMissing: true }),
  'booking.dayFromSending': booking('Weekday or date', { isOfMoment: true }),
  'booking.distanceFromSending': booking('Days to go', { isOfMoment: true }),
  'enquiry.wishedDate': enquiry('Date wished for'),
  'enquiry.progress': enquiry('What was ticked'),
  'enquiry.what': enquiry('What it is for'),
  'enquiry.partySize': enquiry('People asked for'),
  'enquiry.budget': enquiry('Budget'),
  'enquiry.source': enquiry('Where it came from'),
  'enquiry.deadline': enquiry('Deadline'),
  'invoice.amount': invoice('Amount'),
  'invoice.number': invoice('Number of the invoice', { canBeMissing: true }),
  'invoice.open': invoice('What is still to pay', { isOfMoment: true }),
  'invoice.dueDate': invoice('Due date', { canBeMissing: true }),
  'invoice.dueFromSending': invoice('Days until due', { isOfMoment: true, canBeMissing: true }),
  'run.startDate': { label: 'Start of the sequence', group: 'Sequence', needs: 'nothing' },
  'person.name': person('Person in charge'),
  'person.firstName': person('First name of the person in charge'),
  'person.email': person('E-mail of the person in charge'),
  'business.name': business('Business'),
  'business.phone': business('Telephone', true),
  'business.postalAddress': business('Postal address', true),
  'link.booking': { label: 'The booking’s page', group: 'Links', needs: 'booking' },
  'link.confirm': { label: 'Confirm the booking', group: 'Links', needs: 'booking', canBeMissing: true },
  'link.calendar': { label: 'Add to the calendar', group: 'Links', needs: 'booking' },
  'link.move': { label: 'Move the booking', group: 'Links', needs: 'booking' },
  'link.cancel': { label: 'Cancel the booking', group: 'Links', needs: 'booking' },
  'link.again': { label: 'Book again', group: 'Links', needs: 'booking' },
  'link.pay': { label: 'Pay the invoice', group: 'Links', needs: 'invoice' },
  'link.all': { label: 'All their bookings', group: 'Links', needs: 'nothing' },
  'link.optOut': { label: 'Choose what to get', group: 'Links', needs: 'nothing' },
}

/** What is known of a merge field. */
export function fieldInfo(field: FieldName): FieldInfo {
  if (isSignField(field)) {
    return { label: `Sign “${documentOfSignField(field)}”`, group: 'Links', needs: 'nothing' }
  }
  if (!isOwnField(field)) return fieldList[field]
  return { label: wordsOfOwnField(field), group: 'Own fields', needs: 'nothing', canBeMissing: true }
}

/** Fields whose words depend on the moment of sending: they are filled in then, never frozen before. */
export function isOfMoment(field: FieldName): boolean {
  return fieldInfo(field).isOfMoment ?? false
}

/** A field put in anew: where it can be missing, somebody has to say what happens then. */
export function freshField(field: FieldName): Extract<Inline, { kind: 'field' }> {
  const kind = fieldInfo(field).canBeMissing ? 'undecided' : 'hold'
  return { kind: 'field', field, ifMissing: { kind } }
}
