import { Link } from 'react-router'
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

/** A Desk on which nothing needs anybody: what went last, what goes next, and where all of it stands. */
export function NothingWaits({ desk }: { desk: Answer<Of<'desk'>> }) {
  const { counts, last, next } = desk
  const today = counts['went-out']
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
