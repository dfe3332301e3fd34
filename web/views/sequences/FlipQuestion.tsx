import { Button, Group } from '@mantine/core'
import type { Flip } from '#core/sequences/editing.ts'
import { sentenceOf, sentenceText, type StepNames } from '#core/sequences/sentence.ts'
import styles from './sequences.module.css'

interface FlipQuestionProps {
  readonly flip: Flip
  readonly names: StepNames
  readonly onAccept: () => void
  readonly onLeave: () => void
}

/** A step is about to go over day 0: what that changes, before it does. */
export function FlipQuestion({ flip, names, onAccept, onLeave }: FlipQuestionProps) {
  return (
    <section className={styles.flip} role="alertdialog" aria-label="Over day 0">
      <p>
        <b>Over day 0?</b> {flip.changes.join(' ')}
      </p>
      <p className={styles.note}>{sentenceText(sentenceOf(flip.step, names))}</p>
      <Group gap="xs">
        <Button size="compact-md" onClick={onAccept} autoFocus>
          Move it over
        </Button>
        <Button size="compact-md" variant="default" onClick={onLeave}>
          Leave it on its side
        </Button>
      </Group>
    </section>
  )
}
