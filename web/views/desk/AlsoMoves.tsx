import type { ConsequenceOfClient, DecideLine } from '#core/api/views.ts'
import { changeWords } from '../../parts/changeWords.ts'
import { useConsidered } from '../../parts/useConsidered.ts'
import { When } from '../../parts/When.tsx'
import styles from './Desk.module.css'

function Others({ word, lines }: { word: string; lines: readonly ConsequenceOfClient[] }) {
  if (lines.length === 0) return null
  return (
    <li>
      <b>{word}</b> also:{' '}
      {lines.map((line, index) => (
        <span key={`${line.kind}${line.name}`}>
          {index > 0 && '; '}
          {line.letterName} {changeWords[line.kind]}
          {line.afterAt !== null && (
            <>
              {' '}
              <When at={line.afterAt} />
            </>
          )}
        </span>
      ))}
    </li>
  )
}

/** What a decision would do to other messages than the one it is about; nothing stands there where it does nothing. */
export function AlsoMoves({ send }: { send: DecideLine }) {
  const parameters = { id: send.id }
  const skip = useConsidered('decideSend', { parameters, body: { decision: 'skip' } })
  const now = useConsidered('decideSend', { parameters, body: { decision: 'send now' } })
  const stop = useConsidered('stopSequence', {
    parameters: { id: send.clientId },
    body: { sequenceId: send.sequenceId },
  })
  const others = (lines: readonly ConsequenceOfClient[] | null) =>
    (lines ?? []).filter(({ letterName }) => letterName !== send.letterName)
  return (
    <ul className={styles.also} aria-label="What else it would do">
      <Others word="Send now" lines={others(now.lines)} />
      <Others word="Skip" lines={others(skip.lines)} />
      <Others word="Stop" lines={others(stop.lines)} />
    </ul>
  )
}
