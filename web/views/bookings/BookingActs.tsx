import { Button } from '@mantine/core'
import { useState, type ReactNode } from 'react'
import type { BookingView } from '#core/api/views.ts'
import { isoDateOf, minuteMs, timeOfDayOf } from '#core/time/calendar.ts'
import { wallAt, type Zone } from '#core/time/zones.ts'
import { realZones } from '#core/time/realZones.ts'
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

function Cancel({ view, onClose }: { view: BookingView; onClose: () => void }) {
  const cancel = useTell('cancelBooking', onClose)
  const { id, revision } = view.booking
  return (
    <div className={table.form} role="group" aria-label="Cancel the booking">
      <h2>Cancel this booking?</h2>
      <Consequences bookingId={id} asked={{ act: 'cancel', revision }} />
      <p style={{ margin: 0 }}>This cannot be taken back.</p>
      <Problem of={cancel.error} />
      <div className={table.acts}>
        <Button
          color="brick"
          loading={cancel.isPending}
          onClick={() => cancel.mutate({ parameters: { id }, body: { revision } })}
        >
          Cancel the booking
        </Button>
        <Button variant="default" onClick={onClose}>
          Leave as it is
        </Button>
      </div>
    </div>
  )
}

/** What makes sense to do with a booking at this moment; while something is considered, it stands in place of the facts. */
export function BookingActs({ view, children }: { view: BookingView; children: ReactNode }) {
  const [doing, setDoing] = useState<'move' | 'cancel' | null>(null)
  const confirm = useTell('confirmBooking')
  const { id, revision, status } = view.booking
  const close = () => setDoing(null)
  if (status !== 'requested' && status !== 'confirmed') return children
  if (doing === 'move') return <Move view={view} onClose={close} />
  if (doing === 'cancel') return <Cancel view={view} onClose={close} />
  return (
    <>
      {children}
      <div className={table.form}>
        <Problem of={confirm.error} />
        <div className={table.acts}>
          {status === 'requested' && (
            <Button
              loading={confirm.isPending}
              onClick={() => confirm.mutate({ parameters: { id }, body: { revision } })}
            >
              Confirm and send the confirmation
            </Button>
          )}
          <Button variant="default" onClick={() => setDoing('move')}>
            Move…
          </Button>
          <Button variant="default" onClick={() => setDoing('cancel')}>
            Cancel…
          </Button>
        </div>
      </div>
    </>
  )
}
