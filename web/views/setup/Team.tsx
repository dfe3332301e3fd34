import { Button } from '@mantine/core'
import { Link } from 'react-router'
import type { SettingsView } from '#core/api/views.ts'
import { epochDayOf, isoDateOf, weekdayNames } from '#core/time/calendar.ts'
import { shortDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { hoursText } from '#core/time/hoursText.ts'
import table from '../../parts/timetable.module.css'
import { PutAway } from './PutAway.tsx'

type Person = SettingsView['people'][number]

/** What is said of a role beside a name. */
const roleWords: Readonly<Record<Person['role'], readonly string[]>> = {
  owner: ['owner'],
  helper: [],
  onlooker: ['looks only'],
}

/** When somebody can be booked, such as `Mon 08:00-12:00, Tue 08:00-12:00`. */
function hoursWords({ hours }: Person): string {
  if (hours === null) return 'whenever what they do is offered'
  const days = hours.weekly.flatMap((day, index) =>
    day.length === 0 ? [] : [`${(weekdayNames[index] ?? '').slice(0, 3)} ${hoursText(day)}`],
  )
  const away = hours.closedDates.length
  return [...days, ...(away > 0 ? [`away on ${away === 1 ? '1 day' : `${away} days`}`] : [])].join(', ')
}

/** When somebody is away from today on, such as `away Mon 4 May to Fri 8 May, Bram Oakhollow stands in`. */
const awayWords = ({ away }: Person, people: readonly Person[], today: string): string[] =>
  away
    .filter(({ to }) => to >= today)
    .map(({ from, to, standInId }) => {
      const standIn = people.find(({ id }) => id === standInId)
      const days = [...new Set([from, to])].map((date) => shortDate(epochDayOf(date))).join(' to ')
      return `away ${days}, ${standIn ? `${standIn.name} stands in` : 'nobody stands in'}`
    })

function Line({ person, people }: { person: Person; people: readonly Person[] }) {
  const { id, name, email, role } = person
  const { zone, now } = useBusiness()
  const today = isoDateOf(dayAt(zone, now))
  return (
    <section aria-label={name}>
      <h2 className={table.group}>{name}</h2>
      <p style={{ margin: 0, padding: '0.5rem 1rem 0.75rem' }} className={table.quiet}>
        {[email, ...roleWords[role], hoursWords(person), ...awayWords(person, people, today)].join(' · ')} ·{' '}
        <Link to={`/set-up/person/${id}`} aria-label={`Edit ${name}`}>
          Edit
        </Link>
      </p>
    </section>
  )
}

/** The people of the team: who can be in charge, and when they can be booked. */
export function Team({ people }: Pick<SettingsView, 'people'>) {
  return (
    <>
      <div className={table.head} style={{ marginTop: '1.25rem' }}>
        <h2>Team</h2>
        <Button component={Link} to="/set-up/person/new">
          New person
        </Button>
      </div>
      <div className={table.sheet}>
        {people
          .filter(({ isActive }) => isActive)
          .map((person) => (
            <Line key={person.id} person={person} people={people} />
          ))}
      </div>
      <PutAway label="Have left" kind="person" items={people} />
    </>
  )
}
