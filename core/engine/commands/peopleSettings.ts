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
  return !isActive && alone
    ? ['isActive', `Nobody else can do “${alone.name}”. Say first who does it then.`]
    : null
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
  const put: Person = { ...input, id: id ?? context.newId('pe'), revision: (present?.revision ?? 0) + 1 }
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put person', person: put },
    appendEvent(context, 'settings changed', { name: put.name }, `Person ${deed}: ${put.name}.`),
  ])
}
