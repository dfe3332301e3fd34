import type { TriedStep } from '#core/model/mailAccount.ts'
import styles from './setup.module.css'

const stepWords: Readonly<Record<TriedStep['step'], string>> = {
  reach: 'The server is reached',
  secure: 'The line is safe',
  'sign in': 'Signed in',
  sender: 'The sender is taken',
  copy: 'A copy to you',
  folder: 'The folder is opened',
}

const marks: Readonly<Record<TriedStep['outcome'], string>> = {
  done: '✓',
  failed: '✕',
  'not needed': '–',
  'not tried': '–',
}

const outcomeWords: Readonly<Record<TriedStep['outcome'], string>> = {
  done: '',
  failed: '',
  'not needed': 'Not needed here.',
  'not tried': 'Not tried.',
}

interface TriedStepsProps {
  /** Null: nothing was tried. */
  readonly steps: readonly TriedStep[] | null
  readonly isTrying: boolean
  /** Where a copy goes; null: none does. */
  readonly to: string | null
}

/** What became of a mail account that was tried, step by step, in plain words and in the server's own. */
export function TriedSteps({ steps, isTrying, to }: TriedStepsProps) {
  return (
    <div role="status" aria-label="What the server said">
      {isTrying && <p>{to === null ? 'Trying it …' : `Trying it, with a copy to ${to} …`}</p>}
      {steps && (
        <ol className={styles.tried}>
          {steps.map(({ step, outcome, sentence, answer }) => (
            <li key={step} data-outcome={outcome}>
              <b>
                {marks[outcome]} {stepWords[step]}
              </b>
              <span>
                {sentence || outcomeWords[outcome]}
                {outcome === 'failed' && answer !== '' && (
                  <>
                    {' '}
                    It says: <q>{answer}</q>
                  </>
                )}
              </span>
            </li>
          ))}
        </ol>
      )}
    </div>
  )
}
