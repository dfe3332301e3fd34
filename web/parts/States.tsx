import { Button, Loader } from '@mantine/core'
import { looking } from '../app/theme.ts'
import type { ReactNode } from 'react'
import type { ApiProblem } from '../app/api.ts'
import styles from './States.module.css'

/** Something is being fetched. Shown only after a moment, so that quick answers do not flicker. */
export function Waiting() {
  return (
    <div className={styles.waiting} role="status" aria-label="Loading">
      <Loader type="dots" />
    </div>
  )
}

/** Something could not be fetched: what went wrong and the way to try again. */
export function ErrorState({ problem, onAgain }: { problem: ApiProblem; onAgain: () => void }) {
  return (
    <div className={styles.state} role="alert">
      <strong>✕ {problem.details.title}</strong>
      <p>{problem.details.detail}</p>
      <Button {...looking} variant="default" onClick={onAgain}>
        Try again
      </Button>
    </div>
  )
}

/** A list without entries: what it means and what to do first. */
export function EmptyState({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className={styles.state}>
      <strong>{title}</strong>
      {children}
    </div>
  )
}
