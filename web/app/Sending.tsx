import { Button, UnstyledButton } from '@mantine/core'
import { Link } from 'react-router'
import { createContext, useContext, useState, type ReactNode } from 'react'
import { isoDateOf } from '#core/time/calendar.ts'
import { dayAt } from '#core/time/zones.ts'
import { ConsideredAct } from '../parts/ConsideredAct.tsx'
import { When } from '../parts/When.tsx'
import { useBusiness } from './business.ts'
import { useAsk } from './queries.ts'
import styles from './Sending.module.css'

const asking = createContext<{ isAsking: boolean; setAsking: (is: boolean) => void }>({
  isAsking: false,
  setAsking: () => undefined,
})

/** Keeps whether the page is asking about the master switch; the switch and the notice share it. */
export function SendingProvider({ children }: { children: ReactNode }) {
  const [isAsking, setAsking] = useState(false)
  return <asking.Provider value={{ isAsking, setAsking }}>{children}</asking.Provider>
}

/** The master switch, always in sight. Pressing it asks first. */
export function SendingSwitch() {
  const { overview, isOwner } = useBusiness()
  const { isAsking, setAsking } = useContext(asking)
  const { isOn } = overview.sending
  const words = (
    <>
      <span aria-hidden>{isOn ? '●' : '‖'}</span> {isOn ? 'Sending on' : 'Held back'}
    </>
  )
  if (!isOwner) {
    return (
      <span className={styles.switch} data-on={isOn}>
        {words}
      </span>
    )
  }
  return (
    <UnstyledButton
      className={styles.switch}
      data-on={isOn}
      onClick={() => setAsking(!isAsking)}
      aria-expanded={isAsking}
      aria-controls="sending-notice"
    >
      {words}
    </UnstyledButton>
  )
}

const longAgo = '2000-01-01'

function WhatWasMissed() {
  const { zone, now } = useBusiness()
  const query = { from: longAgo, to: isoDateOf(dayAt(zone, now)), states: 'ready,approved' }
  const { data } = useAsk('sends', { query })
  const missed = (data?.sends ?? []).filter(({ shownAt }) => shownAt <= now)
  // As high as what mostly comes, so that the press below stays where it is.
  if (!data) return <p>Looking at what was missed …</p>
  if (missed.length === 0) return <p>Nothing was missed.</p>
  return (
    <>
      <p>
        {missed.length === 1 ? 'One message' : `${missed.length} messages`} fell due meanwhile. Switching on
        sends none of them: they are listed in Trouble on the Desk, each to be sent now or skipped.
      </p>
      <ul className={styles.missed}>
        {missed.slice(0, 8).map((send) => (
          <li key={send.id}>
            <When at={send.shownAt} /> · {send.letterName} · {send.clientName}
          </li>
        ))}
        {missed.length > 8 && <li>and {missed.length - 8} more</li>}
      </ul>
    </>
  )
}

function Question() {
  const { overview } = useBusiness()
  const { setAsking } = useContext(asking)
  const { isOn, onTheirWay } = overview.sending
  return (
    <>
      {isOn ? (
        <p>
          <b>Hold back all sending?</b> {onTheirWay} planned messages wait then, and no other leaves, until it
          is switched on again.
        </p>
      ) : (
        <WhatWasMissed />
      )}
      <div className={styles.would}>
        <ConsideredAct
          name="setSending"
          asked={{ body: { isOn: !isOn } }}
          word={isOn ? 'Hold back all sending' : 'Switch sending on'}
          leave={isOn ? 'Keep it on' : 'Not yet'}
          onClose={() => setAsking(false)}
        />
      </div>
    </>
  )
}

/** Messages reach a few alone: said on every page, as it is easily forgotten. */
function QuietNotice({ onlyTo }: { onlyTo: readonly string[] }) {
  return (
    <section className={styles.notice} data-on={false} aria-label="Quiet mode">
      <p>
        <b>◐ Quiet mode.</b> Messages reach only {onlyTo.join(', ')}; all others are held, and listed in
        Trouble when they fall due. <Link to="/set-up/safety">End it</Link>
      </p>
    </section>
  )
}

/** Under the ribbon: the question about the switch, and while sending is held back the reminder that it is. */
export function SendingNotice() {
  const { overview, isOwner } = useBusiness()
  const { isAsking, setAsking } = useContext(asking)
  const { isOn, onTheirWay, onlyTo, capReachedAt } = overview.sending
  if (isOn && !isAsking) return onlyTo && <QuietNotice onlyTo={onlyTo} />
  return (
    <section id="sending-notice" className={styles.notice} data-on={isOn} aria-label="Sending">
      {!isOn && (
        <p>
          <b>‖ Sending is held back.</b> Nothing leaves. {onTheirWay} messages wait.
          {capReachedAt !== null && (
            <>
              {' '}
              More were due on <When at={capReachedAt} /> than may go in a day, so it was held back by itself:
              look at <Link to="/ahead">what is ahead</Link> before you switch it on.
            </>
          )}
          {overview.isCopy &&
            ' This database is a copy, so it starts like this; the original may still be sending.'}
          {!isAsking && isOwner && (
            <Button
              size="compact-sm"
              variant="default"
              className={styles.inline ?? ''}
              onClick={() => setAsking(true)}
            >
              Switch on…
            </Button>
          )}
        </p>
      )}
      {isAsking && <Question />}
    </section>
  )
}
