import { Button } from '@mantine/core'
import { useMutation } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { localAt } from '#core/time/localText.ts'
import type { Announcement } from '#core/api/announcements.ts'
import type { DecideLine } from '#core/api/views.ts'
import { epochDayOf, hourMs, isoDateOf, minuteOfDay } from '#core/time/calendar.ts'
import { dateAndTime } from '#core/time/format.ts'
import { dayAt, instantAt, type Zone } from '#core/time/zones.ts'
import { DateField } from '../../parts/DateField.tsx'
import { consider, type ApiProblem } from '../../app/api.ts'
import { useBusiness } from '../../app/business.ts'
import { ClockField } from '../../parts/ClockField.tsx'
import { othersThan } from '../../parts/others.ts'
import { Problem } from '../../parts/Problem.tsx'
import { When } from '../../parts/When.tsx'
import { AlsoMoves } from './AlsoMoves.tsx'
import styles from './Desk.module.css'

/**
 * Usual moments to put something off to: counted from when it goes by itself, or from now where that has passed. Later
 * is never earlier than it was.
 */
export function laterMoments(
  zone: Zone,
  now: number,
  goesAt: number | null,
): readonly { word: string; at: number }[] {
  const isAhead = goesAt !== null && goesAt > now
  const from = isAhead ? goesAt : now
  const day = dayAt(zone, from)
  const at = (on: number, time: string) => instantAt(zone, on, minuteOfDay(time))
  return [
    { word: isAhead ? 'an hour later' : 'in an hour', at: from + hourMs },
    { word: isAhead ? 'that evening' : 'this evening', at: at(day, '18:00') },
    { word: isAhead ? 'the morning after' : 'tomorrow morning', at: at(day + 1, '09:00') },
    { word: isAhead ? 'a week later' : 'in a week', at: at(day + 7, '09:00') },
  ].filter((one) => one.at > from)
}

export type OnLater = (toLocal: string, words: string, foretold: Announcement | undefined) => void

interface LaterProps {
  readonly send: DecideLine
  readonly onLater: OnLater
  readonly onClose: () => void
}

interface Shown {
  readonly at: number
  readonly foretold: Announcement
}

/** Puts a message off at one press; where that does something to other messages it stands there first. */
function usePuttingOff({ id, revision }: DecideLine, onLater: OnLater) {
  const { zone, year } = useBusiness()
  const [shown, setShown] = useState<Shown | null>(null)
  const ask = useMutation<Announcement, ApiProblem, number>({
    mutationFn: (at) =>
      consider('postponeSend', { parameters: { id }, body: { revision, toLocal: localAt(zone, at) } }),
    onSuccess: (foretold, at) => {
      if (othersThan([id], foretold.consequences).length > 0) setShown({ at, foretold })
      else put({ at, foretold })
    },
  })
  const put = ({ at, foretold }: Shown) => onLater(localAt(zone, at), dateAndTime(zone, at, year), foretold)
  return { ask, shown, put, forget: () => setShown(null) }
}

/** What putting it off does to others, before it is done. */
function ShownFirst({ sendId, shown, onPut }: { sendId: string; shown: Shown; onPut: () => void }) {
  const press = useRef<HTMLButtonElement>(null)
  useEffect(() => press.current?.focus(), [shown])
  return (
    <div role="status">
      <AlsoMoves sendIds={[sendId]} actions={[['Later', shown.foretold]]} />
      <Button ref={press} onClick={onPut}>
        Put it off to <When at={shown.at} />
      </Button>
    </div>
  )
}

interface MomentProps {
  /** When it goes by itself. */
  readonly goesAt: number | null
  readonly isTooLate: (at: number) => boolean
  readonly isBusy: boolean
  readonly onChange: () => void
  readonly onChoose: (at: number) => void
}

/** A moment that is typed. */
function TypedMoment({ goesAt, isTooLate, isBusy, onChange, onChoose }: MomentProps) {
  const { zone, now } = useBusiness()
  const from = Math.max(now, goesAt ?? now)
  const [date, setDate] = useState<string | null>(isoDateOf(dayAt(zone, from) + 1))
  const [time, setTime] = useState('09:00')
  const at = date === null || time === '' ? null : instantAt(zone, epochDayOf(date), minuteOfDay(time))
  const isOver = at !== null && at <= now
  const isEarlier = at !== null && goesAt !== null && at < goesAt
  const tooLate = at !== null && isTooLate(at) ? 'That is after its last chance.' : null
  const problem = isOver
    ? 'Choose a moment that is still ahead.'
    : isEarlier
      ? 'That is earlier than it goes by itself.'
      : tooLate
  const changing =
    <Value,>(set: (value: Value) => void) =>
    (value: Value) => {
      set(value)
      onChange()
    }
  return (
    <>
      <DateField label="or on" value={date} onChange={changing(setDate)} />
      <ClockField label="at" value={time} onChange={changing(setTime)} error={problem} />
      <Button
        variant="default"
        disabled={at === null || problem !== null || isBusy}
        onClick={() => at !== null && onChoose(at)}
      >
        Put it off
      </Button>
    </>
  )
}

/** Chooses the moment a message is put off to, up to its last chance. */
export function Later({ send, onLater, onClose }: LaterProps) {
  const { zone, now } = useBusiness()
  const { ask, shown, put, forget } = usePuttingOff(send, onLater)
  const first = useRef<HTMLButtonElement>(null)
  useEffect(() => first.current?.focus(), [])
  const isTooLate = (at: number) => send.lastChanceAt !== null && at > send.lastChanceAt
  const moments = laterMoments(zone, now, send.shownAt).filter((one) => !isTooLate(one.at))
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
            disabled={ask.isPending}
            onClick={() => ask.mutate(one.at)}
          >
            {one.word}
          </Button>
        ))}
      </div>
      <div className={styles.moment}>
        <TypedMoment
          goesAt={send.shownAt}
          isTooLate={isTooLate}
          isBusy={ask.isPending}
          onChange={forget}
          onChoose={ask.mutate}
        />
        <Button variant="subtle" onClick={onClose}>
          Cancel
        </Button>
      </div>
      <Problem of={ask.error} />
      {shown && <ShownFirst sendId={send.id} shown={shown} onPut={() => put(shown)} />}
    </fieldset>
  )
}
