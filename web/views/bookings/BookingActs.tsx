import { Button } from '@mantine/core'
import { useState, type ReactNode } from 'react'
import type { BookingView } from '#core/api/views.ts'
import { isoDateOf, minuteMs, timeOfDayOf } from '#core/time/calendar.ts'
import { wallAt, type Zone } from '#core/time/zones.ts'
import { realZones } from '#core/time/realZones.ts'
import { useBusiness } from '../../app/business.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { Problem } from '../../parts/Problem.tsx'
import { localTimes, type Times } from '../../parts/times.ts'
import { TimesFields } from '../../parts/TimesFields.tsx'
import table from '../../parts/timetable.module.css'
import { Consequences } from './Consequences.tsx'

function presentTimes({ booking }: BookingView, zone: Zone): Times {
  const start = wallAt(zone, booking.startAt)
  const end = wallAt(zone, booking.endAt)
  const time = (msOfDay: number) => timeOfDayOf(Math.floor(msOfDay / minuteMs))
  return { date: isoDateOf(start.day), start: time(start.msOfDay), end: time(end.msOfDay) }
}

function Move({ view, onClose }: { view: BookingView; onClose: () => void }) {
  const zone = realZones.zone(view.placeZone)
  const [times, setTimes] = useState(presentTimes(view, zone))
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({})
  const move = useTell('moveBooking', onClose)
  const { id, revision, startAt, endAt } = view.booking
  const local = localTimes(times)
  const submit = () => {
    if (!local) {
      setErrors({ startLocal: 'Give a date, a start and an end.' })
      return
    }
    move.mutate(
      { parameters: { id }, body: { revision, times: local } },
      { onError: (problem) => setErrors(fieldErrors(problem, 'times')) },
    )
  }
  return (
    <form
      noValidate
      className={table.form}
      aria-label="Move the booking"
      onSubmit={(event) => {
        event.preventDefault()
        submit()
      }}
    >
      <h2>Move to another time</h2>
      <TimesFields
        times={times}
        onChange={(next) => {
          setTimes(next)
          setErrors({})
        }}
        zone={zone}
        durationMinutes={Math.round((endAt - startAt) / minuteMs)}
        errors={{ start: errors['startLocal'], end: errors['endLocal'] }}
      />
      <Consequences bookingId={id} asked={local && { act: 'move', revision, times: local }} />
      <Problem of={move.error} />
      <div className={table.acts}>
        <Button type="submit" loading={move.isPending}>
          Move it
        </Button>
        <Button variant="default" onClick={onClose}>
          Leave as it is
        </Button>
      </div>
    </form>
  )
}

type StatusAct = 'cancel' | 'miss' | 'confirm'

interface StatusWords {
  readonly title: string
  readonly note: string
  readonly button: string
  readonly color: string
}

const statusActs: Readonly<Record<StatusAct, StatusWords>> = {
  cancel: {
    title: 'Cancel this booking?',
    note: 'It can be made to stand again later; what has gone by then cannot be called back.',
    button: 'Cancel the booking',
    color: 'brick',
  },
  miss: {
    title: 'Did nobody come?',
    note: 'What asks how it was will not go.',
    button: 'Mark it as missed',
    color: 'brick',
  },
  confirm: {
    title: 'Let it stand again?',
    note: 'If its start is still ahead it counts as made again, with all its messages.',
    button: 'It stands again',
    color: 'aubergine',
  },
}

const commandOf = {
  cancel: 'cancelBooking',
  miss: 'missBooking',
  confirm: 'confirmBooking',
} as const

/** Another status, with what that will do shown first. */
function ChangeStatus({ act, view, onClose }: { act: StatusAct; view: BookingView; onClose: () => void }) {
  const change = useTell(commandOf[act], onClose)
  const { id, revision } = view.booking
  const { title, note, button, color } = statusActs[act]
  return (
    <div className={table.form} role="group" aria-label={title}>
      <h2>{title}</h2>
      <Consequences bookingId={id} asked={{ act, revision }} />
      <p style={{ margin: 0 }}>{note}</p>
      <Problem of={change.error} />
      <div className={table.acts}>
        <Button
          color={color}
          loading={change.isPending}
          onClick={() => change.mutate({ parameters: { id }, body: { revision } })}
        >
          {button}
        </Button>
        <Button variant="default" onClick={onClose}>
          Leave as it is
        </Button>
      </div>
    </div>
  )
}

type Doing = 'move' | StatusAct

const doingWords: Readonly<Record<Doing, string>> = {
  move: 'Move…',
  cancel: 'Cancel…',
  miss: 'Nobody came…',
  confirm: 'Let it stand again…',
}

/** What can be done with a booking in its present status. */
const possible: Readonly<Record<BookingView['booking']['status'], readonly Doing[]>> = {
  requested: ['move', 'cancel'],
  confirmed: ['move', 'cancel', 'miss'],
  cancelled: ['confirm', 'move'],
  missed: ['confirm', 'move'],
  completed: ['move', 'miss'],
}

/** What makes sense to do with a booking at this moment; while something is considered, it stands in place of the facts. */
export function BookingActs({ view, children }: { view: BookingView; children: ReactNode }) {
  const [doing, setDoing] = useState<Doing | null>(null)
  const confirm = useTell('confirmBooking')
  const settle = useTell('settleBooking')
  const { id, revision, status, settling, startAt } = view.booking
  const { now } = useBusiness()
  const close = () => setDoing(null)
  if (doing === 'move') return <Move view={view} onClose={close} />
  if (doing !== null) return <ChangeStatus act={doing} view={view} onClose={close} />
  const tell = { parameters: { id }, body: { revision } }
  // Nobody can have failed to come before it has begun.
  const offered = possible[status].filter((one) => one !== 'miss' || startAt <= now)
  return (
    <>
      {children}
      <div className={table.form}>
        <Problem of={confirm.error ?? settle.error} />
        <div className={table.acts}>
          {status === 'requested' && (
            <Button loading={confirm.isPending} onClick={() => confirm.mutate(tell)}>
              Confirm and send the confirmation
            </Button>
          )}
          {settling && (
            <Button variant="default" loading={settle.isPending} onClick={() => settle.mutate(tell)}>
              Tell it now
            </Button>
          )}
          {offered.map((one) => (
            <Button key={one} variant="default" onClick={() => setDoing(one)}>
              {doingWords[one]}
            </Button>
          ))}
        </div>
      </div>
    </>
  )
}
