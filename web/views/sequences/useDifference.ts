import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import type { RolloutView } from '#core/api/sequenceEndpoints.ts'
import type { Rollout, SequenceDesign } from '#core/engine/consequences/rollout.ts'
import { ApiProblem, call } from '../../app/api.ts'

const askEveryMs = 150

export interface Difference {
  readonly done: number
  readonly total: number
  readonly result: RolloutView | null
  readonly problem: string | null
}

const begun: Difference = { done: 0, total: 0, result: null, problem: null }

/** What a design put into effect would change, worked out by the server beside everything else; `round` asks anew. */
export function useDifference(
  sequenceId: string,
  design: SequenceDesign,
  rollout: Rollout,
  round: number,
): Difference {
  const [jobId, setJobId] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const asked = JSON.stringify({ design, rollout, round })
  useEffect(() => {
    let isGone = false
    let started: string | null = null
    setJobId(null)
    setProblem(null)
    const giveUp = (id: string) => {
      call('endDifference', { parameters: { id } }).catch(() => undefined)
    }
    const { design: what, rollout: whom } = JSON.parse(asked) as { design: SequenceDesign; rollout: Rollout }
    call('startDifference', { parameters: { id: sequenceId }, body: { design: what, rollout: whom } }).then(
      (answer) => {
        started = answer.jobId
        if (isGone) giveUp(answer.jobId)
        else setJobId(answer.jobId)
      },
      (fault: unknown) => setProblem(fault instanceof ApiProblem ? fault.details.detail : String(fault)),
    )
    return () => {
      isGone = true
      if (started !== null) giveUp(started)
    }
  }, [sequenceId, asked])
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
