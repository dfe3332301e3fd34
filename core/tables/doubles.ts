import type { ClientInput } from '../engine/commands/clientCommands.ts'
import { datesTogether, filledBy, mostContacts, mostNamedDates, type Client } from '../model/client.ts'
import { folded } from '../model/folded.ts'
import { phoneKey } from '../model/phoneKey.ts'

/** By what a client in a table and one that is there are taken for the same person. */
export const sameBy = ['address', 'telephone', 'name and date'] as const
export type SameBy = (typeof sameBy)[number]

/** What may be the same of two clients. */
export type Comparable = Pick<ClientInput, 'name' | 'namedDates'> & {
  readonly contacts: readonly Pick<ClientInput['contacts'][number], 'email' | 'phone'>[]
}

/** What a client is compared by, the surest first. */
export function keysOf({ name, contacts, namedDates }: Comparable): readonly (readonly [SameBy, string])[] {
  return [
    ...contacts.flatMap(({ email }) => (email === null ? [] : [['address', email.toLowerCase()] as const])),
    ...contacts.flatMap(({ phone }) => {
      const key = phoneKey(phone)
      return key === null ? [] : [['telephone', key] as const]
    }),
    ...namedDates.map(({ monthDay }) => ['name and date', `${folded(name)} ${monthDay}`] as const),
  ]
}

/** Those that are known, by what they are compared by. */
export class Known<Value> {
  readonly #byKey = new Map<string, Value>()

  add(of: Comparable, value: Value) {
    for (const [by, key] of keysOf(of)) {
      const whole = `${by} ${key}`
      if (!this.#byKey.has(whole)) this.#byKey.set(whole, value)
    }
  }

  /** The first that is the same by something; null: there is none. */
  find(of: Comparable): { readonly by: SameBy; readonly value: Value } | null {
    for (const [by, key] of keysOf(of)) {
      const value = this.#byKey.get(`${by} ${key}`)
      if (value !== undefined) return { by, value }
    }
    return null
  }
}

/** Those among all who may be the same as one of them, each with by what, in the order they come. */
export function sameAs<One extends Comparable & { readonly id: string }>(
  all: readonly One[],
  id: string,
): readonly { readonly one: One; readonly by: SameBy }[] {
  const self = all.find((one) => one.id === id)
  if (!self) return []
  const known = new Known<true>()
  known.add(self, true)
  return all.flatMap((one) => {
    const same = one.id === id ? null : known.find(one)
    return same ? [{ one, by: same.by }] : []
  })
}

/**
 * A client with what a table knows besides: what is there stays, what is missing comes in. The same client where nothing
 * is missing.
 */
export function mergedInto(there: Client, row: ClientInput, newId: (prefix: string) => string): Client {
  const [primary] = row.contacts
  const emails = new Set(there.contacts.flatMap(({ email }) => (email === null ? [] : [email.toLowerCase()])))
  const filled = there.contacts.map((contact) => (contact.isPrimary ? filledBy(contact, primary) : contact))
  const further = row.contacts.filter(
    ({ email }) =>
      email !== null &&
      !emails.has(email.toLowerCase()) &&
      !filled.some((one) => one.email?.toLowerCase() === email.toLowerCase()),
  )
  const merged: Client = {
    ...there,
    zone: there.zone ?? row.zone,
    contacts: [
      ...filled,
      ...further.map((contact) => ({ ...contact, id: newId('ct'), isPrimary: false })),
    ].slice(0, mostContacts),
    tags: [...new Set([...there.tags, ...row.tags])],
    namedDates: datesTogether(there.namedDates, row.namedDates).slice(0, mostNamedDates),
  }
  const isSame = JSON.stringify(merged) === JSON.stringify(there)
  return isSame ? there : { ...merged, revision: there.revision + 1 }
}
