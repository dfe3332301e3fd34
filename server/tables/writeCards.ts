import ICAL from 'ical.js'
import type { Client } from '#core/model/client.ts'
import { birthdayOf } from '#core/tables/clientTable.ts'
import { writtenDate } from '#core/tables/dates.ts'

/** A client as a card, vCard 4.0 (RFC 6350). */
export function cardOf({ id, name, zone, language, contacts, namedDates, tags }: Client): string {
  const card = new ICAL.Component(['vcard', [], []])
  card.addPropertyWithValue('version', '4.0')
  card.addPropertyWithValue('uid', `urn:vorfreude:${id}`)
  card.addPropertyWithValue('fn', name)
  const primary = contacts.find(({ isPrimary }) => isPrimary)
  card.addPropertyWithValue('n', [primary?.lastName ?? '', primary?.firstName ?? '', '', '', ''])
  const [first, ...others] = contacts.toSorted(
    (one, other) => Number(other.isPrimary) - Number(one.isPrimary),
  )
  for (const { email } of [first, ...others].filter((one) => one !== undefined)) {
    if (email !== null) card.addPropertyWithValue('email', email)
  }
  if (primary && primary.phone !== '') {
    const phone = new ICAL.Property('tel')
    // A number as it is written; as a link it would have to be a global one.
    phone.setParameter('value', 'text')
    phone.setValue(primary.phone)
    card.addProperty(phone)
  }
  card.addPropertyWithValue('lang', language)
  if (zone !== null) card.addPropertyWithValue('tz', zone)
  if (tags.length > 0) {
    const categories = new ICAL.Property('categories')
    categories.setValues([...tags])
    card.addProperty(categories)
  }
  const birthday = birthdayOf({ namedDates })
  // The basic format (ISO 8601), as vCard has it.
  const day = birthday && writtenDate(birthday).replaceAll(/(?<=\d)-/g, '')
  const text = card.toString()
  // The library writes no date without a year.
  return day === undefined ? `${text}\r\n` : `${text.replace(/END:VCARD$/, `BDAY:${day}\r\nEND:VCARD`)}\r\n`
}
