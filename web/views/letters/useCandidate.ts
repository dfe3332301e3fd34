import { useState } from 'react'
import type { Candidate } from '#core/api/letterEndpoints.ts'
import { useAsk } from '../../app/queries.ts'
import { hydrated } from './hydrate.ts'

/** Whom a letter is looked at with, and their facts. */
export function useCandidate(letterId: string | null = null) {
  const asked = useAsk('letterCandidates')
  const candidates = asked.data?.candidates ?? []
  const [wanted, setWanted] = useState<Candidate | null>(null)
  const usual = candidates.find(({ bookingId, why }) => bookingId !== null && why === '')
  const chosen = wanted ?? usual ?? candidates[0] ?? null
  const facts = useAsk(
    'letterFacts',
    {
      query: {
        clientId: chosen?.clientId ?? '',
        ...(letterId === null ? {} : { letterId }),
        ...(chosen?.bookingId == null ? {} : { bookingId: chosen.bookingId }),
      },
    },
    { enabled: chosen !== null, placeholderData: (before) => before },
  )
  return {
    candidates,
    chosen,
    choose: setWanted,
    facts: facts.data ? hydrated(facts.data.facts) : null,
    goesAt: facts.data?.goesAt ?? null,
  }
}
