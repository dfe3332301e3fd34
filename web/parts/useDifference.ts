import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import type { RolloutView } from '#core/api/sequenceEndpoints.ts'
import { ApiProblem, call } from '../app/api.ts'

const askEveryMs = 150

export interface Difference {
  readonly done: number
  readonly total: number
  readonly result: RolloutView | null
  readonly problem: string | null
}

const begun: Difference = { done: 0, total: 0, result: null, problem: null }

/**
 * What something put into effect would change for everybody, worked out by the server beside everything else. `start`
 * begins that; it is begun anew where `asked`, which names what is asked, is another.
 */
export function useDifference(start: () => Promise<{ jobId: string }>, asked: string): Difference {
  const [jobId, setJobId] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const starts = useRef(start)
  starts.current = start
  useEffect(() => {
    let isGone = false
    let started: string | null = null
    setJobId(null)
    setProblem(null)
    const giveUp = (id: string) => {
      call('endDifference', { parameters: { id } }).catch(() => undefined)
    }
    starts.current().then(
      (answer) => {
        started = answer.jobId
        if (isGone) giveUp(answer.jobId)
        else setJobId(answer.jobId)
      },
      (fault: unknown) => {
        if (!isGone) setProblem(fault instanceof ApiProblem ? fault.details.detail : String(fault))
      },
    )
    return () => {
      isGone = true
      if (started !== null) giveUp(started)
    }
  }, [asked])
  const { data } = useQuery({
    queryKey: ['difference', jobId],
    queryFn: () => call('difference', { parameters: { id: jobId ?? '' } }),
    enabled: jobId !== null,
    refetchInterval: ({ state }) =>
      state.data?.result != null || state.data?.problem != null ? false : askEveryMs,
    staleTime: Infinity,
  })
  if (problem !== null) return { ...begun, problem }
  return jobId === null ? begun : (data ?? begun)
}
