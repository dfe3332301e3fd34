import { z } from 'zod'
import { folded } from './folded.ts'
import { emailAddress, idOf, instant, isoDate, language, oneLine, requiredLine } from './values.ts'

export const clientId = idOf('cl')
export const contactId = idOf('ct')

export const contact = z
  .object({
    id: contactId,
    firstName: oneLine(80),
    lastName: oneLine(80),
    email: emailAddress.nullable(),
    phone: oneLine(60),
    isPrimary: z.boolean(),
  })
  .strict()
export type Contact = z.infer<typeof contact>

/** A date of a client that comes back every year; the year of it may be unknown. */
export const namedDate = z
  .object({
    label: requiredLine(60, 'A date needs a label, such as birthday.'),
    monthDay: z
      .string()
      .regex(/^\d{2}-\d{2}$/, 'A yearly date looks like 02-29.')
      .refine((text) => isoDate.safeParse(`2024-${text}`).success, 'There is no such day in the calendar.'),
    year: z.number().int().min(1800).max(2200).nullable(),
  })
  .strict()

export const client = z
  .object({
    id: clientId,
    name: requiredLine(160, 'A client needs a name.'),
    /** Zone the client lives in; null: that of the business. */
    zone: z.string().nullable(),
    language,
    contacts: z
      .array(contact)
      .min(1, 'A client needs at least one contact.')
      .refine(
        (contacts) => contacts.filter((one) => one.isPrimary).length === 1,
        'Exactly one contact is the primary one.',
      ),
    namedDates: z.array(namedDate),
    tags: z.array(requiredLine(40, 'A tag needs a word.')),
    takesPromotional: z.boolean(),
    isActive: z.boolean(),
    /** Nothing goes to this client until that is lifted; planning goes on. */
    isHeldBack: z.boolean().default(false),
    addedAt: instant,
    revision: z.number().int().min(1),
  })
  .strict()
export type Client = z.infer<typeof client>

/** So many contacts and yearly dates one client can have. */
export const mostContacts = 20
export const mostNamedDates = 20

type Named = Pick<Contact, 'firstName' | 'lastName' | 'email' | 'phone'>

/** A contact with what is known of them besides; what is there stays. */
export const filledBy = (contact: Contact, by: Named | undefined): Contact =>
  by === undefined
    ? contact
    : {
        ...contact,
        firstName: contact.firstName || by.firstName,
        lastName: contact.lastName || by.lastName,
        email: contact.email ?? by.email,
        phone: contact.phone || by.phone,
      }

/** Yearly dates with others besides; of one name the first stays. */
export function datesTogether(
  there: Client['namedDates'],
  further: Client['namedDates'],
): Client['namedDates'] {
  const labels = new Set(there.map(({ label }) => folded(label)))
  return [...there, ...further.filter(({ label }) => !labels.has(folded(label)))]
}

/** The contact that messages go to unless a step says otherwise. */
export function primaryContact(of: Client): Contact {
  const primary = of.contacts.find((one) => one.isPrimary)
  if (!primary) throw new Error(`Client ${of.id} has no primary contact`)
  return primary
}

/** First and last name together; the client's name where both are missing. */
export function fullName(
  of: Pick<Client, 'name'>,
  contactOfIt: Pick<Contact, 'firstName' | 'lastName'>,
): string {
  return [contactOfIt.firstName, contactOfIt.lastName].filter(Boolean).join(' ') || of.name
}
