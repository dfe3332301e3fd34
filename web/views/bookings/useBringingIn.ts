import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { bringInEntry, type CalendarLook } from '#core/api/calendarEndpoints.ts'
import { ApiProblem, call } from '../../app/api.ts'

interface Refused {
  readonly key: string
  readonly name: string
  readonly sentence: string
}

/** Entries of a calendar on their way to becoming bookings. */
export interface BringingIn {
  /** How many are to be brought in; 0: it has not begun. */
  readonly total: number
  readonly done: number
  readonly refused: readonly Refused[]
  readonly isUnderWay: boolean
  readonly problem: ApiProblem | null
  readonly begin: (entries: readonly CalendarLook[]) => void
  readonly stop: () => void
}

/** So many go at once: others are served between. */
const atOnce = 20

const nothing = { total: 0, done: 0, refused: [] as readonly Refused[], isUnderWay: false, problem: null }

/**
 * Brings entries in, a few at a time, until all are or somebody stops it. What was done stays done: the same file can
 * be chosen again, and goes on with what is left.
 */
export function useBringingIn(): BringingIn {
  const client = useQueryClient()
  const isStopped = useRef(false)
  const [state, setState] = useState<Omit<BringingIn, 'begin' | 'stop'>>(nothing)
  const bring = async (entries: readonly CalendarLook[]) => {
    let [done, refused]: [number, readonly Refused[]] = [0, []]
    const total = entries.length
    try {
      for (let from = 0; from < total && !isStopped.current; from += atOnce) {
        const some = entries.slice(from, from + atOnce).map((one) => bringInEntry.strip().parse(one))
        const answer = await call('bringIn', { body: { commandId: crypto.randomUUID(), entries: some } })
        done += answer.done
        refused = [...refused, ...answer.refused]
        setState({ total, done, refused, isUnderWay: true, problem: null })
      }
      setState({ total, done, refused, isUnderWay: false, problem: null })
    } catch (fault) {
      if (!(fault instanceof ApiProblem)) throw fault
      setState({ total, done, refused, isUnderWay: false, problem: fault })
    }
    void client.invalidateQueries()
  }
  return {
    ...state,
    begin: (entries) => {
      isStopped.current = false
      setState({ ...nothing, total: entries.length, isUnderWay: true })
      void bring(entries)
    },
    stop: () => {
      isStopped.current = true
    },
  }
}
