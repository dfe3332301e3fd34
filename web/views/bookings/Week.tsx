import { ActionIcon, Button } from '@mantine/core'
import { looking } from '../../app/theme.ts'
import { useState, type ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import type { TimetableDay } from '#core/api/bookingEndpoints.ts'
import type { OfferedMove } from '#core/api/moveViews.ts'
import type { ManyBookingsAct } from '#core/engine/commands/manyBookings.ts'
import { isoDate } from '#core/model/values.ts'
import { epochDayOf, isoDateOf, mondayOf, type EpochDay } from '#core/time/calendar.ts'
import { shortDate } from '#core/time/format.ts'
import { dayAt } from '#core/time/zones.ts'
import { useBusiness } from '../../app/business.ts'
import { useAsk } from '../../app/queries.ts'
import { ErrorState, Waiting } from '../../parts/States.tsx'
import table from '../../parts/timetable.module.css'
import { useChosen } from '../../parts/useChosen.ts'
import styles from './Week.module.css'
import { actWords, WeekBar, WeekConsidering, WeekPressing, type WeekDoing } from './WeekActs.tsx'
import { WeekDay, type Ghosts } from './WeekDay.tsx'
import { WeekDragging } from './WeekDragging.tsx'
import { moveTo, placedIn, type Place, type Placed } from './weekPlaces.ts'

/** Which week is shown, kept in the address. */
function useWeek() {
  const { zone, now } = useBusiness()
  const [parameters, setParameters] = useSearchParams()
  const asked = parameters.get('from')
  const thisWeek = mondayOf(dayAt(zone, now))
  const monday = isoDate.safeParse(asked).success ? mondayOf(epochDayOf(asked ?? '')) : thisWeek
  const go = (day: EpochDay) => setParameters(day === thisWeek ? {} : { from: isoDateOf(day) })
  return { monday, thisWeek, go }
}

function Pages({ monday, thisWeek, go }: ReturnType<typeof useWeek>) {
  const { year } = useBusiness()
  return (
    <div className={styles.pages}>
      <ActionIcon variant="default" size="lg" aria-label="The week before" onClick={() => go(monday - 7)}>
        ←
      </ActionIcon>
      <ActionIcon variant="default" size="lg" aria-label="The week after" onClick={() => go(monday + 7)}>
        →
      </ActionIcon>
      <b aria-live="polite">
        {shortDate(monday, year)} to {shortDate(monday + 6, year)}
      </b>
      {monday !== thisWeek && (
        <Button {...looking} variant="default" size="compact-md" onClick={() => go(thisWeek)}>
          This week
        </Button>
      )}
    </div>
  )
}

/** The days an act concerns: those the bookings stand on, and the one they go to. */
function concerned(days: readonly TimetableDay[], doing: WeekDoing | null) {
  if (doing === null) return days
  const { act, bookings } = doing
  const dates = new Set([...bookings.map(({ on }) => on), ...(act.act === 'move' ? [act.on] : [])])
  return days.filter(({ on }) => dates.has(on))
}

/** What is chosen in a week, and what is being considered or was done with it. */
function useWeekActs(bookings: ReadonlyMap<string, Placed>) {
  const chosen = useChosen()
  const [doing, setDoing] = useState<WeekDoing | null>(null)
  const [pressing, setPressing] = useState<OfferedMove | null>(null)
  const [said, setSaid] = useState<string | null>(null)
  const chosenOnes = [...chosen.ids].flatMap((id) => bookings.get(id) ?? [])
  const begin = (act: ManyBookingsAct, which: readonly Placed[]) => {
    setSaid(null)
    setDoing({ act, bookings: which })
  }
  const over = (words: string) => {
    setSaid(words)
    setDoing(null)
    setPressing(null)
    chosen.clear()
  }
  const put = (booking: Placed, place: Place) => {
    const act = moveTo(booking, place)
    // Who is taken hold of among the chosen takes them along.
    if (act) begin(act, chosen.has(booking.id) ? chosenOnes : [booking])
  }
  const finish = (count: number) => {
    const { done } = actWords[doing?.act.act ?? 'move']
    over(`${count === 1 ? '1 booking' : `${count} bookings`} ${done}.`)
  }
  return { chosen, chosenOnes, doing, setDoing, pressing, setPressing, said, begin, over, put, finish }
}

/** The week as a printed timetable: departures as lines, seats as marks; hours in which nothing happens take no room. */
function Timetable({ days, pages }: { days: readonly TimetableDay[]; pages: ReactNode }) {
  const bookings = placedIn(days)
  const acts = useWeekActs(bookings)
  const { chosen, chosenOnes, doing, setDoing, pressing, setPressing, said, begin } = acts
  const shown = concerned(days, doing)
  const ghosts: Ghosts | null =
    doing?.act.act === 'move' ? { on: doing.act.on, at: doing.act.at, moved: doing.bookings } : null
  // What an act is on may have been changed elsewhere meanwhile: it is on what stands there now.
  const present = doing && { ...doing, bookings: doing.bookings.map((one) => bookings.get(one.id) ?? one) }
  return (
    <>
      <div className={styles.top}>
        {pages}
        {doing === null && pressing === null && (
          <WeekBar
            bookings={chosenOnes}
            said={said}
            begin={(act) => begin(act, chosenOnes)}
            onPress={setPressing}
            clear={chosen.clear}
          />
        )}
      </div>
      <div className={present || pressing ? table.split : ''}>
        <WeekDragging days={days} bookings={bookings} onPut={acts.put}>
          <div className={`${table.sheet ?? ''} ${styles.week ?? ''}`} style={{ '--days': shown.length }}>
            {shown.map((day) => (
              <WeekDay key={day.on} day={day} chosen={chosen} ghosts={ghosts} />
            ))}
          </div>
        </WeekDragging>
        {pressing && (
          <WeekPressing
            move={pressing}
            bookings={chosenOnes}
            onClose={() => setPressing(null)}
            onDone={acts.over}
          />
        )}
        {present && (
          <WeekConsidering
            doing={present}
            change={(act) => setDoing({ ...present, act })}
            onClose={() => setDoing(null)}
            onDone={acts.finish}
          />
        )}
      </div>
    </>
  )
}

/** A week of departures and bookings; what is taken hold of or chosen is moved, confirmed, cancelled after a look. */
export function Week() {
  const week = useWeek()
  const { monday } = week
  const query = { from: isoDateOf(monday), to: isoDateOf(monday + 6) }
  const asked = useAsk('timetable', { query })
  return (
    <>
      {asked.error && <ErrorState problem={asked.error} onAgain={() => void asked.refetch()} />}
      {!asked.error && !asked.data && <Waiting />}
      {asked.data && <Timetable key={monday} days={asked.data.days} pages={<Pages {...week} />} />}
    </>
  )
}
