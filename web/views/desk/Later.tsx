import { Button } from '@mantine/core'
import { DateInput } from '@mantine/dates'
import { useEffect, useRef, useState } from 'react'
import { epochDayOf, hourMs, isoDateOf, minuteMs, minuteOfDay, timeOfDayOf } from '#core/time/calendar.ts'
import { dateAndTime } from '#core/time/format.ts'
import { dayAt, instantAt, wallAt, type Zone } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { ClockField } from '../../parts/ClockField.tsx'
import styles from './Desk.module.css'

function localOf(zone: Zone, at: number): string {
  const { day, msOfDay } = wallAt(zone, at)
  return `${isoDateOf(day)}T${timeOfDayOf(Math.floor(msOfDay / minuteMs))}`
}

/** Usual moments to put something off to, from now. */
export function laterMoments(zone: Zone, now: number): readonly { word: string; at: number }[] {
  const today = dayAt(zone, now)
  const at = (day: number, time: string) => instantAt(zone, day, minuteOfDay(time))
  return [
    { word: 'in an hour', at: now + hourMs },
    { word: 'this evening', at: at(today, '18:00') },
    { word: 'tomorrow morning', at: at(today + 1, '09:00') },
    { word: 'in a week', at: at(today + 7, '09:00') },
  ].filter((one) => one.at > now)
}

interface LaterProps {
  readonly lastChanceAt: number | null
  readonly onLater: (toLocal: string, words: string) => void
  readonly onClose: () => void
}

/** Chooses the moment a message is put off to, up to its last chance. */
export function Later({ lastChanceAt, onLater, onClose }: LaterProps) {
  const { zone, now, year } = useBusiness()
  const [date, setDate] = useState<string | null>(isoDateOf(dayAt(zone, now) + 1))
  const [time, setTime] = useState('09:00')
  const first = useRef<HTMLButtonElement>(null)
  useEffect(() => first.current?.focus(), [])
  const isTooLate = (at: number) => lastChanceAt !== null && at > lastChanceAt
  const at = date === null || time === '' ? null : instantAt(zone, epochDayOf(date), minuteOfDay(time))
  const words = (moment: number) => dateAndTime(zone, moment, year)
  const problem =
    at === null
      ? null
      : at <= now
        ? 'Choose a moment that is still ahead.'
        : isTooLate(at)
          ? 'That is after its last chance.'
          : null
  const moments = laterMoments(zone, now).filter((one) => !isTooLate(one.at))
  return (
    <fieldset
      className={styles.panel}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose()
      }}
    >
      <legend>Put it off</legend>
      <div className={styles.acts}>
        {moments.map((one, index) => (
          <Button
            key={one.word}
            ref={index === 0 ? first : undefined}
            variant="default"
            onClick={() => onLater(localOf(zone, one.at), words(one.at))}
          >
            {one.word}
          </Button>
        ))}
      </div>
      <div className={styles.moment}>
        <DateInput label="or on" valueFormat="ddd D MMM YYYY" value={date} onChange={setDate} />
        <ClockField label="at" value={time} onChange={setTime} error={problem} />
        <Button
          variant="default"
          disabled={at === null || problem !== null}
          onClick={() => at !== null && onLater(localOf(zone, at), words(at))}
        >
          Put it off
        </Button>
        <Button variant="subtle" onClick={onClose}>
          Leave it
        </Button>
      </div>
    </fieldset>
  )
}
