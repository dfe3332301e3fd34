import type { BookingPeople } from '../model/booking.ts'
import type { Business, Person } from '../model/business.ts'
import { fullName, primaryContact, type Client, type Contact } from '../model/client.ts'
import { reservedEndingOf, reservedSentence } from '../model/reservedAddress.ts'
import { thereOn, workOf } from './standIns.ts'
import { isMessage, stepTraits, type PlainStep, type RecipientRule } from '../model/step.ts'

/** Somebody who gets a step's message. */
export interface Recipient {
  /** Part of the send's key: a contact's or a person's id, `copy`, `business` or `address:…`. */
  readonly id: string
  readonly name: string
  readonly email: string | null
  readonly phone: string
  /** Null: not a contact of the client. */
  readonly contact: Contact | null
  /** The letter for this kind of recipient; null: the step's. */
  readonly letterId: string | null
}

/** What recipients are chosen from. */
export interface RecipientFacts {
  readonly client: Client
  readonly business: Business
  readonly people: readonly Person[]
  readonly personInCharge: Person | null
  /** Who of the contacts it is for by name, as a booking or an enquiry says; null: it says nobody. */
  readonly named: BookingPeople | null
}

/** Whether a recipient is one of a client's contacts; a colleague's copy is not one of the client's messages. */
export const isContactId = (recipientId: string) => recipientId.startsWith('ct_')

/** Whether a message to this recipient is one of the client's own; one that goes to nobody is, too. */
export const isClientsOwn = (recipientId: string) => recipientId === '' || isContactId(recipientId)

/** Why a further address cannot be written to; null: all of them may be real. */
export function unrealRecipient(
  rules: readonly RecipientRule[],
  { isRealMail }: { readonly isRealMail: boolean },
): string | null {
  const unreal = rules.find((rule) => rule.to === 'address' && reservedEndingOf(rule.address) !== null)
  if (!isRealMail || unreal?.to !== 'address') return null
  return reservedSentence(unreal.address, reservedEndingOf(unreal.address) ?? '')
}

/** Whose run it is for steps that write to nobody. */
export const nobody: Recipient = {
  id: '',
  name: '',
  email: null,
  phone: '',
  contact: null,
  letterId: null,
}

/** The address a step reaches somebody by: a telephone number for text messages, else the e-mail address; null: none. */
export function addressFor(step: PlainStep, { email, phone }: Recipient): string | null {
  return stepTraits[step.kind].goesTo === 'phone' ? phone || null : email
}

/** Who a step is for: its recipients, or nobody where it writes to nobody. */
export function recipientsOfStep(step: PlainStep, facts: RecipientFacts): readonly Recipient[] {
  if (!isMessage(step)) return [nobody]
  return recipientsOf(step.recipients, facts, stepTraits[step.kind].goesTo ?? 'email')
}

/** The name of a recipient by their id alone, where the step no longer says who they are; empty: nobody of today. */
export function recipientNamed(id: string, { client, business, people }: RecipientFacts): string {
  const contact = client.contacts.find((one) => one.id === id)
  if (contact) return fullName(client, contact)
  if (id === 'business' || id === 'copy') return business.senderName
  return people.find((one) => one.id === id)?.name ?? ''
}

function ofContact(client: Client, contact: Contact, letterId: string | null): Recipient {
  const { id, email, phone } = contact
  return { id, name: fullName(client, contact), email, phone, contact, letterId }
}

function ofPerson({ id, name, email }: Person, letterId: string | null): Recipient {
  return { id, name, email, phone: '', contact: null, letterId }
}

function ofBusiness(id: string, { senderName, senderAddress, phone }: Business, letterId: string | null) {
  return { id, name: senderName, email: senderAddress, phone, contact: null, letterId }
}

/** Who pays for a booking: the contact that is named, else the primary one. */
const payerOf = (client: Client, named: RecipientFacts['named']) =>
  client.contacts.find(({ id }) => id === named?.payerId) ?? primaryContact(client)

/** Who takes part, as far as contacts are named; else the primary one. */
function participantsOf(client: Client, named: RecipientFacts['named']): readonly Contact[] {
  const found = client.contacts.filter(({ id }) => named?.participantIds.includes(id))
  return found.length === 0 ? [primaryContact(client)] : found
}

function byRule(rule: RecipientRule, facts: RecipientFacts): readonly Recipient[] {
  const { client, business, people, personInCharge, named } = facts
  const { letterId } = rule
  switch (rule.to) {
    case 'primary contact':
      return [ofContact(client, primaryContact(client), letterId)]
    case 'all contacts':
      return [primaryContact(client), ...client.contacts.filter(({ isPrimary }) => !isPrimary)].map((one) =>
        ofContact(client, one, letterId),
      )
    case 'other contacts':
      return client.contacts
        .filter(({ isPrimary }) => !isPrimary)
        .map((one) => ofContact(client, one, letterId))
    case 'who pays':
      return [ofContact(client, payerOf(client, named), letterId)]
    case 'who takes part':
      return participantsOf(client, named).map((one) => ofContact(client, one, letterId))
    case 'named contacts':
      return client.contacts
        .filter(({ id }) => rule.contactIds.includes(id))
        .map((one) => ofContact(client, one, letterId))
    case 'person in charge':
      return [
        personInCharge ? ofPerson(personInCharge, letterId) : ofBusiness('business', business, letterId),
      ]
    case 'person': {
      const person = workOf(people, rule.personId)
      return [person ? ofPerson(person, letterId) : ofBusiness('business', business, letterId)]
    }
    case 'team':
      return people.filter(({ isActive }) => isActive).map((one) => ofPerson(one, letterId))
    case 'copy to self':
      return [ofBusiness('copy', business, letterId)]
    case 'address':
      return [
        {
          id: `address:${rule.address.toLowerCase()}`,
          name: rule.name,
          email: rule.address,
          phone: '',
          contact: null,
          letterId,
        },
      ]
  }
}

/** A recipient as they are to be reached on a date: while somebody of the team is away, their stand-in. */
export function reachedOn(recipient: Recipient, people: readonly Person[], dateOf: () => string): Recipient {
  const person = people.find(({ id }) => id === recipient.id)
  // Most are clients, or never away: for them no date is worked out.
  if (!person || person.away.length === 0) return recipient
  const present = thereOn(people, person, dateOf())
  return present === person ? recipient : { ...recipient, name: present.name, email: present.email }
}

/**
 * Who gets a step's message, by the address it goes by. One address gets one copy: a later recipient with the same
 * address is left out, and where both are contacts the copy names both.
 */
export function recipientsOf(
  rules: readonly RecipientRule[],
  facts: RecipientFacts,
  by: 'email' | 'phone',
): readonly Recipient[] {
  const [only] = rules
  const all = rules.length === 1 && only ? byRule(only, facts) : rules.flatMap((rule) => byRule(rule, facts))
  if (all.length === 1) return all
  const chosen: Recipient[] = []
  for (const one of all) {
    const address = one[by]
    const index = chosen.findIndex(
      (other) =>
        other.id === one.id || (Boolean(address) && other[by]?.toLowerCase() === address?.toLowerCase()),
    )
    const earlier = chosen[index]
    if (!earlier) chosen.push(one)
    else if (earlier.contact && one.contact && earlier.id !== one.id)
      chosen[index] = { ...earlier, name: `${earlier.name} and ${one.name}` }
  }
  return chosen
}
