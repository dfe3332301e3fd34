import { Button, Select } from '@mantine/core'
import type { ReactNode } from 'react'
import type { BookingView } from '#core/api/views.ts'
import { settlingEnd } from '#core/model/booking.ts'
import { minuteMs } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import { useBusiness } from '../../app/business.ts'
import { Problem } from '../../parts/Problem.tsx'
import { SheetForm } from '../../parts/SheetForm.tsx'
import { TimesFields } from '../../parts/TimesFields.tsx'
import table from '../../parts/timetable.module.css'
import { statusesToGive, type BookingDoing, type Considering } from './useConsidering.ts'

interface ActWords {
  readonly title: string
  readonly note: string
  readonly button: string
  readonly color: string
}

const actWords: Readonly<Record<BookingDoing, ActWords>> = {
  move: { title: 'Move to another time', note: '', button: 'Move it', color: 'aubergine' },
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
  complete: {
    title: 'Has it taken place?',
    note: 'It counts as completed by itself some hours after its end; what waits for that goes now.',
    button: 'Mark it as completed',
    color: 'aubergine',
  },
  settle: {
    title: 'Tell it now?',
    note: 'What is left of the quick changes is told at once, without waiting for more.',
    button: 'Tell it now',
    color: 'aubergine',
  },
  confirm: {
    title: 'Confirm it?',
    note: 'If it had ended and its start is still ahead, it counts as made again, with all its messages.',
    button: 'Confirm it',
    color: 'aubergine',
  },
  status: {
    title: 'Another status',
    note: '',
    button: 'Give it this status',
    color: 'aubergine',
  },
}

/** The statuses of the business's own to choose from, and the way back to what the present one means. */
function StatusField({ view, considering }: { view: BookingView; considering: Considering }) {
  const { status } = view.booking
  const plain = `only ${status}`
  return (
    <Select
      label="Status"
      allowDeselect={false}
      data={statusesToGive(view).map((name) => name ?? plain)}
      value={considering.ownStatus ?? plain}
      error={considering.errors['status']}
      onChange={(name) => considering.setOwnStatus(name === plain ? null : name)}
    />
  )
}

/** An act that is being considered: its form, what the client knows then, and one press that does it all. */
function Act({ view, considering }: { view: BookingView; considering: Considering }) {
  const { doing, times, setTimes, errors, considered, press, isPending, problem, close } = considering
  if (doing === null) return null
  const zone = realZones.zone(view.placeZone)
  const { startAt, endAt } = view.booking
  const { title, note, button, color } = actWords[doing]
  const goesNow = considered.lines?.filter(({ kind }) => kind === 'added' || kind === 'again').length ?? 0
  return (
    <SheetForm noValidate aria-label={title} onSubmit={press}>
      <h2>{title}</h2>
      {doing === 'move' && (
        <TimesFields
          times={times}
          onChange={setTimes}
          zone={zone}
          durationMinutes={Math.round((endAt - startAt) / minuteMs)}
          errors={{ start: errors['startLocal'], end: errors['endLocal'] }}
        />
      )}
      {doing === 'status' && <StatusField view={view} considering={considering} />}
      {note !== '' && <p style={{ margin: 0 }}>{note}</p>}
      <Problem of={problem} />
      <div className={table.acts}>
        <Button type="submit" color={color} loading={isPending} disabled={!considered.isCurrent}>
          {button}
        </Button>
        <Button variant="default" onClick={close}>
          Cancel
        </Button>
      </div>
      {goesNow > 0 && (
        <p className={table.quiet} style={{ margin: 0 }}>
          {goesNow === 1 ? '1 message is new' : `${goesNow} messages are new`}; what is held back waits for
          you.
        </p>
      )}
    </SheetForm>
  )
}

const doingWords: Readonly<Record<BookingDoing, string>> = {
  move: 'Move…',
  cancel: 'Cancel…',
  miss: 'Nobody came…',
  complete: 'It has taken place…',
  settle: 'Tell it now…',
  confirm: 'Let it stand again…',
  status: 'Status…',
}

/** What can be done with a booking in its present status. */
const possible: Readonly<Record<BookingView['booking']['status'], readonly BookingDoing[]>> = {
  requested: ['confirm', 'move', 'cancel'],
  confirmed: ['move', 'cancel', 'miss', 'complete'],
  cancelled: ['confirm', 'move'],
  missed: ['confirm', 'move'],
  completed: ['move', 'miss'],
}

interface BookingActsProps {
  readonly view: BookingView
  readonly considering: Considering
  /** Its other facts are to be changed. */
  readonly onChange: () => void
  readonly children: ReactNode
}

/** What makes sense to do with a booking at this moment; while something is considered, it stands in place of the facts. */
export function BookingActs({ view, considering, onChange, children }: BookingActsProps) {
  const { status, startAt } = view.booking
  const { now } = useBusiness()
  if (considering.doing !== null) return <Act view={view} considering={considering} />
  // Nobody can have failed to come before it has begun.
  const isBegun = startAt <= now
  const offered: BookingDoing[] = possible[status].filter(
    (one) => (one !== 'miss' && one !== 'complete') || isBegun,
  )
  if (statusesToGive(view).length > 0) offered.push('status')
  return (
    <>
      {children}
      <div className={table.form}>
        <div className={table.acts}>
          {settlingEnd(view.booking) !== null && (
            <Button variant="default" onClick={() => considering.begin('settle')}>
              {doingWords.settle}
            </Button>
          )}
          {offered.map((one) => {
            const isFirst = one === 'confirm' && status === 'requested'
            return (
              <Button
                key={one}
                variant={isFirst ? 'filled' : 'default'}
                onClick={() => considering.begin(one)}
              >
                {isFirst ? 'Confirm…' : doingWords[one]}
              </Button>
            )
          })}
          <Button variant="default" onClick={onChange}>
            Change facts…
          </Button>
        </div>
      </div>
    </>
  )
}
