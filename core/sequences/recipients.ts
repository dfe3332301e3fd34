import { primaryContact, type Client, type Contact } from '../model/client.ts'
import type { Recipients } from '../model/sequence.ts'

/** Who gets a step's message. One address gets one copy: a later contact with the same address is left out. */
export function recipientsOf(client: Client, recipients: Recipients): readonly Contact[] {
  if (recipients === 'primary contact') return [primaryContact(client)]
  const ordered = [primaryContact(client), ...client.contacts.filter(({ isPrimary }) => !isPrimary)]
  return ordered.filter(
    ({ email }, index) =>
      email === null ||
      ordered.findIndex((other) => other.email?.toLowerCase() === email.toLowerCase()) === index,
  )
}
