import { Button, Select } from '@mantine/core'
import type { OfferedMove } from '#core/api/moveViews.ts'
import type { ManyBookingsAct } from '#core/engine/commands/manyBookings.ts'
import { epochDayOf } from '#core/time/calendar.ts'
import { shortDate } from '#core/time/format.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { ClockField } from '../../parts/ClockField.tsx'
import { ConsideredAct } from '../../parts/ConsideredAct.tsx'
import { DateField } from '../../parts/DateField.tsx'
import { PressMove, useMovesOffered } from '../../parts/OnePress.tsx'
import table from '../../parts/timetable.module.css'
import styles from './Week.module.css'
import type { Placed } from './weekPlaces.ts'

interface Words {
  /** What is offered. */
  readonly offer: string
  readonly title: string
  readonly press: string
  readonly done: string
}

export const actWords: Readonly<Record<ManyBookingsAct['act'], Words>> = {
  move: { offer: 'Move…', title: 'Move to another time', press: 'Move', done: 'moved' },
  confirm: { offer: 'Confirm…', title: 'Confirm', press: 'Confirm', done: 'confirmed' },
  cancel: { offer: 'Cancel…', title: 'Cancel', press: 'Cancel the bookings', done: 'cancelled' },
  miss: {
    offer: 'Nobody came…',
    title: 'Did nobody come?',
    press: 'Mark as missed',
    done: 'marked as missed',
  },
  complete: {
    offer: 'Have taken place…',
    title: 'Have they taken place?',
    press: 'Mark as completed',
    done: 'marked as completed',
  },
  status: {
    offer: 'Status…',
    title: 'Another status',
    press: 'Give them this status',
    done: 'given another status',
  },
}

/** An act on some bookings, while it is being considered. */
export interface WeekDoing {
  readonly act: ManyBookingsAct
  readonly bookings: readonly Placed[]
}

/** The statuses of the business's own that bookings can still get, by name. */
function useOwnStatuses(): string[] {
  const settings = useAsk('settings')
  return (settings.data?.ownStatuses ?? []).filter(({ isActive }) => isActive).map(({ name }) => name)
}

const names = (bookings: readonly Placed[]) => {
  const all = bookings.map(({ clientName }) => clientName)
  return all.length <= 3 ? all.join(', ') : `${all.slice(0, 2).join(', ')} and ${all.length - 2} more`
}

interface ConsideringProps {
  readonly doing: WeekDoing
  readonly change: (act: ManyBookingsAct) => void
  readonly onClose: () => void
  readonly onDone: (count: number) => void
}

/** What an act on some bookings would do, beside the days it concerns. */
export function WeekConsidering({ doing: { act, bookings }, change, onClose, onDone }: ConsideringProps) {
  const { year } = useBusiness()
  const ownStatuses = useOwnStatuses()
  const { title, press } = actWords[act.act]
  return (
    <aside className={`${table.sheet ?? ''} ${table.aside ?? ''}`} aria-label={title}>
      <div className={table.form}>
        <h2>{title}</h2>
        <p>
          {names(bookings)}
          {act.act === 'move' && (
            <>
              {' '}
              to <b>{shortDate(epochDayOf(act.on), year)}</b>
              {act.at === null ? ', each at its own time' : `, ${act.at}`}
            </>
          )}
        </p>
        {act.act === 'move' && (
          <div className={table.when}>
            <DateField
              label="To"
              value={act.on}
              onChange={(on) => {
                if (on !== null) change({ ...act, on })
              }}
            />
            <ClockField
              label="at (empty: its own time)"
              value={act.at ?? ''}
              onChange={(at) => change({ ...act, at: at === '' ? null : at })}
            />
          </div>
        )}
        {act.act === 'status' && (
          <Select
            label="Status"
            allowDeselect={false}
            data={ownStatuses}
            value={act.status}
            onChange={(status) => {
              if (status !== null) change({ act: 'status', status })
            }}
          />
        )}
      </div>
      <ConsideredAct
        name="actOnBookings"
        asked={{ body: { bookings: bookings.map(({ id, revision }) => ({ id, revision })), act } }}
        word={press}
        color={act.act === 'cancel' || act.act === 'miss' ? 'brick' : 'aubergine'}
        leave="Leave it"
        takesFocus={act.act !== 'move'}
        onClose={onClose}
        onDone={({ done }) => onDone(done)}
      />
    </aside>
  )
}

interface PressingProps {
  readonly move: OfferedMove
  readonly bookings: readonly Placed[]
  readonly onClose: () => void
  readonly onDone: (words: string) => void
}

/** A move before it is pressed on those of the chosen bookings that it makes sense for. */
export const WeekPressing = ({ move, bookings, onClose, onDone }: PressingProps) => (
  <aside className={`${table.sheet ?? ''} ${table.aside ?? ''}`} aria-label={move.name}>
    <PressMove
      move={move}
      on={bookings.filter(({ id }) => move.ids.includes(id))}
      onClose={onClose}
      onDone={onDone}
    />
  </aside>
)

interface BarProps {
  readonly bookings: readonly Placed[]
  readonly said: string | null
  readonly begin: (act: ManyBookingsAct) => void
  readonly onPress: (move: OfferedMove) => void
  readonly clear: () => void
}

/** What can be done with the bookings that are chosen, as far as it makes sense for one of them. */
export function WeekBar({ bookings, said, begin, onPress, clear }: BarProps) {
  const { now } = useBusiness()
  const [firstStatus] = useOwnStatuses()
  const moves = useMovesOffered(bookings.map(({ id }) => id))
  if (bookings.length === 0) {
    return (
      <p className={styles.bar} role="status" data-empty={said === null}>
        {said !== null && `✓ ${said}`}
      </p>
    )
  }
  const statusOf = ({ id, line }: Placed) => line.bookings.find((one) => one.id === id)?.status
  const isSome = (...all: readonly string[]) => bookings.some((one) => all.includes(statusOf(one) ?? ''))
  const isBegun = bookings.some(({ line }) => line.startAt <= now)
  const [first] = bookings
  const offers: readonly (ManyBookingsAct | false | undefined)[] = [
    first && { act: 'move', on: first.on, at: null },
    isSome('requested') && { act: 'confirm' },
    isSome('requested', 'confirmed') && { act: 'cancel' },
    isBegun && isSome('confirmed') && { act: 'complete' },
    isBegun && isSome('confirmed', 'completed') && { act: 'miss' },
    firstStatus !== undefined && { act: 'status', status: firstStatus },
  ]
  return (
    <div className={styles.bar}>
      <b role="status">{bookings.length} chosen</b>
      {offers.map(
        (act) =>
          act && (
            <Button key={act.act} size="compact-md" variant="default" onClick={() => begin(act)}>
              {actWords[act.act].offer}
            </Button>
          ),
      )}
      {moves.map((move) => (
        <Button key={move.id} size="compact-md" variant="light" onClick={() => onPress(move)}>
          {move.name}…
        </Button>
      ))}
      <Button size="compact-md" variant="subtle" onClick={clear}>
        Choose none
      </Button>
    </div>
  )
}
