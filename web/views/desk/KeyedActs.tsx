import { Button } from '@mantine/core'
import { useHotkeys } from '@mantine/hooks'
import styles from './Desk.module.css'

export interface KeyedAct {
  readonly key: string
  readonly word: string
  readonly act: () => void
}

interface KeyedActsProps {
  /** The first is the one that is meant to be taken. */
  readonly acts: readonly KeyedAct[]
  /** Which keys count at present, while nothing is being typed; without it, all. */
  readonly keys?: readonly string[] | undefined
  readonly hasMain?: boolean
}

/** What can be done, each by a key of its own. */
export function KeyedActs({ acts, keys, hasMain = true }: KeyedActsProps) {
  useHotkeys(acts.filter(({ key }) => keys?.includes(key) ?? true).map(({ key, act }) => [key, act]))
  return (
    <div className={styles.acts}>
      {acts.map(({ key, word, act }, index) => (
        <Button
          key={key}
          px="sm"
          variant={hasMain && index === 0 ? 'filled' : 'default'}
          onClick={act}
          aria-keyshortcuts={key}
        >
          {word}&nbsp;<kbd className={styles.key}>{key}</kbd>
        </Button>
      ))}
    </div>
  )
}
