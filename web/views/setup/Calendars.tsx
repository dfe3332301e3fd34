import { Button } from '@mantine/core'
import { useState } from 'react'
import type { CalendarFeedLine } from '#core/api/settingsEndpoints.ts'
import { useAsk, useTell } from '../../app/queries.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'
import { Copied } from '../../parts/Copied.tsx'
import styles from './setup.module.css'

function Feed({ feed: { id, name, url } }: { feed: CalendarFeedLine }) {
  const [isAsking, setIsAsking] = useState(false)
  const renew = useTell('renewCalendarFeed', () => setIsAsking(false))
  const what = id === 'all' ? 'all bookings' : name
  return (
    <div>
      <Copied label={id === 'all' ? 'All bookings' : `Bookings of ${name}`} text={url}>
        {!isAsking && (
          <Button
            size="compact-sm"
            variant="subtle"
            onClick={() => setIsAsking(true)}
            aria-label={`New address: ${what}`}
          >
            New address…
          </Button>
        )}
      </Copied>
      {isAsking && (
        <>
          <p>The address it has now leads nowhere any more; each calendar has to be given the new one.</p>
          <Problem of={renew.error} />
          <div className={table.acts}>
            <Button
              size="compact-sm"
              color="brick"
              loading={renew.isPending}
              onClick={() => renew.mutate({ parameters: { id }, body: {} })}
            >
              Make a new address
            </Button>
            <Button size="compact-sm" variant="default" onClick={() => setIsAsking(false)}>
              Leave it
            </Button>
          </div>
        </>
      )}
    </div>
  )
}

/** The bookings in the calendar program of each of the team: it reads them by an address of its own. */
export function Calendars() {
  const feeds = useAsk('calendarFeeds')
  if (!feeds.data) return null
  return (
    <section className={table.sheet} aria-label="Calendars" style={{ marginBottom: '1rem' }}>
      <h2 className={table.group}>Calendars</h2>
      <div className={styles.form}>
        <p>
          A calendar program can read the bookings by these addresses. Who has one sees the names and numbers
          of clients: give it to nobody else.
        </p>
        {feeds.data.feeds.map((feed) => (
          <Feed key={feed.id} feed={feed} />
        ))}
      </div>
    </section>
  )
}
