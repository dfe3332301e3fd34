import { z } from 'zod'
import { person, personId, type Person } from '../../model/business.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { elsewhere, type SettingsFault } from './settingsFault.ts'

/* The people of the team, as they are added and changed. */

export const personInput = person.omit({ id: true, revision: true })
export type PersonInput = z.infer<typeof personInput>

/** A person of the team is added or changed, on the revision that was decided on. */
export const personSettingsChange = z
  .object({
    of: z.literal('person'),
    /** Null: a new one. */
    id: personId.nullable(),
    revision: z.number().int(),
    person: personInput,
  })
  .strict()

/** What of somebody's times away cannot be. */
function awayFault(
  { people }: Pick<Settings, 'people'>,
  id: string | null,
  { away, name }: PersonInput,
): SettingsFault | null {
  for (const [index, { from, to, standInId }] of away.entries()) {
    const other = away.findIndex((one, later) => later > index && one.from <= to && from <= one.to)
    if (other >= 0) return [`away.${other}.from`, 'It overlaps with another time away.']
    if (standInId === null) continue
    if (standInId === id) return [`away.${index}.standInId`, `${name} cannot stand in for themselves.`]
    if (!people.some((one) => one.id === standInId && one.isActive)) {
      return [`away.${index}.standInId`, 'Who stands in has left the team, or is not in it.']
    }
  }
  return null
}

/** Why what was somebody's cannot be given to whoever is to take it over. */
function handingFault(
  { people }: Pick<Settings, 'people'>,
  id: string | null,
  handedToId: string | null,
): SettingsFault | null {
  if (handedToId === null) return null
  return handedToId !== id && people.some((one) => one.id === handedToId && one.isActive)
    ? null
    : ['handedToId', 'Choose somebody else who is in the team.']
}

function personFault(
  { people, services }: Settings,
  id: string | null,
  input: PersonInput,
): SettingsFault | null {
  const { name, email, role, isActive, hours } = input
  const others = people.filter((one) => one.id !== id)
  if (isActive && others.some((one) => one.isActive && one.email.toLowerCase() === email.toLowerCase())) {
    return ['email', 'Somebody else of the team has this address.']
  }
  const isLastOwner = !others.some((one) => one.isActive && one.role === 'owner')
  if (isLastOwner && (role !== 'owner' || !isActive)) {
    return ['role', 'Somebody has to be the owner. Make somebody else the owner first.']
  }
  if (hours?.weekly.every((day) => day.length === 0)) {
    return ['hours', `${name} could never be booked: give hours on at least one day.`]
  }
  const alone = services.find(
    ({ offer, isActive: isUsed }) => isUsed && offer.personIds.length === 1 && offer.personIds[0] === id,
  )
  if (!isActive && alone) {
    return ['isActive', `Nobody else can do “${alone.name}”. Say first who does it then.`]
  }
  return (
    awayFault({ people }, id, input) ?? (isActive ? null : handingFault({ people }, id, input.handedToId))
  )
}

export function personChanged(
  settings: Settings,
  { id, revision, person: input }: z.infer<typeof personSettingsChange>,
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.people.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such person in the team.')
  if (present && present.revision !== revision) return elsewhere()
  const fault = personFault(settings, id, input)
  if (fault) return refused('invalid', fault[1], fault[0])
  const put: Person = {
    ...input,
    // Whoever is back does their own work again.
    handedToId: input.isActive ? null : input.handedToId,
    id: id ?? context.newId('pe'),
    revision: (present?.revision ?? 0) + 1,
  }
  const { handedToId } = put
  const heir = settings.people.find((one) => one.id === handedToId)
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put person', person: put },
    ...(handedToId === null ? [] : [{ kind: 'hand tasks on' as const, fromId: put.id, toId: handedToId }]),
    appendEvent(
      context,
      'settings changed',
      { name: put.name },
      `Person ${deed}: ${put.name}.${heir ? ` What was theirs is ${heir.name}’s now.` : ''}`,
    ),
  ])
}
