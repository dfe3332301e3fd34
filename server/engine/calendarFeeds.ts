import type { CalendarFeedLine } from '#core/api/settingsEndpoints.ts'
import type { Person } from '#core/model/business.ts'
import { idOfToken, signedToken } from '../mail/signedLinks.ts'
import type { Application } from './application.ts'

/** Whose bookings a calendar shows: those of a person, or all. */
export interface Feed {
  readonly id: string
  readonly name: string
  /** Null: those of everybody. */
  readonly personId: string | null
}

function feedsOf({ settings }: Application): readonly Feed[] {
  const { business, people } = settings.required()
  const own = people.filter(({ isActive }) => isActive).map(({ id, name }) => ({ id, name, personId: id }))
  return [{ id: 'all', name: business.name, personId: null }, ...own]
}

/** An address that was made anew is another one: it counts how often. */
function namesOf({ store }: Application): (feed: Feed) => string {
  const rows = store.statements.all('calendarFeeds')
  const generations = new Map(rows.map((row) => [String(row['id']), Number(row['generation'])]))
  return ({ id }) => `${id}~${generations.get(id) ?? 1}`
}

/** The calendar that an address is for; null: it leads nowhere, or not any more. */
export function feedByToken(application: Application, token: string): Feed | null {
  const named = idOfToken('calendar feed', token, application.store.keys)
  const nameOf = namesOf(application)
  return feedsOf(application).find((feed) => nameOf(feed) === named) ?? null
}

/** The calendars somebody may read: the owner all, everybody else their own. */
export function feedsFor(
  application: Application,
  { id, role }: Pick<Person, 'id' | 'role'>,
  publicUrl: string,
): readonly CalendarFeedLine[] {
  const nameOf = namesOf(application)
  return feedsOf(application)
    .filter((feed) => role === 'owner' || feed.id === id)
    .map((feed) => {
      const token = signedToken('calendar feed', nameOf(feed), application.store.keys)
      return { id: feed.id, name: feed.name, url: `${publicUrl}/feed/${token}/bookings.ics` }
    })
}
