import type { ApiProblem } from '../app/api.ts'
import styles from './Problem.module.css'

/** What the server refused, in its own words, beside the act that was refused. */
export function Problem({ of }: { of: ApiProblem | null }) {
  if (!of) return null
  return (
    <p className={styles.problem} role="alert">
      ✕ {of.details.detail}
    </p>
  )
}
