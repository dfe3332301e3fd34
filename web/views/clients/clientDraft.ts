import { clientInput, type ClientInput } from '#core/engine/commands/clientCommands.ts'
import type { Client } from '#core/model/client.ts'
import { typedYearlyDate, yearlyDateWords } from './yearlyDate.ts'

/** A client as the form holds it: empty texts where the model has null. */
export interface ClientDraft {
  name: string
  zone: string | null
  language: Client['language']
  tags: string[]
  takesPromotional: boolean
  isActive: boolean
  contacts: ContactDraft[]
  namedDates: DateDraft[]
}

export interface ContactDraft {
  id: string | null
  firstName: string
  lastName: string
  email: string
  phone: string
  isPrimary: boolean
}

export interface DateDraft {
  label: string
  /** As it was typed. */
  day: string
}

export const emptyContact: ContactDraft = {
  id: null,
  firstName: '',
  lastName: '',
  email: '',
  phone: '',
  isPrimary: false,
}

export function draftOf(client: Client | null): ClientDraft {
  if (!client) {
    const contacts = [{ ...emptyContact, isPrimary: true }]
    return {
      name: '',
      zone: null,
      language: 'en',
      tags: [],
      takesPromotional: false,
      isActive: true,
      contacts,
      namedDates: [],
    }
  }
  const { name, zone, language, tags, takesPromotional, isActive } = client
  return {
    name,
    zone,
    language,
    tags: [...tags],
    takesPromotional,
    isActive,
    contacts: client.contacts.map((contact) => ({ ...contact, email: contact.email ?? '' })),
    namedDates: client.namedDates.map((date) => ({ label: date.label, day: yearlyDateWords(date) })),
  }
}

const noDate = 'This is no day of the calendar. It looks like 29 February 1992 or 29.2.'

/** What the draft says, or what is wrong with it by field. A client without a name takes the primary contact's. */
export function readClientDraft(
  draft: ClientDraft,
): { input: ClientInput } | { errors: Record<string, string> } {
  const primary = draft.contacts.find(({ isPrimary }) => isPrimary)
  const contactName = [primary?.firstName, primary?.lastName].filter(Boolean).join(' ')
  const parsed = clientInput.safeParse({
    ...draft,
    name: draft.name.trim() === '' ? contactName : draft.name,
    contacts: draft.contacts.map((contact) => ({
      ...contact,
      email: contact.email.trim() === '' ? null : contact.email.trim(),
    })),
    namedDates: draft.namedDates.map(({ label, day }) => ({
      label,
      ...(typedYearlyDate(day) ?? { monthDay: '', year: null }),
    })),
  })
  if (parsed.success) return { input: parsed.data }
  const errors: Record<string, string> = {}
  for (const { path, message } of parsed.error.issues) {
    const isDay = path[0] === 'namedDates' && path[2] !== 'label'
    errors[(isDay ? [...path.slice(0, 2), 'day'] : path).join('.')] ??= isDay ? noDate : message
  }
  return { errors }
}
