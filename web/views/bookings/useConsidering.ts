import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import type { MoveBookingInput } from '#core/engine/commands/bookingCommands.ts'
import { mayFollow } from '#core/engine/following/ownStatusComing.ts'
import { instantOfLocal } from '#core/time/localText.ts'
import type { BookingView } from '#core/api/views.ts'
import { isoDateOf, minuteMs, timeOfDayOf } from '#core/time/calendar.ts'
import { realZones } from '#core/time/realZones.ts'
import { wallAt } from '#core/time/zones.ts'
import type { ApiProblem } from '../../app/api.ts'
import { useTell } from '../../app/queries.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'
import { localTimes, type Times } from '../../parts/times.ts'
import { useConsidered, type Considered } from '../../parts/useConsidered.ts'

export type BookingDoing = 'move' | 'cancel' | 'miss' | 'complete' | 'confirm' | 'settle' | 'status'

const commandOf = {
  move: 'moveBooking',
  cancel: 'cancelBooking',
  miss: 'missBooking',
  complete: 'completeBooking',
  confirm: 'confirmBooking',
  settle: 'settleBooking',
  status: 'giveOwnStatus',
} as const

/** Something that may be done with a booking, before it is. */
export interface Considering {
  readonly doing: BookingDoing | null
  readonly begin: (doing: BookingDoing) => void
  readonly close: () => void
  readonly times: Times
  readonly setTimes: (times: Times) => void
  /** The status of the business's own that is to be given; null: only what the present one means. */
  readonly ownStatus: string | null
  readonly setOwnStatus: (name: string | null) => void
  readonly errors: Readonly<Record<string, string>>
  /** When it would start then; null: it stays, or nothing complete is typed. */
  readonly newStartAt: number | null
  readonly considered: Considered
  readonly press: () => void
  readonly isPending: boolean
  readonly problem: ApiProblem | null
}

function presentTimes({ booking, placeZone }: BookingView): Times {
  const zone = realZones.zone(placeZone)
  const start = wallAt(zone, booking.startAt)
  const end = wallAt(zone, booking.endAt)
  const time = (msOfDay: number) => timeOfDayOf(Math.floor(msOfDay / minuteMs))
  return { date: isoDateOf(start.day), start: time(start.msOfDay), end: time(end.msOfDay) }
}

/** The statuses of the business's own that a booking may get next; null: only what its present one means. */
export function statusesToGive({ booking, ownStatuses }: BookingView): readonly (string | null)[] {
  const next = ownStatuses.filter((one) => one.name !== booking.own.status && mayFollow(one, booking))
  const plain = booking.own.status === null ? [] : [null]
  return [...next.map(({ name }) => name), ...plain]
}

/** The commands, each with what was seen before it. */
function useActs(onDone: () => void) {
  return {
    move: useTell('moveBooking', onDone),
    cancel: useTell('cancelBooking', onDone),
    miss: useTell('missBooking', onDone),
    complete: useTell('completeBooking', onDone),
    confirm: useTell('confirmBooking', onDone),
    settle: useTell('settleBooking', onDone),
    status: useTell('giveOwnStatus', onDone),
  }
}

/** What an act is asked about and done with; null: its times are not complete. */
function bodyOf(
  doing: BookingDoing | null,
  revision: number,
  times: MoveBookingInput | null,
  status: string | null,
) {
  if (doing === 'move') return times && { revision, times }
  return doing === 'status' ? { revision, status } : { revision }
}

/** An act on a booking as a state of its page: considered, with what it would do, then done at one press or left. */
export function useConsidering(view: BookingView): Considering {
  const [doing, setDoing] = useState<BookingDoing | null>(null)
  const [times, setTimes] = useState(presentTimes(view))
  const [errors, setErrors] = useState<Readonly<Record<string, string>>>({})
  const [ownStatus, setOwnStatus] = useState<string | null>(null)
  const close = () => setDoing(null)
  const acts = useActs(close)
  const client = useQueryClient()
  const { id, revision } = view.booking
  const local = localTimes(times)
  const body = bodyOf(doing, revision, local, ownStatus)
  const considered = useConsidered(
    commandOf[doing ?? 'move'],
    doing === null || body === null ? null : { parameters: { id }, body },
  )
  const onError = (problem: ApiProblem) => {
    setErrors(fieldErrors(problem, 'times'))
    // What it is now, and what the act would do to that, stand in its place.
    if (problem.details.code === 'changed meanwhile') void client.invalidateQueries()
  }
  const press = () => {
    const parameters = { id }
    if (doing === 'move') {
      if (local)
        acts.move.mutate({ parameters, body: { revision, times: local, ...considered.seen } }, { onError })
      else setErrors({ startLocal: 'Give a date, a start and an end.' })
    } else if (doing === 'status') {
      acts.status.mutate(
        { parameters, body: { revision, status: ownStatus, ...considered.seen } },
        { onError },
      )
    } else if (doing !== null)
      acts[doing].mutate({ parameters, body: { revision, ...considered.seen } }, { onError })
  }
  const startLocal = doing === 'move' ? local?.startLocal : undefined
  return {
    doing,
    begin: (next) => {
      setTimes(presentTimes(view))
      setOwnStatus(statusesToGive(view)[0] ?? null)
      setErrors({})
      setDoing(next)
    },
    close,
    times,
    setTimes: (next) => {
      setTimes(next)
      setErrors({})
    },
    ownStatus,
    setOwnStatus,
    errors,
    newStartAt: startLocal === undefined ? null : instantOfLocal(realZones.zone(view.placeZone), startLocal),
    considered,
    press,
    isPending: doing !== null && acts[doing].isPending,
    problem: doing === null ? null : (acts[doing].error ?? considered.problem),
  }
}
