import { Select } from '@mantine/core'
import type { Candidate } from '#core/api/letterEndpoints.ts'

interface CandidateSelectProps {
  readonly label: string
  readonly candidates: readonly Candidate[]
  readonly chosen: Candidate | null
  readonly onChoose: (candidate: Candidate) => void
}

/** Chooses a client to look at a letter with; hard cases say why they are. */
export function CandidateSelect({ label, candidates, chosen, onChoose }: CandidateSelectProps) {
  return (
    <Select
      label={label}
      searchable
      allowDeselect={false}
      nothingFoundMessage="No client of that name"
      data={candidates.map(({ clientId, label: name, why }) => ({
        value: clientId,
        label: why === '' ? name : `${name} · ${why}`,
      }))}
      value={chosen?.clientId ?? null}
      onChange={(id) => {
        const found = candidates.find(({ clientId }) => clientId === id)
        if (found) onChoose(found)
      }}
    />
  )
}
