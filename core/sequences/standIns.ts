import type { Person } from '../model/business.ts'

/*
 * Who does somebody's work: they themselves, whoever took it over when they left, whoever stands in while they are away.
 */

type People = readonly Person[]

/** Follows from one to the next as long as there is one, and never in a circle. */
function followed(first: Person, next: (one: Person) => Person | undefined): Person {
  const seen = new Set<string>()
  let present = first
  for (let one = next(present); one && !seen.has(one.id); one = next(present)) {
    seen.add(present.id)
    present = one
  }
  return present
}

/** Whose work somebody's is now: theirs, or that of who took it over when they left; null: nobody's. */
export function workOf(people: People, personId: string | null): Person | null {
  const person = people.find(({ id }) => id === personId)
  if (!person) return null
  const present = followed(person, ({ isActive, handedToId }) =>
    isActive ? undefined : people.find(({ id }) => id === handedToId),
  )
  return present.isActive ? present : null
}

/** The time somebody is away that a date lies in; undefined: they are there. */
export const awayOn = ({ away }: Pick<Person, 'away'>, date: string) =>
  away.find(({ from, to }) => from <= date && date <= to)

/** Who is there for somebody on a date: they, or who stands in for them. Where nobody does it stays theirs. */
export function thereOn(people: People, person: Person, date: string): Person {
  const present = followed(person, (one) => {
    const standInId = awayOn(one, date)?.standInId ?? null
    return workOf(people, standInId) ?? undefined
  })
  return awayOn(present, date) ? person : present
}
