import { Button, Popover, UnstyledButton } from '@mantine/core'
import { DateField } from '../parts/DateField.tsx'
import { useState } from 'react'
import type { ClockTarget } from '#core/api/endpoints.ts'
import { isoDateOf, minuteMs } from '#core/time/calendar.ts'
import { clockTime, dateAndTime, shortDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { ClockField } from '../parts/ClockField.tsx'
import { Problem } from '../parts/Problem.tsx'
import { useBusiness } from './business.ts'
import styles from './ClockChip.module.css'
import { useTell } from './queries.ts'

function Words() {
  const { zone, now, year } = useBusiness()
  return (
    <>
      {shortDate(dayAt(zone, now), year)} · <b>{clockTime(zone, now)}</b>
    </>
  )
}

function Moving({ to }: { to: number }) {
  const { zone, year } = useBusiness()
  const stop = useTell('stopClock')
  return (
    <div className={styles.moving} role="status">
      <Words />
      <span>
        on the way to <b>{dateAndTime(zone, to, year)}</b>
      </span>
      <Button size="compact-xs" variant="white" onClick={() => stop.mutate({ body: {} })}>
        Stop here
      </Button>
    </div>
  )
}

function ToDate({ onMove }: { onMove: (target: ClockTarget) => void }) {
  const { zone, now } = useBusiness()
  const [date, setDate] = useState<string | null>(isoDateOf(dayAt(zone, now) + 1))
  const [time, setTime] = useState('08:00')
  return (
    <form
      className={styles.toDate}
      onSubmit={(event) => {
        event.preventDefault()
        if (date !== null && time !== '') onMove({ to: 'date', local: `${date}T${time}` })
      }}
    >
      <DateField
        label="To a date"
        value={date}
        onChange={setDate}
        minDate={isoDateOf(dayAt(zone, now))}
        popoverProps={{ withinPortal: false }}
      />
      <ClockField label="at" value={time} onChange={setTime} />
      <Button type="submit" variant="default">
        Move
      </Button>
    </form>
  )
}

function DemoControls({ onMoved }: { onMoved: () => void }) {
  const { overview, zone, year } = useBusiness()
  const move = useTell('moveClock', onMoved)
  const go = (target: ClockTarget) => move.mutate({ body: target })
  const next = overview.clock.nextMessageAt
  return (
    <div className={styles.controls}>
      <p>
        The demo’s clock stands until you move it. What falls due on the way happens in order, each at its own
        time.
      </p>
      <Button fullWidth disabled={next === null || move.isPending} onClick={() => go({ to: 'next message' })}>
        {next === null ? 'No message is planned' : `To the next message: ${dateAndTime(zone, next, year)}`}
      </Button>
      <div className={styles.pair}>
        <Button variant="default" disabled={move.isPending} onClick={() => go({ to: 'hour' })}>
          1 hour on
        </Button>
        <Button variant="default" disabled={move.isPending} onClick={() => go({ to: 'day' })}>
          1 day on
        </Button>
      </div>
      <ToDate onMove={go} />
      <Problem of={move.error} />
    </div>
  )
}

/** Business time, and with the demo's clock the ways to move it. */
export function ClockChip() {
  const { overview } = useBusiness()
  const [isOpen, setOpen] = useState(false)
  const { clock } = overview
  if (clock.kind === 'real') {
    return (
      <span className={styles.chip}>
        <Words /> <span className={`${styles.kind ?? ''} ${styles.ofReal ?? ''}`}>business time</span>
      </span>
    )
  }
  if (clock.movingTo !== null && clock.movingTo > clock.now + minuteMs) return <Moving to={clock.movingTo} />
  return (
    <Popover
      opened={isOpen}
      onChange={setOpen}
      position="bottom-end"
      width={340}
      trapFocus
      returnFocus
      withArrow
    >
      <Popover.Target>
        <UnstyledButton
          className={styles.chip}
          onClick={() => setOpen(!isOpen)}
          aria-label="Demo clock, move it"
        >
          <Words />{' '}
          <span className={styles.kind}>
            <span className={styles.kindWords}>demo clock </span>▾
          </span>
        </UnstyledButton>
      </Popover.Target>
      <Popover.Dropdown>
        <DemoControls onMoved={() => setOpen(false)} />
      </Popover.Dropdown>
    </Popover>
  )
}
