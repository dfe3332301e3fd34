import { domainOf } from './values.ts'

/*
 * Names that no mail can ever reach: RFC 2606, sections 2 and 3, and RFC 6761, section 6. They stand in examples, in the
 * demo and in forms that were filled in without looking.
 */
const reservedEndings = [
  'test',
  'example',
  'invalid',
  'localhost',
  'example.com',
  'example.net',
  'example.org',
]

/** Why an address is not taken. */
export const reservedSentence = (address: string, ending: string) =>
  `${address} cannot be a real address: no mail reaches names ending in ${ending}.`

/** The reserved name at the end of an address; null: mail may reach it. */
export function reservedEndingOf(address: string): string | null {
  const host = `.${domainOf(address).toLowerCase()}`
  return reservedEndings.find((ending) => host.endsWith(`.${ending}`)) ?? null
}
