import { Button } from '@mantine/core'
import { useEffect, useRef } from 'react'
import type { Answer, CommandArguments, CommandName, Of } from '../app/api.ts'
import { useTell, type Telling } from '../app/queries.ts'
import { Consequences } from './Consequences.tsx'
import styles from './Consequences.module.css'
import { Problem } from './Problem.tsx'
import { useConsidered } from './useConsidered.ts'

interface ConsideredActProps<Name extends CommandName> {
  readonly name: Name
  /** Null: it is not whole yet, such as a form that is being filled in. */
  readonly asked: CommandArguments<Name> | null
  /** What the press does, as its words. */
  readonly word: string
  readonly color?: 'brick' | 'aubergine'
  readonly leave?: string
  /** Whether the press is at hand at once; not where one goes on filling in what it is about. */
  readonly takesFocus?: boolean
  readonly onClose: () => void
  /** Once it is done; else it is closed. */
  readonly onDone?: (answer: Answer<Of<Name>>) => void
}

/** An act that shows first what it does, and does just that at one press. */
export function ConsideredAct<Name extends CommandName>(props: ConsideredActProps<Name>) {
  const { name, asked, word, color = 'aubergine', leave = 'Cancel', takesFocus = true } = props
  const { onClose, onDone = onClose } = props
  const considered = useConsidered(name, asked)
  const tell = useTell(name, onDone)
  const first = useRef<HTMLButtonElement>(null)
  const { isCurrent, seen } = considered
  useEffect(() => {
    if (isCurrent && takesFocus) first.current?.focus({ preventScroll: true })
  }, [isCurrent, takesFocus])
  const press = () => {
    if (asked === null) return
    const body = { ...asked.body, ...seen }
    tell.mutate({ ...asked, body } as unknown as Telling<Name>, {
      onError: (problem) => {
        if (problem.details.code === 'changed meanwhile') considered.again()
      },
    })
  }
  return (
    <div className={styles.act} role="group" aria-label={word}>
      {asked !== null && <Consequences considered={considered} />}
      <Problem of={tell.error ?? considered.problem} />
      <div className={styles.buttons}>
        <Button
          ref={first}
          size="compact-md"
          color={color}
          disabled={!isCurrent}
          loading={tell.isPending}
          onClick={press}
        >
          {word}
        </Button>
        <Button size="compact-md" variant="default" onClick={onClose}>
          {leave}
        </Button>
      </div>
    </div>
  )
}
