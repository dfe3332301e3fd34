import { z } from 'zod'
import { bookingStatus, canBecome, type BookingStatus } from '../../model/booking.ts'
import { isSameStatusName, ownStatus, ownStatusId, type OwnStatus } from '../../model/ownStatus.ts'
import { done, refused, type Result } from '../../model/problem.ts'
import type { Settings } from '../../planning/slice.ts'
import { appendEvent, type EngineContext } from '../context.ts'
import type { Effect } from '../effects.ts'
import { elsewhere, type SettingsFault } from './settingsFault.ts'

/* The statuses of the business's own, as they are added, changed and let go. */

/** A name and a meaning are for good: bookings, sequences and histories go by them. */
export const ownStatusInput = ownStatus.omit({ id: true, revision: true, comesSince: true })
export type OwnStatusInput = z.infer<typeof ownStatusInput>

/** A status of the business's own is added or changed, on the revision that was decided on. */
export const statusSettingsChange = z
  .object({
    of: z.literal('own status'),
    /** Null: a new one. */
    id: ownStatusId.nullable(),
    revision: z.number().int(),
    ownStatus: ownStatusInput,
  })
  .strict()

const isBuiltIn = (name: string): name is BookingStatus => bookingStatus.options.some((one) => one === name)

/** Why a status may not follow what it says it does; null: it may. */
function followingFault(
  settings: Settings,
  { name, meaning, after }: OwnStatusInput,
  previous: string,
): string | null {
  if (isSameStatusName(previous, name)) return `“${name}” cannot follow itself.`
  const own = settings.ownStatuses.find((one) => one.name === previous)
  if (!own && !isBuiltIn(previous)) return `There is no status “${previous}” that it could follow.`
  const before = own ? own.meaning : bookingStatus.parse(previous)
  if (before === meaning || (meaning !== 'requested' && canBecome(before, meaning))) return null
  const which = own ? `“${previous}” means ${before}, and a` : 'A'
  return `${which} booking that is ${before} cannot become ${meaning}${after.length > 1 ? `: take “${previous}” out` : ''}.`
}

function ownStatusFault(settings: Settings, id: string | null, input: OwnStatusInput): SettingsFault | null {
  const { name, meaning, after, comes, serviceIds } = input
  const present = settings.ownStatuses.find((one) => one.id === id)
  if (present && (present.name !== name || present.meaning !== meaning)) {
    const path = present.name === name ? 'meaning' : 'name'
    return [
      path,
      'A status keeps its name and its meaning: bookings, sequences and histories go by them. Archive it and add another one.',
    ]
  }
  if (settings.ownStatuses.some((one) => one.id !== id && isSameStatusName(one.name, name))) {
    return ['name', `There is a status “${name}” already.`]
  }
  if (!present && settings.ownStatuses.length >= 40) return ['name', 'At most 40 statuses of your own.']
  if (serviceIds.some((one) => !settings.services.some(({ id: of }) => of === one))) {
    return ['serviceIds', 'One of these services is not there any more.']
  }
  const fault = after.map((one) => followingFault(settings, input, one)).find((one) => one !== null)
  if (fault) return ['after', fault]
  const isEarly = comes !== null && comes.side === 'before'
  return isEarly && (meaning === 'completed' || meaning === 'missed')
    ? ['comes', `A booking that is still ahead cannot be ${meaning}: let it come after the start or the end.`]
    : null
}

export function ownStatusChanged(
  settings: Settings,
  { id, revision, ownStatus: input }: z.infer<typeof statusSettingsChange>,
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.ownStatuses.find((one) => one.id === id)
  if (id !== null && !present) return refused('not found', 'There is no such status any more.')
  if (present && present.revision !== revision) return elsewhere()
  const fault = ownStatusFault(settings, id, input)
  if (fault) return refused('invalid', fault[1], fault[0])
  const isSameMoment =
    present?.isActive === true && JSON.stringify(present.comes) === JSON.stringify(input.comes)
  const put: OwnStatus = {
    ...input,
    id: id ?? context.newId('os'),
    comesSince: isSameMoment ? present.comesSince : context.now,
    revision: (present?.revision ?? 0) + 1,
  }
  const deed = present ? 'changed' : 'added'
  return done([
    { kind: 'put own status', ownStatus: put },
    appendEvent(context, 'settings changed', { name: put.name }, `Status ${deed}: ${put.name}.`),
  ])
}

/** A status of the business's own that nothing depends on is deleted; `uses` are the names of what does. */
export function removeOwnStatus(
  settings: Settings,
  id: string,
  uses: readonly string[],
  context: EngineContext,
): Result<readonly Effect[]> {
  const present = settings.ownStatuses.find((one) => one.id === id)
  if (!present) return refused('not found', 'There is no such status any more.')
  if (uses.length > 0) {
    return refused('not allowed now', `It is still used: ${uses.join(', ')}. Archive it instead.`)
  }
  return done([
    { kind: 'remove own status', id },
    appendEvent(context, 'settings changed', { name: present.name }, `Status deleted: ${present.name}.`),
  ])
}
