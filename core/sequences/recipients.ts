import { primaryContact, type Client, type Contact } from '../model/client.ts'

/** Who gets a step's message: the primary contact of the client. One contact, one copy. */
export function recipientsOf(client: Client): readonly Contact[] {
  return [primaryContact(client)]
}
