import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Consequence } from '#core/api/views.ts'
import { call, type ApiProblem, type CallArguments, type Of } from '../app/api.ts'
import { useBusiness } from '../app/business.ts'

type Names = 'askAboutBooking' | 'askAboutClient'

export interface Considered {
  /** Null: it is not known yet. */
  readonly lines: readonly Consequence[] | null
  readonly problem: ApiProblem | null
  readonly holdBack: readonly string[]
  readonly setHoldBack: (names: readonly string[]) => void
  /** What goes with the act: that this was seen, and what is to wait. */
  readonly seen: { readonly announcementId: string | null; readonly holdBack: string[] }
  /** Whether what stands there is of what is considered now. */
  readonly isCurrent: boolean
  /** Asks anew, after the world has changed. */
  readonly again: () => void
}

/** What an act that is being considered would do, following every change of it. `asked` null: nothing complete yet. */
export function useConsidered<Name extends Names>(
  name: Name,
  id: string,
  asked: NonNullable<CallArguments<Of<Name>>['body']> | null,
): Considered {
  const { now } = useBusiness()
  const [settled] = useDebouncedValue(asked, 150)
  const [holdBack, setHoldBack] = useState<readonly string[]>([])
  const { data, error, isPlaceholderData, refetch } = useQuery<
    { announcementId: string; consequences: readonly Consequence[] },
    ApiProblem
  >({
    queryKey: [name, id, 'consequences', settled, now],
    queryFn: () => call(name, { parameters: { id }, body: settled } as CallArguments<Of<Name>>),
    enabled: settled !== null,
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
  })
  const lines = data?.consequences ?? null
  const held = holdBack.filter((one) => lines?.some((line) => line.name === one))
  return {
    lines: settled === null || error ? null : lines,
    problem: error,
    holdBack: held,
    setHoldBack,
    seen: { announcementId: data?.announcementId ?? null, holdBack: [...held] },
    isCurrent: data !== undefined && !isPlaceholderData && JSON.stringify(settled) === JSON.stringify(asked),
    again: () => void refetch(),
  }
}
