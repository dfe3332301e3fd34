import { Button } from '@mantine/core'
import { useState, type ReactNode } from 'react'
import type { ApiProblem } from '../../app/api.ts'
import { Problem } from '../../parts/Problem.tsx'
import table from '../../parts/timetable.module.css'

interface TakeAwayProps {
  /** What follows from it. */
  readonly children: ReactNode
  /** What is taken away. */
  readonly what?: string
  readonly isPending: boolean
  readonly error: ApiProblem | null
  readonly onTake: () => void
}

/** A mail account or a mailbox is taken away, asked once. */
export function TakeAway({ children, what = 'account', isPending, error, onTake }: TakeAwayProps) {
  const [isAsking, setAsking] = useState(false)
  if (!isAsking) {
    return (
      <Button variant="subtle" onClick={() => setAsking(true)}>
        Take it away…
      </Button>
    )
  }
  return (
    <div>
      <p>{children}</p>
      <Problem of={error} />
      <div className={table.acts}>
        <Button color="brick" loading={isPending} onClick={onTake}>
          Take the {what} away
        </Button>
        <Button variant="default" onClick={() => setAsking(false)}>
          Leave it
        </Button>
      </div>
    </div>
  )
}
