import { useDebouncedValue } from '@mantine/hooks'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Announcement, Caution, ConsequenceOfClient, RefusedLine } from '#core/api/announcements.ts'
import { consider, type ApiProblem, type CommandArguments, type CommandName } from '../app/api.ts'

export interface Considered {
  /** Null: it is not known yet. */
  readonly lines: readonly ConsequenceOfClient[] | null
  /** Changes and clients beyond those listed. */
  readonly beyond: { readonly more: number; readonly uncounted: number }
  /** What of many things it would not be done with. */
  readonly refused: readonly RefusedLine[]
  /** What a person should know about the times it gives to bookings. */
  readonly cautions: readonly Caution[]
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

const nothingBeyond = { more: 0, uncounted: 0 }

/** What a command that is being considered would do, following every change of it. `asked` null: nothing complete yet. */
export function useConsidered<Name extends CommandName>(
  name: Name,
  asked: CommandArguments<Name> | null,
): Considered {
  // By its text: callers make the arguments anew with each drawing, and each would start the waiting anew.
  const text = JSON.stringify(asked)
  const [settledText] = useDebouncedValue(text, 150)
  const settled = JSON.parse(settledText) as CommandArguments<Name> | null
  const [holdBack, setHoldBack] = useState<readonly string[]>([])
  const { data, error, isPlaceholderData, refetch } = useQuery<Announcement, ApiProblem>({
    queryKey: ['consequences', name, settledText],
    queryFn: () => consider(name, settled as CommandArguments<Name>),
    enabled: settled !== null,
    placeholderData: keepPreviousData,
    gcTime: 0,
    staleTime: 0,
    retry: false,
  })
  const lines = data?.consequences ?? null
  const held = holdBack.filter((one) => lines?.some((line) => line.name === one))
  return {
    lines: settled === null || error ? null : lines,
    beyond: data ?? nothingBeyond,
    refused: settled === null || error ? [] : (data?.refused ?? []),
    cautions: settled === null || error ? [] : (data?.cautions ?? []),
    problem: error,
    holdBack: held,
    setHoldBack,
    seen: { announcementId: data?.announcementId ?? null, holdBack: [...held] },
    isCurrent: data !== undefined && !isPlaceholderData && settledText === text,
    again: () => void refetch(),
  }
}
