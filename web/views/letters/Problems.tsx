import { Button } from '@mantine/core'
import type { Fix, LetterProblem } from '#core/letters/problems.ts'
import styles from './letters.module.css'

const places: Readonly<Record<string, string>> = {
  subject: 'Subject',
  preheader: 'Preheader',
  letter: 'Letter',
}

/** What should be seen to before the letter goes: where, why, and a fix at one press where there is one. */
export function Problems({
  problems,
  onFix,
}: {
  problems: readonly LetterProblem[]
  onFix: (problem: LetterProblem, fix: Fix) => void
}) {
  if (problems.length === 0) return <p className={styles.sent}>✓ No problems.</p>
  return (
    <ul className={styles.problems}>
      {problems.map((problem, index) => (
        <li key={`${problem.code}-${problem.about}-${index}`}>
          <p>
            <b>{problem.about || problem.code}</b>{' '}
            <span className={styles.fieldValue}>{places[problem.place.in] ?? 'Body'}</span>
          </p>
          <p>{problem.why}</p>
          {problem.fixes.map(({ label, does }) => (
            <Button key={label} variant="default" size="compact-sm" onClick={() => onFix(problem, does)}>
              {label}
            </Button>
          ))}
        </li>
      ))}
    </ul>
  )
}
