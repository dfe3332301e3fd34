import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { PreviewSubject, PreviewView } from '#core/api/sequenceEndpoints.ts'
import type { SequenceDesign } from '#core/engine/consequences/rollout.ts'
import type { HardCase } from '#core/rehearsal/hardCases.ts'
import { call, type ApiProblem } from '../../app/api.ts'
import { useAsk } from '../../app/queries.ts'

/** How soon after a change the preview is asked for, in milliseconds. */
const askAfterMs = 70

export interface Previewing {
  readonly subjects: readonly PreviewSubject[]
  readonly chosen: PreviewSubject | null
  readonly choose: (id: string) => void
  readonly hardCase: HardCase
  readonly setHardCase: (hardCase: HardCase) => void
  readonly view: PreviewView | null
  readonly problem: ApiProblem | null
  readonly isBehind: boolean
}

/** What a design makes of somebody real, following every change. */
export function usePreview(sequenceId: string, design: SequenceDesign): Previewing {
  const { on, serviceIds } = design.start
  const asked = useAsk('previewSubjects', { query: { on } })
  const [chosenId, choose] = useState<string | null>(null)
  const [hardCase, setHardCase] = useState<HardCase>('as it is')
  const subjects = (asked.data?.subjects ?? []).filter(
    ({ serviceId }) => serviceIds.length === 0 || serviceId === null || serviceIds.includes(serviceId),
  )
  const chosen = subjects.find(({ subject }) => subject.id === chosenId) ?? subjects[0] ?? null
  const ask = chosen && { design, subject: chosen.subject, hardCase }
  const [settled] = useDebouncedValue(ask, askAfterMs)
  const preview = useQuery<PreviewView, ApiProblem>({
    queryKey: ['previewSequence', sequenceId, settled],
    queryFn: () => {
      if (settled === null) throw new Error('There is nobody to look at it with')
      return call('previewSequence', { parameters: { id: sequenceId }, body: settled })
    },
    enabled: settled !== null,
    placeholderData: keepPreviousData,
    retry: false,
  })
  return {
    subjects,
    chosen,
    choose,
    hardCase,
    setHardCase,
    view: chosen === null ? null : (preview.data ?? null),
    problem: preview.error,
    isBehind: preview.isPlaceholderData,
  }
}
