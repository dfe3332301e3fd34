import { addClient, type ClientInput } from '#core/engine/commands/clientCommands.ts'
import type { EngineContext } from '#core/engine/context.ts'
import { withEffects, type Effect } from '#core/engine/effects.ts'
import { folded } from '#core/model/folded.ts'
import { done, type Result } from '#core/model/problem.ts'
import type { Language } from '#core/model/values.ts'
import { factsOf, type Settings, type Slice } from '#core/planning/slice.ts'
import { onlyLiving } from '../../db/livingStore.ts'
import type { Application } from '../application.ts'

/* Who somebody is by their name and address, so that nobody is there twice. */

/** Who books or fills in a form on a public page, or stands in a calendar that is brought in. */
export interface Booker {
  readonly firstName: string
  readonly lastName: string
  /** Null: not known, and no message reaches them. */
  readonly email: string | null
  readonly phone: string
  readonly language: Language
  /** Null: where the business is, as far as is known. */
  readonly zone: string | null
  /** Whether they have said that they take promotional mail. */
  readonly takesPromotional?: boolean
}

const nameOf = ({ firstName, lastName }: Booker) => [firstName, lastName].filter(Boolean).join(' ')

function inputOf(booker: Booker): ClientInput {
  const { firstName, lastName, email, phone, language, zone, takesPromotional = false } = booker
  return {
    name: nameOf(booker),
    zone,
    language,
    tags: [],
    takesPromotional,
    isActive: true,
    contacts: [{ id: null, firstName, lastName, email, phone, isPrimary: true }],
    namedDates: [],
  }
}

/**
 * The client somebody is by their address; where several share it, the one of that name; by the name alone where there
 * is no address. Null: nobody yet.
 */
function knownAs({ store }: Application, booker: Booker): string | null {
  const { email } = booker
  const rows =
    email === null
      ? store.statements.all('clientsByName', { name: nameOf(booker) })
      : store.statements.all('clientsByAddress', { email })
  const [only] = rows
  if (rows.length === 1) return String(only?.['id'])
  const name = folded(nameOf(booker))
  const same = rows.find((row) => folded(String(row['name'])) === name)
  return same ? String(same['id']) : null
}

interface Known {
  readonly slice: Slice
  /** What makes them known, where they are new. */
  readonly effects: readonly Effect[]
}

/** Who books: somebody who is known, whose facts are left as they are, or a new client. */
export function known(
  application: Application,
  booker: Booker,
  settings: Settings,
  context: EngineContext,
): Result<Known> {
  const id = knownAs(application, booker)
  const slice = id === null ? null : application.sliceOf(id, onlyLiving)
  if (slice) return done({ slice, effects: [] })
  const added = addClient(settings, inputOf(booker), context)
  if (!added.ok) return added
  const client = added.value.flatMap((one) => (one.kind === 'put client' ? [one.client] : []))[0]
  if (!client) throw new Error('The command added no client')
  return done({ slice: { settings, facts: withEffects(factsOf(client), added.value) }, effects: added.value })
}
