import { Link } from 'react-router'
import { BeginningList } from '../../parts/BeginningList.tsx'
import type { Answer, Of } from '../../app/api.ts'
import type { SendLine } from '#core/api/views.ts'
import { ToWhom } from '../../parts/ToWhom.tsx'
import { When } from '../../parts/When.tsx'
import styles from './Desk.module.css'

function Line({ word, send }: { word: string; send: SendLine | null }) {
  return (
    <>
      <dt>{word}</dt>
      <dd>
        {send === null ? (
          'nothing'
        ) : (
          <>
            <When at={send.shownAt} /> · {send.letterName} <ToWhom send={send} />
          </>
        )}
      </dd>
    </>
  )
}

/** A business that has only just begun: what there is to be done before the first message goes. */
function Beginning() {
  return (
    <article className={styles.detail} aria-label="Nothing needs you now">
      <h2>Nothing is planned yet.</h2>
      <BeginningList />
      <p>
        Once a sequence is live, <Link to="/bookings/new">make a booking</Link>: its messages are planned at
        once, each with its time.
      </p>
    </article>
  )
}

/** A Desk on which nothing needs anybody: what went last, what goes next, and where all of it stands. */
export function NothingWaits({ desk }: { desk: Answer<Of<'desk'>> }) {
  const { counts, last, next } = desk
  const today = counts['went-out']
  if (last === null && next === null) return <Beginning />
  return (
    <article className={styles.detail} aria-label="Nothing needs you now">
      <h2>Nothing needs you now.</h2>
      <p>
        {today === 0 ? 'Nothing has' : today === 1 ? '1 message has' : `${today} messages have`} gone out
        today
        {counts['still-today'] > 0 && `, ${counts['still-today']} more will`}.
      </p>
      <dl className={styles.lastAndNext}>
        <Line word="went last" send={last} />
        <Line word="goes next" send={next} />
      </dl>
      <p>
        <Link to="/desk/went-out">What went out today</Link> · <Link to="/ahead">All that is ahead</Link>
      </p>
    </article>
  )
}
