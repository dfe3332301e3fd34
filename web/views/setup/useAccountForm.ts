import { useState } from 'react'
import type { ApiProblem } from '../../app/api.ts'
import { fieldErrors } from '../../parts/fieldErrors.ts'

type Errors = Readonly<Record<string, string>>

/** What is told to the server, and what it refused. */
interface Told {
  readonly error: ApiProblem | null
  readonly reset: () => void
}

interface OnError {
  readonly onError: (problem: ApiProblem) => void
}

interface AccountForm<Draft, Input> {
  readonly first: () => Draft
  /** What is typed as the server takes it, or what is wrong with it by field. */
  readonly read: (draft: Draft) => { readonly input: Input } | { readonly errors: Errors }
  /** The part of the body the form is about: its fields' faults are named by it. */
  readonly part: string
  readonly told: readonly Told[]
  readonly onTry: (input: Input, refused: OnError) => void
  readonly onKeep: (input: Input, refused: OnError) => void
}

/** The server's own words by field: those of the account within lie one deeper. */
const accountErrors = (errors: Errors): Errors =>
  Object.fromEntries(Object.entries(errors).map(([path, detail]) => [path.replace(/^account\./, ''), detail]))

/** The form of a mail account or a mailbox: typed, tried, kept. */
export function useAccountForm<Draft, Input>(form: AccountForm<Draft, Input>) {
  const { first, read, part, told, onTry, onKeep } = form
  const [draft, setDraft] = useState(first)
  const [errors, setErrors] = useState<Errors>({})
  const onError = (problem: ApiProblem) => setErrors(accountErrors(fieldErrors(problem, part)))
  const asked = (act: AccountForm<Draft, Input>['onTry']) => {
    const found = read(draft)
    if ('errors' in found) setErrors(found.errors)
    else act(found.input, { onError })
  }
  return {
    draft,
    errors,
    problem: told.map(({ error }) => error).find((error) => error !== null) ?? null,
    set: (changed: Partial<Draft>) => {
      setDraft({ ...draft, ...changed })
      setErrors({})
      for (const one of told) one.reset()
    },
    tryIt: () => asked(onTry),
    keep: () => asked(onKeep),
  }
}
