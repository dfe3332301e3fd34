import type { Announcement, ConsequenceOfClient } from '#core/api/announcements.ts'
import { isOff } from '#core/planning/changeKind.ts'
import { changeWords } from '../../parts/changeWords.ts'
import { othersThan } from '../../parts/others.ts'
import { When } from '../../parts/When.tsx'
import styles from './Desk.module.css'

function Other({ line }: { line: ConsequenceOfClient }) {
  const { kind, letterName, afterAt, reason } = line
  return (
    <>
      {letterName} {changeWords[kind]}
      {afterAt !== null && (
        <>
          {' '}
          <When at={afterAt} />
        </>
      )}
      {isOff(kind) && reason !== null && `: ${reason}`}
    </>
  )
}

interface AlsoMovesProps {
  /** The messages the actions are about, which speak for themselves. */
  readonly sendIds: readonly string[]
  /** The words of each action, and what it would do as far as that is known. */
  readonly actions: readonly (readonly [word: string, foretold: Announcement | undefined])[]
}

/** What actions would do to other messages than those they are about; nothing stands there where they do nothing. */
export function AlsoMoves({ sendIds, actions }: AlsoMovesProps) {
  return (
    <ul className={styles.also} aria-label="What else it would do">
      {actions.map(([word, foretold]) => {
        const others = othersThan(sendIds, foretold?.consequences ?? [])
        return (
          others.length > 0 && (
            <li key={word}>
              <b>{word}</b> also:{' '}
              {others.map((line, index) => (
                <span key={`${line.kind}${line.name}`}>
                  {index > 0 && '; '}
                  <Other line={line} />
                </span>
              ))}
            </li>
          )
        )
      })}
    </ul>
  )
}
