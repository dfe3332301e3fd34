import { PasswordInput } from '@mantine/core'
import type { ApiProblem } from '../app/api.ts'
import { fieldErrors } from './fieldErrors.ts'

interface PresentPasswordProps {
  readonly value: string
  readonly onChange: (present: string) => void
  /** What was refused last; its part about the password stands beside the field. */
  readonly problem: ApiProblem | null
}

/** Proof that it is the person themselves who asks. */
export function PresentPassword({ value, onChange, problem }: PresentPasswordProps) {
  return (
    <PasswordInput
      label="Your password"
      autoComplete="current-password"
      value={value}
      error={problem ? fieldErrors(problem)['present'] : undefined}
      onChange={(event) => onChange(event.currentTarget.value)}
    />
  )
}
